#pragma once
// A source made ready for looking and picking.
#include <memory>

#include "app/views/display_mesh.h"
#include "core/io/surface_colour.h"
#include "core/mesh/stand_in.h"
#include "core/spatial/surface_query.h"

namespace veld {

constexpr Index kHeavyFaces = 1'500'000;  // the surface of heavier sources is not kept

// A source made ready for looking and picking; built once per mesh, off the interface thread. Of a
// heavy mesh a light version is shown and asked first; the place that is picked lies on the full one.
struct PreparedSource {
    std::shared_ptr<const Mesh> mesh;     // all of it
    LightMesh light;                      // empty: the mesh itself is shown
    Triangulation triangulation;          // of what is shown
    std::unique_ptr<SurfaceQuery> query;  // of what is shown, in the mesh's own coordinates
    std::shared_ptr<DisplayMesh> display;
    SurfaceColour colour;  // of what is shown

    const Mesh& shown() const { return light.origin.empty() ? *mesh : light.mesh; }
    // kNone in hit.triangle: nothing there
    SurfaceHit first_hit(const Vec3& origin, const Vec3& direction) const;
    // per vertex of the mesh -> per vertex of what is shown
    VertexMask as_shown(const VertexMask& mask) const;
};
std::shared_ptr<PreparedSource> prepare_for_window(std::shared_ptr<const Mesh> mesh);

}  // namespace veld
