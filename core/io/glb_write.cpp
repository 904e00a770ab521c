#include "core/io/glb_write.h"

#include <cmath>
#include <cstring>
#include <map>

#include "core/base/cache.h"
#include "core/base/json.h"
#include "core/mesh/corner_split.h"

namespace veld {
namespace {

constexpr int kFloat = 5126, kUnsignedInt = 5125, kUnsignedShort = 5123;
constexpr int kVertexBuffer = 34962, kIndexBuffer = 34963;

class GlbWriter {
 public:
    explicit GlbWriter(const GlbModel& model) : m_(model) {}
    std::string run();

 private:
    int buffer_view(const void* data, std::size_t size, int target);
    int accessor(const std::vector<float>& values, const char* type, int width, bool bounds,
                 bool vertex_target = true);
    int index_accessor(const std::vector<Triangle>& triangles);
    int joint_accessor(const SkinWeights& weights, const MaterialSplit& p);
    int weight_accessor(const SkinWeights& weights, const MaterialSplit& p);
    int vectors(const Points& all, const MaterialSplit& p, double scale, bool bounds);
    int differences(const Points& all, const MaterialSplit& p, double scale, bool bounds);
    Json primitive(const MaterialSplit& p, const Points& normals, const std::vector<Points>& target_normals);
    int texture(const Image& image);
    Json material(const Material& m, const std::map<std::string, GlbPictures>& pictures);
    void materials();
    void variants();
    void skin();
    bool skinned() const { return m_.joints && !m_.joints->empty() && m_.weights && !m_.weights->weight.empty(); }

    const GlbModel& m_;
    Json json_;
    std::string binary_;
    std::map<std::uint64_t, int> texture_of_;                    // by the picture's bytes
    std::vector<std::map<std::string, int>> variant_materials_;  // of each variant, by the mesh's material
};

int GlbWriter::buffer_view(const void* data, std::size_t size, int target) {
    binary_.resize((binary_.size() + 3) / 4 * 4, '\0');
    Json view = {{"buffer", 0}, {"byteOffset", binary_.size()}, {"byteLength", size}};
    if (target) view["target"] = target;
    binary_.append(static_cast<const char*>(data), size);
    json_["bufferViews"].push_back(view);
    return static_cast<int>(json_["bufferViews"].size()) - 1;
}

int GlbWriter::accessor(const std::vector<float>& values, const char* type, int width, bool bounds,
                        bool vertex_target) {
    Json a = {{"bufferView", buffer_view(values.data(), values.size() * 4, vertex_target ? kVertexBuffer : 0)},
              {"componentType", kFloat},
              {"count", values.size() / static_cast<std::size_t>(width)},
              {"type", type}};
    if (bounds) {
        std::vector<float> low(values.begin(), values.begin() + width), high = low;
        for (std::size_t i = 0; i < values.size(); ++i) {
            const std::size_t k = i % static_cast<std::size_t>(width);
            low[k] = std::min(low[k], values[i]);
            high[k] = std::max(high[k], values[i]);
        }
        a["min"] = low;
        a["max"] = high;
    }
    json_["accessors"].push_back(a);
    return static_cast<int>(json_["accessors"].size()) - 1;
}

int GlbWriter::index_accessor(const std::vector<Triangle>& triangles) {
    const int view = buffer_view(triangles.data(), triangles.size() * sizeof(Triangle), kIndexBuffer);
    json_["accessors"].push_back(
        {{"bufferView", view}, {"componentType", kUnsignedInt}, {"count", 3 * triangles.size()}, {"type", "SCALAR"}});
    return static_cast<int>(json_["accessors"].size()) - 1;
}

int GlbWriter::joint_accessor(const SkinWeights& weights, const MaterialSplit& p) {
    std::vector<std::uint16_t> joints;
    for (Index v : p.vertex) {
        for (std::size_t k = 0; k < 4; ++k) {
            // glTF wants joint 0 where the weight is 0
            joints.push_back(weights.weight[v][k] > 0 ? weights.joint[v][k] : std::uint16_t{0});
        }
    }
    const int view = buffer_view(joints.data(), joints.size() * 2, kVertexBuffer);
    json_["accessors"].push_back(
        {{"bufferView", view}, {"componentType", kUnsignedShort}, {"count", p.vertex.size()}, {"type", "VEC4"}});
    return static_cast<int>(json_["accessors"].size()) - 1;
}

int GlbWriter::weight_accessor(const SkinWeights& weights, const MaterialSplit& p) {
    std::vector<float> values;
    for (Index v : p.vertex) {
        for (double w : weights.weight[v]) values.push_back(static_cast<float>(w));
    }
    return accessor(values, "VEC4", 4, false);
}

int GlbWriter::vectors(const Points& all, const MaterialSplit& p, double scale, bool bounds) {
    std::vector<float> values;
    values.reserve(p.vertex.size() * 3);
    for (Index v : p.vertex) {
        for (int k = 0; k < 3; ++k) values.push_back(static_cast<float>(scale * all[v][k]));
    }
    return accessor(values, "VEC3", 3, bounds);
}

// The same for what is zero nearly everywhere: only the others are written (glTF 2.0, 3.6.2.3).
int GlbWriter::differences(const Points& all, const MaterialSplit& p, double scale, bool bounds) {
    std::vector<Index> which;
    std::vector<float> values;
    Eigen::Vector3f low = Eigen::Vector3f::Zero(), high = low;
    for (Index i = 0; i < p.vertex.size(); ++i) {
        const Eigen::Vector3f d = (scale * all[p.vertex[i]]).cast<float>();
        if (d.isZero(0)) continue;
        which.push_back(i);
        values.insert(values.end(), {d.x(), d.y(), d.z()});
        low = which.size() == 1 && p.vertex.size() == 1 ? d : low.cwiseMin(d),
        high = which.size() == 1 && p.vertex.size() == 1 ? d : high.cwiseMax(d);
    }
    if (4 * which.size() >= 3 * p.vertex.size()) return vectors(all, p, scale, bounds);
    Json a = {{"componentType", kFloat}, {"count", p.vertex.size()}, {"type", "VEC3"}};
    if (bounds) a["min"] = {low.x(), low.y(), low.z()}, a["max"] = {high.x(), high.y(), high.z()};
    if (which.empty())
        which.push_back(0), values.assign(3, 0.0f);  // an accessor of nothing at all is not read everywhere
    {
        const int indices = buffer_view(which.data(), which.size() * sizeof(Index), 0),
                  data = buffer_view(values.data(), values.size() * 4, 0);
        a["sparse"] = {{"count", which.size()},
                       {"indices", {{"bufferView", indices}, {"componentType", kUnsignedInt}}},
                       {"values", {{"bufferView", data}}}};
    }
    json_["accessors"].push_back(a);
    return static_cast<int>(json_["accessors"].size()) - 1;
}

Json GlbWriter::primitive(const MaterialSplit& p, const Points& normals, const std::vector<Points>& target_normals) {
    Json attributes;
    attributes["POSITION"] = vectors(m_.mesh->positions, p, m_.metres_per_unit, true);
    attributes["NORMAL"] = vectors(normals, p, 1.0, false);
    const bool textured = p.material != kNone && m_.mesh->materials[p.material].image >= 0;
    // also where nothing shows them: what comes back is put in order by its UVs
    if (!m_.mesh->corner_uv.empty()) {
        std::vector<float> uv;
        for (const Vec2& t : p.uv) uv.insert(uv.end(), {static_cast<float>(t.x()), static_cast<float>(1.0 - t.y())});
        attributes["TEXCOORD_0"] = accessor(uv, "VEC2", 2, false);
    }
    if (!textured && !m_.mesh->colours.empty()) {
        std::vector<float> colours;
        for (Index v : p.vertex) {
            const Colour& c = m_.mesh->colours[v];
            // glTF's vertex colours are linear
            for (std::uint8_t x : {c.r, c.g, c.b}) colours.push_back(static_cast<float>(std::pow(x / 255.0, 2.2)));
        }
        attributes["COLOR_0"] = accessor(colours, "VEC3", 3, false);
    }
    if (skinned()) {
        attributes["JOINTS_0"] = joint_accessor(*m_.weights, p);
        attributes["WEIGHTS_0"] = weight_accessor(*m_.weights, p);
        if (m_.more_weights && !m_.more_weights->weight.empty()) {
            attributes["JOINTS_1"] = joint_accessor(*m_.more_weights, p);
            attributes["WEIGHTS_1"] = weight_accessor(*m_.more_weights, p);
        }
    }
    Json out = {{"attributes", attributes}, {"indices", index_accessor(p.triangles)}, {"mode", 4}};
    if (p.material != kNone) out["material"] = p.material;
    Json mappings = Json::array();
    for (std::size_t i = 0; p.material != kNone && i < variant_materials_.size(); ++i) {
        const auto at = variant_materials_[i].find(m_.mesh->materials[p.material].name);
        if (at != variant_materials_[i].end()) mappings.push_back({{"material", at->second}, {"variants", {i}}});
    }
    if (!mappings.empty()) out["extensions"]["KHR_materials_variants"]["mappings"] = mappings;
    for (std::size_t t = 0; t < m_.targets.size(); ++t) {
        out["targets"].push_back({{"POSITION", differences(m_.targets[t].delta, p, m_.metres_per_unit, true)},
                                  {"NORMAL", differences(target_normals[t], p, 1.0, false)}});
    }
    return out;
}

int GlbWriter::texture(const Image& image) {
    CacheKey key;
    key.mix(image.bytes.data(), image.bytes.size());
    const auto [at, fresh] = texture_of_.try_emplace(key.value(), 0);
    if (!fresh) return at->second;
    const int view = buffer_view(image.bytes.data(), image.bytes.size(), 0);
    json_["images"].push_back({{"bufferView", view}, {"mimeType", image.mime}, {"name", image.name}});
    json_["textures"].push_back({{"source", json_["images"].size() - 1}, {"sampler", 0}});
    json_["samplers"] = Json::array({{{"magFilter", 9729}, {"minFilter", 9987}, {"wrapS", 10497}, {"wrapT", 10497}}});
    return at->second = static_cast<int>(json_["textures"].size()) - 1;
}

Json GlbWriter::material(const Material& m, const std::map<std::string, GlbPictures>& pictures) {
    const auto own = pictures.find(m.name);
    const GlbPictures* more = own == pictures.end() ? nullptr : &own->second;
    Json pbr = {{"metallicFactor", 0.0}, {"roughnessFactor", 0.7}};
    if (more && !more->colour.bytes.empty()) {
        pbr["baseColorTexture"] = {{"index", texture(more->colour)}};
    } else if (m.image >= 0) {
        pbr["baseColorTexture"] = {{"index", texture(m_.mesh->images[static_cast<std::size_t>(m.image)])}};
    } else {
        pbr["baseColorFactor"] = {m.colour[0], m.colour[1], m.colour[2], 1.0};
    }
    Json out = {{"name", m.name}, {"pbrMetallicRoughness", pbr}};
    if (more && !more->normal.bytes.empty()) out["normalTexture"] = {{"index", texture(more->normal)}};
    if (more && !more->occlusion.bytes.empty()) out["occlusionTexture"] = {{"index", texture(more->occlusion)}};
    return out;
}

void GlbWriter::materials() {
    for (const Material& m : m_.mesh->materials) {
        Json one = material(m, m_.pictures);  // first: it adds to json_, which moves what is in it
        json_["materials"].push_back(std::move(one));
    }
}

void GlbWriter::variants() {
    Json names = Json::array();
    for (const GlbVariant& v : m_.variants) {
        names.push_back({{"name", v.name}});
        auto& of = variant_materials_.emplace_back();
        for (const Material& m : m_.mesh->materials) {
            const auto changed = v.materials.find(m.name);
            if (changed == v.materials.end()) continue;
            // what it does not say is as without it
            std::map<std::string, GlbPictures> pictures{*changed};
            GlbPictures& now = pictures.begin()->second;
            if (const auto plain = m_.pictures.find(m.name); plain != m_.pictures.end()) {
                for (Image GlbPictures::*picture :
                     {&GlbPictures::colour, &GlbPictures::normal, &GlbPictures::occlusion}) {
                    if ((now.*picture).bytes.empty()) now.*picture = plain->second.*picture;
                }
            }
            Json one = material(m, pictures);
            one["name"] = m.name + "_" + v.name;
            of[m.name] = static_cast<int>(json_["materials"].size());
            json_["materials"].push_back(std::move(one));
        }
    }
    if (names.empty()) return;
    json_["extensionsUsed"] = {"KHR_materials_variants"};
    json_["extensions"]["KHR_materials_variants"]["variants"] = names;
}

void GlbWriter::skin() {
    Json joints = Json::array();
    std::vector<float> inverse_bind;
    const int first = static_cast<int>(json_["nodes"].size());
    for (std::size_t j = 0; j < m_.joints->size(); ++j) {
        const Joint& joint = (*m_.joints)[j];
        const Vec3 at = m_.metres_per_unit * joint.position;
        const Vec3 local =
            joint.parent < 0 ? at
                             : Vec3(m_.metres_per_unit *
                                    (joint.position - (*m_.joints)[static_cast<std::size_t>(joint.parent)].position));
        json_["nodes"].push_back({{"name", joint.name}, {"translation", {local.x(), local.y(), local.z()}}});
        joints.push_back(first + static_cast<int>(j));
        for (int c = 0; c < 4; ++c) {
            for (int r = 0; r < 4; ++r)
                inverse_bind.push_back(r == c ? 1.0f : c == 3 && r < 3 ? static_cast<float>(-at[r]) : 0.0f);
        }
    }
    for (std::size_t j = 0; j < m_.joints->size(); ++j) {
        const int parent = (*m_.joints)[j].parent;
        if (parent >= 0)
            json_["nodes"][static_cast<std::size_t>(first + parent)]["children"].push_back(first +
                                                                                           static_cast<int>(j));
        else
            json_["scenes"][0]["nodes"].push_back(first + static_cast<int>(j));
    }
    json_["skins"].push_back({{"joints", joints},
                              {"inverseBindMatrices", accessor(inverse_bind, "MAT4", 16, false, false)},
                              {"name", "skin"}});
}

std::string GlbWriter::run() {
    const Mesh& mesh = *m_.mesh;
    json_["asset"] = {{"version", "2.0"}, {"generator", "Veldstone"}};
    json_["scene"] = 0;
    json_["scenes"] = Json::array({{{"nodes", {0}}}});
    Json node = {{"mesh", 0}, {"name", m_.name}};
    if (skinned()) node["skin"] = 0;
    json_["nodes"] = Json::array({node});
    materials();
    variants();
    const std::vector<Triangle> triangles = triangulate(mesh).triangles;
    Points normals = vertex_normals(mesh.positions, triangles);
    for (Vec3& n : normals) {
        if (n.isZero()) n = Vec3::UnitZ();  // glTF wants unit normals, also of unused vertices
    }
    std::vector<Points> target_normals;
    for (const GlbTarget& target : m_.targets) {
        Points shaped = mesh.positions;
        for (std::size_t v = 0; v < shaped.size(); ++v) shaped[v] += target.delta[v];
        Points difference = vertex_normals(shaped, triangles);
        for (std::size_t v = 0; v < shaped.size(); ++v)
            difference[v] = target.delta[v].isZero() && difference[v].isZero() ? Vec3(Vec3::Zero())
                                                                               : Vec3(difference[v] - normals[v]);
        target_normals.push_back(std::move(difference));
    }
    Json glb_mesh = {{"name", m_.name}, {"primitives", Json::array()}};
    for (const MaterialSplit& p : split_by_material(mesh))
        glb_mesh["primitives"].push_back(primitive(p, normals, target_normals));
    if (!m_.targets.empty()) {
        for (const GlbTarget& t : m_.targets) {
            glb_mesh["weights"].push_back(t.weight);
            glb_mesh["extras"]["targetNames"].push_back(t.name);
            if (!t.about.empty()) glb_mesh["extras"]["morphs"].push_back(Json::parse(t.about, nullptr, false));
        }
    }
    json_["meshes"] = Json::array({glb_mesh});
    if (skinned()) skin();
    binary_.resize((binary_.size() + 3) / 4 * 4, '\0');
    json_["buffers"] = Json::array({{{"byteLength", binary_.size()}}});
    std::string text = json_.dump(-1, ' ', false, Json::error_handler_t::replace);
    text.resize((text.size() + 3) / 4 * 4, ' ');
    std::string out;
    const auto word = [&](std::uint32_t x) { out.append(reinterpret_cast<const char*>(&x), 4); };
    word(0x46546C67), word(2), word(static_cast<std::uint32_t>(12 + 8 + text.size() + 8 + binary_.size()));
    word(static_cast<std::uint32_t>(text.size())), word(0x4E4F534A);
    out += text;
    word(static_cast<std::uint32_t>(binary_.size())), word(0x004E4942);
    out += binary_;
    return out;
}

}  // namespace

std::string glb_bytes(const GlbModel& model) {
    if (!has_tiles(*model.mesh)) return GlbWriter(model).run();
    const Mesh plain = tiles_as_materials(*model.mesh);
    GlbModel copy = model;
    copy.mesh = &plain;
    return GlbWriter(copy).run();
}

}  // namespace veld
