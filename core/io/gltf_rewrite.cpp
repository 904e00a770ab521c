#include "core/io/gltf_rewrite.h"

#include <cstring>
#include <filesystem>
#include <map>
#include <optional>
#include <set>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/gltf_access.h"
#include "core/io/gltf_read.h"

namespace veld {
namespace {

constexpr std::uint32_t kMagic = 0x46546C67, kJsonChunk = 0x4E4F534A, kBinaryChunk = 0x004E4942;
constexpr std::size_t kHeader = 12, kChunkHeader = 8;
constexpr int kFloat32 = 5126, kVertexData = 34962;
constexpr double kSamePlace = 1e-5;  // of the size of the mesh: two nodes that show one mesh agree

std::uint32_t number_at(std::string_view bytes, std::size_t at) {
    std::uint32_t out = 0;
    std::memcpy(&out, bytes.data() + at, sizeof out);
    return out;
}

void append_number(std::string& to, std::size_t value) {
    const auto number = static_cast<std::uint32_t>(value);
    to.append(reinterpret_cast<const char*>(&number), sizeof number);
}

struct Chunks {
    Json json;
    std::string binary;
};

// The reader has been through the file: what is wrong with it was said.
std::optional<Chunks> chunks_of(std::string_view bytes) {
    if (bytes.size() < kHeader + kChunkHeader || number_at(bytes, 0) != kMagic) return {};
    Chunks out;
    for (std::size_t at = kHeader; at + kChunkHeader <= bytes.size();) {
        const std::size_t size = number_at(bytes, at), kind = number_at(bytes, at + 4);
        at += kChunkHeader;
        if (size > bytes.size() - at) return {};
        if (kind == kJsonChunk) out.json = Json::parse(bytes.substr(at, size), nullptr, false);
        if (kind == kBinaryChunk) out.binary = bytes.substr(at, size);
        at += size;
    }
    if (!out.json.is_object()) return {};
    return out;
}

std::string glb_of(const Chunks& chunks) {
    std::string json = chunks.json.dump(-1, ' ', false, Json::error_handler_t::replace), binary = chunks.binary;
    json.resize((json.size() + 3) / 4 * 4, ' ');
    binary.resize((binary.size() + 3) / 4 * 4, '\0');
    std::string out;
    append_number(out, kMagic), append_number(out, 2);
    append_number(out, kHeader + 2 * kChunkHeader + json.size() + binary.size());
    append_number(out, json.size()), append_number(out, kJsonChunk);
    out += json;
    append_number(out, binary.size()), append_number(out, kBinaryChunk);
    return out + binary;
}

class Rewriter {
 public:
    Rewriter(Chunks chunks, const GltfReading& reading, const GlbChange& change, const std::string& path)
        : chunks_(std::move(chunks)), reading_(reading), change_(change), path_(path) {}

    Result<std::string> run() {
        for (const GltfPiece& piece : reading_.pieces) {
            if (auto ok = shape(piece); !ok) return ok.error();
        }
        for (const auto& [where, piece] : first_of_) add_targets(where.first, where.second, *piece);
        std::set<std::size_t> meshes;
        for (const auto& [where, piece] : first_of_) meshes.insert(where.first);
        for (const std::size_t m : meshes) name_targets(m);
        chunks_.binary.resize((chunks_.binary.size() + 3) / 4 * 4, '\0');
        chunks_.json["buffers"][0]["byteLength"] = chunks_.binary.size();
        return glb_of(chunks_);
    }

 private:
    Json& primitive(std::size_t mesh, std::size_t at) { return chunks_.json["meshes"][mesh]["primitives"][at]; }
    int accessor(const Points& values, bool bounds);
    Status shape(const GltfPiece& piece);
    void add_targets(std::size_t mesh, std::size_t at, const GltfPiece& piece);
    void name_targets(std::size_t mesh);

    Chunks chunks_;
    const GltfReading& reading_;
    const GlbChange& change_;
    const std::string& path_;
    std::map<std::pair<std::size_t, std::size_t>, const GltfPiece*> first_of_;  // mesh, primitive -> who wrote it
    std::map<Index, std::pair<int, int>> written_;                              // first vertex -> accessors
    std::map<std::pair<Index, std::size_t>, int> written_targets_;
};

int Rewriter::accessor(const Points& values, bool bounds) {
    std::string& binary = chunks_.binary;
    binary.resize((binary.size() + 3) / 4 * 4, '\0');
    const std::size_t begin = binary.size();
    Eigen::Vector3f low = Eigen::Vector3f::Zero(), high = low;
    for (std::size_t i = 0; i < values.size(); ++i) {
        const Eigen::Vector3f p = values[i].cast<float>();
        low = i ? low.cwiseMin(p) : p, high = i ? high.cwiseMax(p) : p;
        binary.append(reinterpret_cast<const char*>(p.data()), 3 * sizeof(float));
    }
    Json& views = chunks_.json["bufferViews"];
    views.push_back(
        {{"buffer", 0}, {"byteOffset", begin}, {"byteLength", binary.size() - begin}, {"target", kVertexData}});
    Json a = {
        {"bufferView", views.size() - 1}, {"componentType", kFloat32}, {"count", values.size()}, {"type", "VEC3"}};
    if (bounds) a["min"] = {low.x(), low.y(), low.z()}, a["max"] = {high.x(), high.y(), high.z()};
    chunks_.json["accessors"].push_back(a);
    return static_cast<int>(chunks_.json["accessors"].size()) - 1;
}

// Positions and normals of one primitive, in its own frame.
Status Rewriter::shape(const GltfPiece& piece) {
    const auto place = std::make_pair(piece.mesh, piece.primitive);
    if (const auto known = first_of_.find(place); known != first_of_.end()) {
        // a second node shows the same mesh: it must move with the first
        const Box box = bounding_box(change_.positions);
        for (Index i = 0; i < piece.count; ++i) {
            const Vec3 here = piece.at(i).inverse() * change_.positions[piece.first + i],
                       there = known->second->at(i).inverse() * change_.positions[known->second->first + i];
            if ((piece.at(i).linear() * (here - there)).norm() > kSamePlace * box.size().norm())
                return Error{ErrorCode::BadInput,
                             "'" + path_ +
                                 "' shows one mesh in several places, which would have to become different "
                                 "shapes. Make each of them a mesh of its own and export it again."};
        }
        return Done{};
    }
    first_of_[place] = &piece;
    Json& attributes = primitive(piece.mesh, piece.primitive)["attributes"];
    const bool normals = attributes.contains("NORMAL") && !change_.normals.empty();
    auto at = written_.find(piece.first);
    if (at == written_.end()) {
        Points own, turned;
        for (Index i = 0; i < piece.count; ++i) {
            own.push_back(piece.at(i).inverse() * change_.positions[piece.first + i]);
            if (normals)
                turned.push_back((piece.at(i).linear().transpose() * change_.normals[piece.first + i]).normalized());
        }
        at = written_.emplace(piece.first, std::make_pair(accessor(own, true), normals ? accessor(turned, false) : -1))
                 .first;
    }
    attributes["POSITION"] = at->second.first;
    if (at->second.second >= 0)
        attributes["NORMAL"] = at->second.second;
    else
        attributes.erase("NORMAL");
    attributes.erase("TANGENT");  // of the shape that was; glTF says how to find them again
    return Done{};
}

void Rewriter::add_targets(std::size_t mesh, std::size_t at, const GltfPiece& piece) {
    for (std::size_t t = 0; t < change_.targets.size(); ++t) {
        const auto key = std::make_pair(piece.first, t);
        if (!written_targets_.contains(key)) {
            Points own;
            for (Index i = 0; i < piece.count; ++i)
                own.push_back(piece.at(i).linear().inverse() * change_.targets[t].delta[piece.first + i]);
            written_targets_[key] = accessor(own, true);
        }
        primitive(mesh, at)["targets"].push_back({{"POSITION", written_targets_[key]}});
    }
}

void Rewriter::name_targets(std::size_t m) {
    if (change_.targets.empty()) return;
    Json& mesh = chunks_.json["meshes"][m];
    Json extras = mesh.contains("extras") && mesh["extras"].is_object() ? mesh["extras"] : Json::object();
    const auto list = [&](const char* key) {
        return extras.contains(key) && extras[key].is_array() ? extras[key] : Json::array();
    };
    Json names = list("targetNames"), about = list("morphs");  // the latter: what this program says of its own targets
    std::size_t before = 0;
    for (const Json& p : mesh["primitives"])
        before = std::max(before, p.contains("targets") ? p["targets"].size() : 0);
    before -= std::min(before, change_.targets.size());
    while (names.size() < before) names.push_back("target " + std::to_string(names.size() + 1));
    while (about.size() < before) about.push_back(nullptr);
    for (const FileTarget& t : change_.targets) {
        names.push_back(t.name);
        about.push_back(Json::parse(t.about, nullptr, false));
        if (about.back().is_discarded()) about.back() = nullptr;
    }
    extras["targetNames"] = names, extras["morphs"] = about;
    mesh["extras"] = extras;
    const auto lengthen = [&](Json& owner) {
        if (!owner.contains("weights") || !owner["weights"].is_array()) return;
        while (owner["weights"].size() < before + change_.targets.size()) owner["weights"].push_back(0.0);
    };
    lengthen(mesh);
    for (Json& node : chunks_.json["nodes"]) {
        if (node.value("mesh", -1) == static_cast<int>(m)) lengthen(node);
    }
}

}  // namespace

Result<std::string> rewrite_glb(std::string_view bytes, const std::string& path, const GlbChange& change) {
    const auto reading = read_gltf_pieces(bytes, path, {});
    if (!reading) return reading.error();
    auto chunks = chunks_of(bytes);
    const std::size_t count = reading->file.mesh.positions.size();
    bool fits = change.positions.size() == count && (change.normals.empty() || change.normals.size() == count);
    for (const FileTarget& t : change.targets) fits &= t.delta.size() == count;
    if (!fits)
        return Error{ErrorCode::BadInput,
                     "'" + path + "' has " + std::to_string(count) + " vertices, the shape another number."};
    const bool inside = chunks && chunks->json.contains("buffers") && chunks->json["buffers"].is_array() &&
                        !chunks->json["buffers"].empty() && chunks->json["buffers"][0].is_object() &&
                        !chunks->json["buffers"][0].contains("uri");
    if (!inside)
        return Error{ErrorCode::Unsupported,
                     "'" + path + "' keeps its data in other files. Export it as one binary glTF file (.glb)."};
    return Rewriter(std::move(*chunks), *reading, change, path).run();
}

namespace {

// What a URI holds: text after "data:", or a file beside the .gltf, its name with %20 and the like.
Result<std::string> held_by(const std::string& uri, const std::string& path) {
    if (tinygltf::IsDataURI(uri)) {
        std::vector<unsigned char> bytes;
        std::string mime;
        if (!tinygltf::DecodeDataURI(&bytes, mime, uri, 0, false))
            return Error{ErrorCode::BadFile, "'" + path + "' holds data that cannot be read."};
        return std::string(bytes.begin(), bytes.end());
    }
    std::string name;
    for (std::size_t i = 0; i < uri.size(); ++i) {
        int code = 0;
        if (uri[i] == '%' && i + 2 < uri.size() && std::sscanf(uri.substr(i + 1, 2).c_str(), "%2x", &code) == 1)
            name += static_cast<char>(code), i += 2;
        else
            name += uri[i];
    }
    auto bytes = read_file((std::filesystem::path(path).parent_path() / name).string());
    if (!bytes) return bytes.error();
    return std::string(bytes->view());
}

// Appends to the one buffer; returns where.
std::size_t append_aligned(std::string& binary, const std::string& bytes) {
    binary.resize((binary.size() + 3) / 4 * 4, '\0');
    const std::size_t at = binary.size();
    binary += bytes;
    return at;
}

Status take_in(Chunks& chunks, const std::string& path) {
    Json& json = chunks.json;
    std::vector<std::size_t> starts;
    for (const Json& buffer : json.value("buffers", Json::array())) {
        auto bytes = held_by(buffer.at("uri").get<std::string>(), path);
        if (!bytes) return bytes.error();
        starts.push_back(append_aligned(chunks.binary, *bytes));
    }
    if (!json.contains("bufferViews")) json["bufferViews"] = Json::array();
    for (Json& view : json["bufferViews"]) {
        const std::size_t start = starts.at(view.at("buffer").get<std::size_t>());
        view["byteOffset"] = view.value("byteOffset", std::size_t{0}) + start;
        view["buffer"] = 0;
    }
    if (json.contains("images")) {
        for (Json& image : json["images"]) {
            if (!image.contains("uri")) continue;
            const std::string uri = image["uri"].get<std::string>();
            auto bytes = held_by(uri, path);
            if (!bytes) return bytes.error();
            const std::size_t at = append_aligned(chunks.binary, *bytes);
            if (!image.contains("mimeType"))
                image["mimeType"] = bytes->starts_with("\x89PNG") ? "image/png" : "image/jpeg";
            if (!image.contains("name") && !tinygltf::IsDataURI(uri)) image["name"] = uri;
            image["bufferView"] = json["bufferViews"].size();
            image.erase("uri");
            json["bufferViews"].push_back({{"buffer", 0}, {"byteOffset", at}, {"byteLength", bytes->size()}});
        }
    }
    json["buffers"] = Json::array({{{"byteLength", chunks.binary.size()}}});
    return Done{};
}

}  // namespace

Result<std::string> pack_gltf(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    Chunks chunks{Json::parse(bytes->view(), nullptr, false), {}};
    if (!chunks.json.is_object()) return Error{ErrorCode::BadFile, "'" + path + "' is no glTF: its text is no JSON."};
    try {
        if (auto ok = take_in(chunks, path); !ok) return ok.error();
    } catch (const std::exception&) {
        return Error{ErrorCode::BadFile, "'" + path + "' is damaged: its buffers do not agree."};
    }
    return glb_of(chunks);
}

}  // namespace veld
