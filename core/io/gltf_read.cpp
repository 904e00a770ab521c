#include "core/io/gltf_read.h"

#include <cmath>
#include <cstring>
#include <nlohmann/json.hpp>
#include <optional>

#include "core/base/file.h"
#include "core/io/gltf_access.h"
#include "core/io/gltf_skin.h"

// the library's own code, once
#define TINYGLTF_IMPLEMENTATION
#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#include <tiny_gltf.h>
#pragma GCC diagnostic pop
#undef TINYGLTF_IMPLEMENTATION

namespace veld {
namespace {

bool keep_image(tinygltf::Image* image, int, std::string*, std::string*, int, int, const unsigned char* bytes,
                int size, void*) {
    image->image.assign(bytes, bytes + size);  // still encoded: the file's own bytes
    image->as_is = true;
    return true;
}

class GltfJoiner {
 public:
    GltfJoiner(const tinygltf::Model& model, const std::string& path)
        : model_(model), path_(path), access_(model), skins_(model) {}

    Result<GltfReading> run();

 private:
    Error bad(const std::string& why) const { return {ErrorCode::BadFile, "'" + path_ + "': " + why}; }
    Status targets(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const GltfPiece& piece);
    Status node(int index, int depth);
    Status mesh(const tinygltf::Node& node, int index);
    Status primitive(const tinygltf::Primitive& primitive, const Eigen::Affine3d& to_scene, int skin,
                     GltfPiece& piece);
    const GltfPiece* same_vertices(const tinygltf::Primitive& primitive, int node) const;
    std::optional<AccessorView> attribute(const tinygltf::Primitive& primitive, const char* name) const;
    Status texture_places(const tinygltf::Primitive& primitive, Index first, std::size_t count, bool& has_uv);
    void vertex_colours(const tinygltf::Primitive& primitive, Index first, std::size_t count);
    Result<std::vector<Index>> corners_of(const tinygltf::Primitive& primitive, std::size_t count) const;
    Status faces(const std::vector<Index>& corners, int mode, Index first_vertex, bool has_uv, bool flip);
    void images_and_materials();

    const tinygltf::Model& model_;
    const std::string& path_;
    const GltfAccess access_;
    GltfSkins skins_;
    MeshFile out_;
    std::vector<GltfPiece> pieces_;
    std::size_t nodes_seen_ = 0, skipped_ = 0;
    bool any_uv_ = false, unreadable_ = false;
    Index material_ = kNone;
};

// Targets of one name in several primitives are one target of the joined mesh.
Status GltfJoiner::targets(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const GltfPiece& piece) {
    const auto extras = nlohmann::json::parse(mesh.extras_json_string, nullptr, false);
    for (std::size_t t = 0; t < p.targets.size(); ++t) {
        const auto position = p.targets[t].find("POSITION");
        if (position == p.targets[t].end()) continue;
        const auto of_extras = [&](const char* key) {
            return extras.is_object() && extras.contains(key) && extras[key].is_array() && t < extras[key].size()
                       ? extras[key][t]
                       : nlohmann::json();
        };
        const nlohmann::json named = of_extras("targetNames"), about = of_extras("morphs");
        const std::string name = named.is_string() ? named.get<std::string>() : "target " + std::to_string(t + 1);
        auto at = std::find_if(out_.targets.begin(), out_.targets.end(),
                               [&](const FileTarget& known) { return known.name == name; });
        if (at == out_.targets.end()) at = out_.targets.insert(at, {name, about.is_object() ? about.dump() : "", {}});
        Points own(piece.count);
        if (!access_.vectors(position->second, own))
            return bad("the morph target '" + name + "' is damaged or cut short.");
        at->delta.resize(out_.mesh.positions.size(), Vec3::Zero());
        for (Index i = 0; i < piece.count; ++i) at->delta[piece.first + i] = piece.at(i).linear() * own[i];
    }
    return Done{};
}

Status GltfJoiner::node(int index, int depth) {
    if (index < 0 || index >= static_cast<int>(model_.nodes.size())) return bad("a node number is out of range.");
    if (depth > 256 || ++nodes_seen_ > 100000) return bad("the nodes form a circle.");
    const tinygltf::Node& n = model_.nodes[static_cast<std::size_t>(index)];
    if (n.mesh >= static_cast<int>(model_.meshes.size())) return bad("a node asks for a mesh that is not there.");
    if (n.mesh >= 0) {
        if (auto ok = mesh(n, index); !ok) return ok;
    }
    for (int child : n.children) {
        if (auto ok = node(child, depth + 1); !ok) return ok;
    }
    return Done{};
}

// An exporter may give all materials of a mesh one list of vertices.
const GltfPiece* GltfJoiner::same_vertices(const tinygltf::Primitive& p, int node) const {
    for (const GltfPiece& known : pieces_) {
        const tinygltf::Primitive& q = model_.meshes[known.mesh].primitives[known.primitive];
        if (known.node == node && q.attributes == p.attributes && q.targets == p.targets) return &known;
    }
    return nullptr;
}

Status GltfJoiner::mesh(const tinygltf::Node& n, int index) {
    const tinygltf::Mesh& mesh = model_.meshes[static_cast<std::size_t>(n.mesh)];
    const Index group = static_cast<Index>(out_.mesh.group_names.size());
    out_.mesh.group_names.push_back(!n.name.empty()      ? n.name
                                    : !mesh.name.empty() ? mesh.name
                                                         : "mesh " + std::to_string(group));
    for (std::size_t i = 0; i < mesh.primitives.size(); ++i) {
        GltfPiece piece;
        piece.node = index, piece.mesh = static_cast<std::size_t>(n.mesh), piece.primitive = i;
        piece.to_scene = skins_.world(index);
        const tinygltf::Primitive& p = mesh.primitives[i];
        if (auto ok = primitive(p, piece.to_scene, n.skin, piece); !ok) return ok;
        if (piece.count == 0) continue;
        if (piece.first + piece.count == out_.mesh.vertex_count()) {
            if (auto ok = targets(mesh, p, piece); !ok) return ok;
        }
        pieces_.push_back(std::move(piece));
        out_.mesh.face_group.resize(out_.mesh.face_count(), group);
    }
    return Done{};
}

std::optional<AccessorView> GltfJoiner::attribute(const tinygltf::Primitive& p, const char* name) const {
    const auto at = p.attributes.find(name);
    return at == p.attributes.end() ? std::nullopt : access_.view(at->second);
}

// Of `count` vertices from `first` on; zero where the primitive has none.
Status GltfJoiner::texture_places(const tinygltf::Primitive& p, Index first, std::size_t count, bool& has_uv) {
    const auto uv = attribute(p, "TEXCOORD_0");
    has_uv = uv && uv->is_vector(2) && uv->count == count;
    unreadable_ |= p.attributes.contains("TEXCOORD_0") && !has_uv;
    Mesh& mesh = out_.mesh;
    mesh.uvs.resize(first, Vec2::Zero());
    for (std::size_t i = 0; i < count; ++i) {
        mesh.uvs.push_back(has_uv ? Vec2(uv->value(i, 0), 1.0 - uv->value(i, 1)) : Vec2::Zero());
        if (!mesh.uvs.back().allFinite()) return bad("a texture coordinate is not a finite number.");
    }
    any_uv_ |= has_uv;
    return Done{};
}

void GltfJoiner::vertex_colours(const tinygltf::Primitive& p, Index first, std::size_t count) {
    const auto colour = attribute(p, "COLOR_0");
    const bool has_colour = colour && (colour->is_vector(3) || colour->is_vector(4)) && colour->count == count;
    unreadable_ |= p.attributes.contains("COLOR_0") && !has_colour;
    if (!has_colour) return;
    out_.mesh.colours.resize(first);
    for (std::size_t i = 0; i < colour->count; ++i) {
        const auto byte = [&](int k) {
            const double x = colour->value(i, k);
            const double unit =
                colour->component == TINYGLTF_COMPONENT_TYPE_FLOAT || colour->normalized ? x : x / 255.0;
            return static_cast<std::uint8_t>(
                std::lround(255 * std::clamp(std::isfinite(unit) ? unit : 1.0, 0.0, 1.0)));
        };
        out_.mesh.colours.push_back({byte(0), byte(1), byte(2), 255});
    }
}

Result<std::vector<Index>> GltfJoiner::corners_of(const tinygltf::Primitive& p, std::size_t count) const {
    std::vector<Index> corners;
    if (p.indices >= 0) {
        const auto indices = access_.view(p.indices);
        if (!indices || !indices->is_index()) return bad("a mesh's index list is damaged or cut short.");
        corners.reserve(indices->count);
        for (std::size_t i = 0; i < indices->count; ++i) {
            const double v = indices->value(i, 0);
            if (!(v >= 0 && v < static_cast<double>(count))) {
                return bad("a face asks for vertex " +
                           std::to_string(static_cast<long long>(std::clamp(v, -1.0, 1e18))) + " of " +
                           std::to_string(count) + ". The file is damaged; export it again.");
            }
            corners.push_back(static_cast<Index>(v));
        }
    } else {
        for (Index i = 0; i < count; ++i) corners.push_back(i);
    }
    return corners;
}

Status GltfJoiner::primitive(const tinygltf::Primitive& p, const Eigen::Affine3d& to_scene, int skin,
                             GltfPiece& piece) {
    const int mode = p.mode < 0 ? TINYGLTF_MODE_TRIANGLES : p.mode;
    if (mode != TINYGLTF_MODE_TRIANGLES && mode != TINYGLTF_MODE_TRIANGLE_STRIP &&
        mode != TINYGLTF_MODE_TRIANGLE_FAN) {
        ++skipped_;
        return Done{};
    }
    const auto position = attribute(p, "POSITION");
    if (!position || !position->is_vector(3))
        return bad("a mesh has no readable positions; the file is damaged or cut short.");
    Mesh& mesh = out_.mesh;
    const auto uv = attribute(p, "TEXCOORD_0");
    bool has_uv = uv && uv->is_vector(2) && uv->count == position->count;
    piece.count = static_cast<Index>(position->count);
    if (const GltfPiece* known = same_vertices(p, piece.node)) {
        piece.first = known->first, piece.each = known->each;
    } else {
        piece.first = mesh.vertex_count();
        piece.each = skins_.add(p, skin, piece.first, piece.count);
        for (Index i = 0; i < piece.count; ++i) {
            mesh.positions.push_back(piece.at(i) *
                                     Vec3(position->value(i, 0), position->value(i, 1), position->value(i, 2)));
        }
        if (auto ok = texture_places(p, piece.first, piece.count, has_uv); !ok) return ok;
        vertex_colours(p, piece.first, piece.count);
    }
    auto corners = corners_of(p, piece.count);
    if (!corners) return corners.error();
    const bool known = p.material >= 0 && p.material < static_cast<int>(model_.materials.size());
    material_ = known ? static_cast<Index>(p.material) : kNone;
    // a mirroring node turns the faces inside out; turn them back
    const bool flip = (piece.each.empty() ? to_scene : piece.each.front()).linear().determinant() < 0;
    return faces(*corners, mode, piece.first, has_uv, flip);
}

Status GltfJoiner::faces(const std::vector<Index>& corners, int mode, Index first, bool has_uv, bool flip) {
    Mesh& mesh = out_.mesh;
    const bool list = mode == TINYGLTF_MODE_TRIANGLES;
    const std::size_t count = list ? corners.size() / 3 : corners.size() < 3 ? 0 : corners.size() - 2;
    for (std::size_t t = 0; t < count; ++t) {
        std::array<Index, 3> c{};
        if (list)
            c = {corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]};
        else if (mode == TINYGLTF_MODE_TRIANGLE_FAN)
            c = {corners[0], corners[t + 1], corners[t + 2]};
        else
            c = {corners[t], corners[t + 1 + t % 2], corners[t + 2 - t % 2]};
        if (flip) std::swap(c[1], c[2]);
        for (Index v : c) {
            mesh.corner_vertex.push_back(first + v);
            mesh.corner_uv.push_back(has_uv ? first + v : kNone);
        }
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
        mesh.face_material.push_back(material_);
    }
    return Done{};
}

void GltfJoiner::images_and_materials() {
    Mesh& mesh = out_.mesh;
    for (const tinygltf::Image& image : model_.images) {
        mesh.images.push_back({image.name, image.mimeType, image.image});
        Image& kept = mesh.images.back();
        if (kept.mime.empty()) kept.mime = lower_extension(image.uri) == ".png" ? "image/png" : "image/jpeg";
        if (kept.name.empty())
            kept.name = image.uri.empty() ? "image " + std::to_string(mesh.images.size()) : image.uri;
    }
    for (const tinygltf::Material& m : model_.materials) {
        Material kept;
        kept.name = m.name.empty() ? "material " + std::to_string(mesh.materials.size()) : m.name;
        const auto& pbr = m.pbrMetallicRoughness;
        for (std::size_t k = 0; k < 3 && k < pbr.baseColorFactor.size(); ++k) kept.colour[k] = pbr.baseColorFactor[k];
        const int texture = pbr.baseColorTexture.index;
        if (texture >= 0 && texture < static_cast<int>(model_.textures.size())) {
            const int source = model_.textures[static_cast<std::size_t>(texture)].source;
            if (source >= 0 && source < static_cast<int>(mesh.images.size())) kept.image = source;
        }
        mesh.materials.push_back(kept);
    }
}

Result<GltfReading> GltfJoiner::run() {
    images_and_materials();
    std::vector<int> roots;
    if (!model_.scenes.empty()) {
        const int selected = model_.defaultScene >= 0 && model_.defaultScene < static_cast<int>(model_.scenes.size())
                                 ? model_.defaultScene
                                 : 0;
        roots = model_.scenes[static_cast<std::size_t>(selected)].nodes;
    } else {
        for (int i = 0; i < static_cast<int>(model_.nodes.size()); ++i) roots.push_back(i);
    }
    for (int root : roots) {
        if (auto ok = node(root, 0); !ok) return ok.error();
    }
    Mesh& mesh = out_.mesh;
    if (!any_uv_) mesh.uvs.clear(), mesh.corner_uv.clear();
    if (mesh.materials.empty()) mesh.face_material.clear();
    if (!mesh.colours.empty()) mesh.colours.resize(mesh.positions.size());
    if (unreadable_)
        out_.notes.push_back(
            "Vertex colours or UVs of a part are damaged (not as many, or not of the kind that they should be) and "
            "were left out.");
    if (skipped_ > 0) out_.notes.push_back(std::to_string(skipped_) + " sets of lines or points were left out.");
    out_.skin = skins_.take(mesh.positions.size(), out_.notes);
    return GltfReading{std::move(out_), std::move(pieces_)};
}

}  // namespace

Result<GltfReading> read_gltf_pieces(std::string_view bytes, const std::string& path, const std::string& folder) {
    tinygltf::TinyGLTF loader;
    loader.SetImageLoader(keep_image, nullptr);
    loader.SetStoreOriginalJSONForExtrasAndExtensions(true);
    tinygltf::Model model;
    std::string error, warning;
    bool ok = false;
    try {
        if (bytes.starts_with("glTF")) {
            ok = loader.LoadBinaryFromMemory(&model, &error, &warning,
                                             reinterpret_cast<const unsigned char*>(bytes.data()),
                                             static_cast<unsigned>(bytes.size()), folder);
        } else {
            ok = loader.LoadASCIIFromString(&model, &error, &warning, bytes.data(),
                                            static_cast<unsigned>(bytes.size()), folder);
        }
    } catch (const std::exception& e) {
        error = e.what();
    }
    if (!ok) {
        while (!error.empty() && (error.back() == '\n' || error.back() == ' ')) error.pop_back();
        return Error{ErrorCode::BadFile, "'" + path + "': is no complete glTF file (" +
                                             (error.empty() ? "damaged or cut short" : error.substr(0, 200)) +
                                             "). Export it again."};
    }
    return GltfJoiner(model, path).run();
}

Result<MeshFile> parse_gltf(std::string_view bytes, const std::string& path, const std::string& folder) {
    auto all = read_gltf_pieces(bytes, path, folder);
    if (!all) return all.error();
    return std::move(all->file);
}

Result<MeshFile> read_gltf(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_gltf(bytes->view(), path, folder_of(path));
}

}  // namespace veld
