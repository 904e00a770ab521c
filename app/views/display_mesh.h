#pragma once
// A mesh packed for the graphics card. No geometry is computed here; normals come from core.
#include <QColor>
#include <QImage>
#include <map>
#include <vector>

#include "core/kit/kit_surface.h"
#include "core/mesh/corner_split.h"
#include "core/mesh/topology.h"
#include "core/spatial/ground_shadow.h"

namespace veld {

class DisplayMesh {
 public:
    struct Vertex {
        float position[3];
        float normal[3];
        float uv[2];
        std::uint8_t colour[4];   // vertex colour, or the distance colour
        std::uint8_t mark[4];     // selected, ignored, open (0 closed in .. 255), kind: 0 skin, 64 a lash whose
                                  // picture has air, 128 one without, 255 eye
        std::uint16_t strand[2];  // of a lash: along the lid, away from it
    };
    struct Range {
        std::size_t first = 0, count = 0;                    // indices
        std::size_t stand_in_first = 0, stand_in_count = 0;  // into stand_in, when there is one
        int image = -1;                                      // into images
        QColor colour;
    };

    explicit DisplayMesh(const Mesh& mesh);

    // New positions for the same topology (a live fit, a mix).
    void set_positions(const Points& positions);
    // Only these vertices of the mesh moved (a brush): their surroundings are packed again.
    void move_vertices(const Points& positions, const VertexIndices& moved);
    // One new colour for each of these vertices of the mesh.
    void recolour(const std::vector<Index>& which, const std::vector<Colour>& colours);
    // One colour per vertex of the mesh; empty: back to the file's own.
    void set_colours(const std::vector<Colour>& colours);

    // Per vertex of the mesh, each may be empty: what is selected, what a fit ignores.
    void set_marks(const VertexMask& selected, const VertexMask& ignored);

    // How open each vertex of the mesh lies, 0..1; empty: all of it is open.
    void set_openness(const std::vector<float>& open);

    // Per vertex of the mesh: eyes shine, lashes are strands.
    void set_kinds(const SurfaceKinds& kinds);
    // What the mesh throws on the ground it stands on; empty: nothing.
    void set_ground(GroundShadow shadow) { ground = std::move(shadow), ++ground_revision; }

    // Another picture in place of one of the mesh's own.
    void set_image(std::size_t at, const QImage& image) {
        if (at < images.size()) images[at] = image, patches.clear(), ++images_revision;
    }
    // A part of one, from this place of it (from its lower left, as the images are kept: upside down).
    void patch_image(std::size_t at, const QImage& part, const QPoint& place);

    // A tangent-space normal map (x along u, y along v) for what shows that image; a null one: none any more.
    void set_relief(std::size_t at, const QImage& normals);

    bool has_texture() const { return has_texture_; }
    bool has_colours() const { return has_colours_; }
    const Box& box() const { return box_; }

    std::vector<Vertex> vertices;
    std::vector<Index> indices;
    std::vector<Index> stand_in;  // fewer triangles, for drawing while the camera moves; empty for light meshes
    std::vector<Index> edges;     // pairs of vertices: the polygons' own edges, for the wire
    std::vector<Range> ranges;
    std::vector<QImage> images;
    std::map<std::size_t, std::size_t> relief;  // image -> which of them is its normal map
    int revision = 0;                           // grows with every change of the vertices
    int images_revision = 0;                    // and of the pictures
    struct Patch {
        std::size_t image = 0;
        QRect where;
    };
    std::vector<Patch> patches;  // since that revision
    GroundShadow ground;
    int ground_revision = 0;

 private:
    void make_stand_in(const Mesh& mesh);

    std::vector<Index> mesh_vertex_;   // of each packed vertex
    std::vector<Triangle> triangles_;  // of the mesh
    // for move_vertices(), made when it is first called
    Adjacency triangles_of_;
    std::vector<std::vector<Index>> packed_of_;
    Points normals_;            // as last packed
    std::vector<Index> place_;  // vertices at one place share a normal
    std::vector<Colour> file_colours_;
    Box box_;
    bool has_texture_ = false, has_colours_ = false;
};

}  // namespace veld
