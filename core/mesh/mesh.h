#pragma once
// A polygon mesh as flat arrays, in the order of the file that it came from.
//
// Nothing here ever reorders: the vertex, face, corner, UV and group order of a base mesh is a
// contract with every rig, garment and texture that hangs on it.
#include <map>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/base/types.h"

namespace veld {

struct Colour {
    std::uint8_t r = 255, g = 255, b = 255, a = 255;
    bool operator==(const Colour&) const = default;
};

struct Image {
    std::string name;
    std::string mime;                 // image/jpeg or image/png
    std::vector<std::uint8_t> bytes;  // still encoded, exactly as in the file
    bool operator==(const Image&) const = default;
};

struct Material {
    std::string name;
    std::array<double, 3> colour{0.8, 0.8, 0.8};  // linear 0..1
    int image = -1;                               // into Mesh::images, -1: none
    std::string image_path;                       // as written in the file; may be empty
    std::vector<std::pair<int, int>> tiles;       // UDIM number -> into Mesh::images, when image_path names tiles
    bool operator==(const Material&) const = default;
};

// The image a material shows at a UV; -1: none.
int image_of(const Material& material, const Vec2& uv);
// UDIM number of a UV: 1001 + column + 10 * row.
int udim_of(const Vec2& uv);

struct Mesh {
    Points positions;
    std::vector<Index> face_start{0};  // faces + 1 entries into the corner arrays
    std::vector<Index> corner_vertex;  // into positions
    std::vector<Vec2> uvs;             // origin at the lower left
    std::vector<Index> corner_uv;      // empty, or one per corner (kNone: this corner has none)
    std::vector<Vec3> normals;         // as in the file
    std::vector<Index> corner_normal;  // empty, or one per corner
    std::vector<Colour> colours;       // empty, or one per vertex

    std::vector<std::string> group_names;
    std::vector<Index> face_group;  // empty, or one per face (kNone: before any group)
    std::vector<Material> materials;
    std::vector<Index> face_material;  // empty, or one per face
    std::vector<std::string> material_libraries;
    std::vector<Image> images;

    Index vertex_count() const { return static_cast<Index>(positions.size()); }
    Index face_count() const { return static_cast<Index>(face_start.size() - 1); }
    Index face_size(Index face) const { return face_start[face + 1] - face_start[face]; }
};

// The same mesh with every UDIM tile in use as a material of its own ("skin.1002"): what displays and
// glTF, which know no tiles, can show. Faces belong to the tile of their middle.
Mesh tiles_as_materials(const Mesh& mesh);
bool has_tiles(const Mesh& mesh);

// Fan triangles of every face, in face order; triangle t of face f is (c0, c[t+1], c[t+2]), so the
// split never depends on the shape.
struct Triangulation {
    std::vector<Triangle> triangles;        // vertex indices
    std::vector<Index> triangle_face;       // face of each triangle
    std::vector<Triangle> triangle_corner;  // corner indices, parallel to triangles
};
Triangulation triangulate(const Mesh& mesh);
// Fan triangles of some of its faces.
std::vector<Triangle> face_triangles(const Mesh& mesh, const FaceIndices& faces);

struct Box {
    Vec3 low = Vec3::Constant(std::numeric_limits<double>::infinity());
    Vec3 high = Vec3::Constant(-std::numeric_limits<double>::infinity());
    void add(const Vec3& p) {
        low = low.cwiseMin(p);
        high = high.cwiseMax(p);
    }
    bool empty() const { return !(low.array() <= high.array()).all(); }
    Vec3 size() const { return high - low; }
    Vec3 centre() const { return 0.5 * (low + high); }
};
Box bounding_box(const Points& points);

// Area-weighted, unit length; zero where a vertex has no area around it.
Points vertex_normals(const Points& positions, const std::vector<Triangle>& triangles);

// The same, with vertices that share a place (same_place() in topology.h) sharing their normal: UV seams do not show.
Points seamless_normals(const Points& positions, const std::vector<Triangle>& triangles,
                        const std::vector<Index>& place);

// Checks what every algorithm relies on: indices in range, parallel arrays of the right length,
// finite coordinates, at least one face. `what` names the mesh in the message.
Status check_mesh(const Mesh& mesh, const std::string& what);

}  // namespace veld
