#include "app/views/display_mesh.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "core/mesh/local_normals.h"
#include "core/mesh/stand_in.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

void pack(const Vec3& v, float* out) {
    for (int k = 0; k < 3; ++k) out[k] = static_cast<float>(v[k]);
}

constexpr std::size_t kHeavy = 400000;  // triangles above which a stand-in is drawn in motion
constexpr std::size_t kStandInTriangles = 150000;

}  // namespace

void DisplayMesh::make_stand_in(const Mesh& mesh) {
    if (indices.size() < 3 * kHeavy) return;
    Points packed;
    packed.reserve(mesh_vertex_.size());
    for (Index v : mesh_vertex_) packed.push_back(mesh.positions[v]);
    for (Range& range : ranges) {
        std::vector<Triangle> triangles;
        for (std::size_t i = range.first; i < range.first + range.count; i += 3)
            triangles.push_back({indices[i], indices[i + 1], indices[i + 2]});
        const std::size_t share = kStandInTriangles * range.count / indices.size();
        range.stand_in_first = stand_in.size();
        for (const Triangle& t : stand_in_triangles(packed, triangles, share))
            stand_in.insert(stand_in.end(), t.begin(), t.end());
        range.stand_in_count = stand_in.size() - range.stand_in_first;
    }
}

DisplayMesh::DisplayMesh(const Mesh& original) {
    const Mesh tiled = has_tiles(original) ? tiles_as_materials(original) : Mesh();
    const Mesh& mesh = has_tiles(original) ? tiled : original;
    std::vector<Index> first_packed(mesh.positions.size(), kNone);
    for (const MaterialSplit& split : split_by_material(mesh)) {
        const Index first = static_cast<Index>(vertices.size());
        for (std::size_t i = 0; i < split.vertex.size(); ++i) {
            Vertex v{};
            v.uv[0] = static_cast<float>(split.uv[i].x());
            v.uv[1] = static_cast<float>(split.uv[i].y());
            v.mark[2] = 255;
            vertices.push_back(v);
            mesh_vertex_.push_back(split.vertex[i]);
            if (first_packed[split.vertex[i]] == kNone) first_packed[split.vertex[i]] = first + static_cast<Index>(i);
        }
        Range range;
        range.first = indices.size();
        for (const Triangle& t : split.triangles) {
            for (Index v : t) indices.push_back(first + v);
        }
        range.count = indices.size() - range.first;
        const Material* material = split.material == kNone ? nullptr : &mesh.materials[split.material];
        range.image = material ? material->image : -1;
        range.colour = material ? QColor::fromRgbF(static_cast<float>(std::clamp(material->colour[0], 0.0, 1.0)),
                                                   static_cast<float>(std::clamp(material->colour[1], 0.0, 1.0)),
                                                   static_cast<float>(std::clamp(material->colour[2], 0.0, 1.0)))
                                : QColor(200, 200, 200);
        ranges.push_back(range);
        has_texture_ |= range.image >= 0;
    }
    for (const Image& image : mesh.images) {
        images.push_back(QImage::fromData(image.bytes.data(), static_cast<int>(image.bytes.size()))
                             .convertToFormat(QImage::Format_RGBA8888)
                             .mirrored());
    }
    for (Range& range : ranges) {
        if (range.image >= 0 && images[static_cast<std::size_t>(range.image)].isNull()) range.image = -1;
    }
    make_stand_in(mesh);
    std::vector<std::pair<Index, Index>> pairs;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Index size = mesh.face_size(f), start = mesh.face_start[f];
        for (Index k = 0; k < size; ++k) {
            const Index a = first_packed[mesh.corner_vertex[start + k]],
                        b = first_packed[mesh.corner_vertex[start + (k + 1) % size]];
            pairs.emplace_back(std::min(a, b), std::max(a, b));
        }
    }
    std::sort(pairs.begin(), pairs.end());
    pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
    for (const auto& [a, b] : pairs) edges.insert(edges.end(), {a, b});
    triangles_ = triangulate(mesh).triangles;
    place_ = same_place(mesh.positions);
    file_colours_ = mesh.colours;
    set_colours({});
    set_positions(mesh.positions);
}

void DisplayMesh::set_positions(const Points& positions) {
    Points normals = seamless_normals(positions, triangles_, place_);
    for (std::size_t i = 0; i < vertices.size(); ++i) {
        pack(positions[mesh_vertex_[i]], vertices[i].position);
        pack(normals[mesh_vertex_[i]], vertices[i].normal);
    }
    if (!packed_of_.empty()) normals_ = std::move(normals);
    box_ = bounding_box(positions);
    ++revision;
}

void DisplayMesh::move_vertices(const Points& positions, const VertexIndices& moved) {
    if (packed_of_.empty()) {
        packed_of_.resize(positions.size());
        for (Index i = 0; i < mesh_vertex_.size(); ++i) packed_of_[mesh_vertex_[i]].push_back(i);
        triangles_of_ = vertex_triangles(triangles_, static_cast<Index>(positions.size()));
        normals_ = seamless_normals(positions, triangles_, place_);
    }
    for (const Index v : renew_normals(positions, triangles_, triangles_of_, moved, normals_)) {
        for (const Index i : packed_of_[v]) {
            pack(positions[v], vertices[i].position);
            pack(normals_[v], vertices[i].normal);
        }
    }
    ++revision;
}

void DisplayMesh::recolour(const std::vector<Index>& which, const std::vector<Colour>& colours) {
    if (packed_of_.empty()) return;  // nothing moved yet
    for (std::size_t k = 0; k < which.size(); ++k) {
        const Colour c = colours[k];
        for (const Index i : packed_of_[which[k]])
            vertices[i].colour[0] = c.r, vertices[i].colour[1] = c.g, vertices[i].colour[2] = c.b;
    }
    ++revision;
}

void DisplayMesh::set_marks(const VertexMask& selected, const VertexMask& ignored) {
    for (std::size_t i = 0; i < vertices.size(); ++i) {
        vertices[i].mark[0] = !selected.empty() && selected[mesh_vertex_[i]] ? 255 : 0;
        vertices[i].mark[1] = !ignored.empty() && ignored[mesh_vertex_[i]] ? 255 : 0;
    }
    ++revision;
}

// Strands are drawn where the lash's own picture does not say what is hair and what is air.
void DisplayMesh::set_kinds(const SurfaceKinds& kinds) {
    std::vector<bool> has_air(vertices.size(), false);
    for (const Range& range : ranges) {
        if (range.image < 0 || !images[static_cast<std::size_t>(range.image)].hasAlphaChannel()) continue;
        const QImage& image = images[static_cast<std::size_t>(range.image)];
        bool air = false;
        for (int y = 0; y < image.height() && !air; y += 4)
            for (int x = 0; x < image.width() && !air; x += 4) air = qAlpha(image.pixel(x, y)) < 200;
        for (std::size_t i = range.first; air && i < range.first + range.count; ++i) has_air[indices[i]] = true;
    }
    const auto word = [](float v) {
        return static_cast<std::uint16_t>(std::lround(65535 * std::clamp(v, 0.0f, 1.0f)));
    };
    for (std::size_t i = 0; i < vertices.size(); ++i) {
        const Index v = mesh_vertex_[i];
        const bool lash = kinds.lash[v] > 0.5f;
        vertices[i].mark[3] = kinds.eye[v] > 0.5f ? 255 : lash ? has_air[i] ? 64 : 128 : 0;
        vertices[i].strand[0] = word(kinds.along[v]), vertices[i].strand[1] = word(kinds.out[v]);
    }
    ++revision;
}

void DisplayMesh::patch_image(std::size_t at, const QImage& part, const QPoint& place) {
    if (at >= images.size() || images[at].isNull()) return;
    QImage& image = images[at];
    for (int y = 0; y < part.height(); ++y)
        std::memcpy(image.scanLine(place.y() + y) + std::ptrdiff_t{4} * place.x(), part.constScanLine(y),
                    static_cast<std::size_t>(4 * part.width()));
    patches.push_back({at, QRect(place, part.size())});
}

void DisplayMesh::set_relief(std::size_t at, const QImage& normals) {
    if (normals.isNull()) {
        relief.erase(at);
        return;
    }
    const auto [to, fresh] = relief.emplace(at, images.size());
    if (fresh) images.emplace_back();
    set_image(to->second, normals);
}

void DisplayMesh::set_openness(const std::vector<float>& open) {
    for (std::size_t i = 0; i < vertices.size(); ++i) {
        const float value = open.empty() ? 1.0f : std::clamp(open[mesh_vertex_[i]], 0.0f, 1.0f);
        vertices[i].mark[2] = static_cast<std::uint8_t>(std::lround(255 * value));
    }
    ++revision;
}

void DisplayMesh::set_colours(const std::vector<Colour>& colours) {
    const std::vector<Colour>& use = colours.empty() ? file_colours_ : colours;
    has_colours_ = !use.empty();
    for (std::size_t i = 0; i < vertices.size(); ++i) {
        const Colour c = use.empty() ? Colour{} : use[mesh_vertex_[i]];
        vertices[i].colour[0] = c.r, vertices[i].colour[1] = c.g, vertices[i].colour[2] = c.b,
        vertices[i].colour[3] = 255;
    }
    ++revision;
}

}  // namespace veld
