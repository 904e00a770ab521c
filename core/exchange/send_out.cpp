#include "core/exchange/send_out.h"

#include <algorithm>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/mesh_write.h"
#include "core/mesh/subdivide.h"
#include "core/morph/share.h"
#include "core/rig/pose.h"

namespace veld {
namespace {

Error bad(const std::string& path, const std::string& why) { return {ErrorCode::BadFile, "'" + path + "': " + why}; }

Result<VertexMask> wanted_vertices(const BaseKit& kit, const SendOptions& o) {
    const std::size_t count = kit.mesh.positions.size();
    VertexMask wanted(count, o.scope == SendScope::Whole);
    if (o.scope == SendScope::Head) {
        if (kit.region("head_skin").empty())
            return Error{ErrorCode::BadInput, "The kit has no region 'head_skin', so it has no head to send."};
        const std::vector<double> weight = head_weights(kit, 1e-6);  // with the parts that are in it
        for (std::size_t v = 0; v < count; ++v) wanted[v] = weight[v] > 0;
        for (const Index v : kit.region("head_skin")) wanted[v] = 1;
        for (const Index v : kit.neck_ring) wanted[v] = 1;
    } else if (o.scope == SendScope::Part) {
        const KitPart* part = kit.part(o.of);
        if (!part) return Error{ErrorCode::BadInput, "The kit has no part '" + o.of + "'."};
        for (const Index v : part->vertices) wanted[v] = 1;
    } else if (o.scope == SendScope::Region) {
        const std::vector<Index>& region = kit.region(o.of);
        if (region.empty()) return Error{ErrorCode::BadInput, "The kit has no region '" + o.of + "'."};
        for (const Index v : region) wanted[v] = 1;
    }
    for (const std::string& name : o.parts_off) {
        const KitPart* part = kit.part(name);
        if (!part) return Error{ErrorCode::BadInput, "The kit has no part '" + name + "' to leave out."};
        for (const Index v : part->vertices) wanted[v] = 0;
    }
    return wanted;
}

std::string piece_name(const SendOptions& o) {
    std::string out = o.scope == SendScope::Whole  ? "the whole base"
                      : o.scope == SendScope::Head ? "the head"
                                                   : "'" + o.of + "'";
    for (std::size_t i = 0; i < o.parts_off.size(); ++i) out += (i ? ", " : " without ") + o.parts_off[i];
    return out;
}

Json vectors_json(const std::vector<Mat3>& list) {
    Json out = Json::array();
    for (const Mat3& m : list) {
        Json row = Json::array();
        for (int i = 0; i < 9; ++i) row.push_back(m(i / 3, i % 3));
        out.push_back(row);
    }
    return out;
}

std::vector<Mat3> matrices_from(const Json& j) {
    std::vector<Mat3> out;
    for (const Json& row : j) {
        Mat3 m;
        for (int i = 0; i < 9; ++i) m(i / 3, i % 3) = row.at(static_cast<std::size_t>(i));
        out.push_back(m);
    }
    return out;
}

}  // namespace

const char* send_scope_name(SendScope scope) {
    static constexpr const char* names[] = {"whole", "head", "part", "region"};
    return names[static_cast<int>(scope)];
}

std::optional<SendScope> send_scope_from_name(const std::string& name) {
    for (const SendScope s : kSendScopes) {
        if (name == send_scope_name(s)) return s;
    }
    return {};
}

Result<SentPiece> piece_to_send(const BaseKit& kit, const SendOptions& options, const Points& shape) {
    const auto wanted = wanted_vertices(kit, options);
    if (!wanted) return wanted.error();
    const Mesh& base = kit.mesh;
    SentPiece out;
    out.name = piece_name(options);
    if (options.scope == SendScope::Head && options.parts_off.empty() && !kit.head_vertices.empty()) {
        // the kit's own head mesh, in its own order
        out.mesh = kit.head, out.vertex = kit.head_vertices;
        for (std::size_t i = 0; i < out.vertex.size(); ++i) out.mesh.positions[i] = shape[out.vertex[i]];
        return out;
    }
    std::vector<Index> number(base.positions.size(), kNone), uv_number(base.uvs.size(), kNone);
    for (Index v = 0; v < wanted->size(); ++v) {
        if (!(*wanted)[v]) continue;
        number[v] = static_cast<Index>(out.vertex.size());
        out.vertex.push_back(v);
        out.mesh.positions.push_back(shape[v]);
    }
    out.mesh.group_names = base.group_names, out.mesh.materials = base.materials, out.mesh.images = base.images;
    for (Index f = 0; f < base.face_count(); ++f) {
        bool whole = true;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c)
            whole &= number[base.corner_vertex[c]] != kNone;
        if (!whole) continue;
        for (Index c = base.face_start[f]; c < base.face_start[f + 1]; ++c) {
            out.mesh.corner_vertex.push_back(number[base.corner_vertex[c]]);
            if (base.corner_uv.empty()) continue;
            const Index uv = base.corner_uv[c];
            if (uv != kNone && uv_number[uv] == kNone)
                uv_number[uv] = static_cast<Index>(out.mesh.uvs.size()), out.mesh.uvs.push_back(base.uvs[uv]);
            out.mesh.corner_uv.push_back(uv == kNone ? kNone : uv_number[uv]);
        }
        out.mesh.face_start.push_back(static_cast<Index>(out.mesh.corner_vertex.size()));
        if (!base.face_group.empty()) out.mesh.face_group.push_back(base.face_group[f]);
        if (!base.face_material.empty()) out.mesh.face_material.push_back(base.face_material[f]);
    }
    if (out.mesh.face_count() == 0)
        return Error{ErrorCode::BadInput, "Nothing is left to send: " + out.name + " has no faces."};
    return out;
}

Result<SentFile> send_out(const BaseKit& kit, const SendOptions& options, const std::vector<MorphAmount>& morphs,
                          const std::string& path) {
    const std::string kind = lower_extension(path);
    if (kind != ".obj" && kind != ".ply" && kind != ".glb")
        return Error{ErrorCode::Unsupported,
                     "The base goes out as .obj, .ply or .glb; '" + path + "' is none of them."};
    SentFile sent;
    sent.file = path, sent.topology = kit.topology_key, sent.options = options;
    if (kind == ".glb") sent.options.unit = Unit::Metre, sent.options.up = UpAxis::PlusY;
    for (const MorphAmount& m : morphs) {
        if (m.amount != 0) sent.morphs.emplace_back(m.morph->name, m.amount);
    }
    Points shape = mix_morphs(kit.mesh.positions, morphs);
    if (!sent.morphs.empty()) sent.shape = std::make_shared<const Points>(shape);
    if (options.pose) shape = skin(shape, kit.joints, kit.weights, *options.pose);
    auto piece = piece_to_send(kit, options, shape);
    if (!piece) return piece.error();
    Mesh mesh = std::move(piece->mesh);
    if (options.level > 0) {
        auto fine = Subdivided::make(mesh, options.level);
        if (!fine) return fine.error();
        mesh = (*fine)->mesh();
    }
    const double unit = millimetres(sent.options.unit);
    const Mat3 turn = rotation_to_y_up(sent.options.up).transpose();
    for (Vec3& p : mesh.positions) p = turn * p / unit;
    mesh.normals.clear(), mesh.corner_normal.clear();
    if (options.scope == SendScope::Head && options.level == 0) {
        // those of the whole mesh: no seam shows where the neck was cut
        const Points normals = vertex_normals(shape, kit.triangulation.triangles);
        for (const Index v : piece->vertex) mesh.normals.push_back(turn * normals[v]);
        mesh.corner_normal = mesh.corner_vertex;
    }
    // textures stay at home: the folder is for shapes
    mesh.images.clear();
    for (Material& m : mesh.materials) m.image = -1, m.image_path.clear(), m.tiles.clear();
    std::string comment =
        std::string(unit_name(sent.options.unit)) + ", " + up_axis_name(sent.options.up) + " up; " + piece->name;
    for (const auto& [name, amount] : sent.morphs) comment += "\n" + name + " x " + std::to_string(amount);
    if (auto ok = write_mesh(path, mesh, 1.0, comment); !ok) return ok.error();
    if (auto ok = write_file(sidecar_path(path), sent_text(sent)); !ok) return ok.error();
    return sent;
}

std::string sidecar_path(const std::string& file) { return file + ".sent.json"; }

std::string sent_text(const SentFile& s) {
    Json json = {{"format", "veldstone-sent"},
                 {"version", 1},
                 {"file", file_name(s.file)},
                 {"topology", s.topology},
                 {"scope", send_scope_name(s.options.scope)},
                 {"of", s.options.of},
                 {"level", s.options.level},
                 {"parts_off", s.options.parts_off},
                 {"unit", unit_name(s.options.unit)},
                 {"up", up_axis_name(s.options.up)},
                 {"morph", s.morph}};
    json["morphs"] = Json::array();
    for (const auto& [name, amount] : s.morphs) json["morphs"].push_back({{"name", name}, {"amount", amount}});
    if (const auto& p = s.options.pose)
        json["pose"] = {{"turns", vectors_json(p->turns)},
                        {"stretch", vectors_json(p->stretch)},
                        {"move", {p->move.x(), p->move.y(), p->move.z()}}};
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<SentFile> parse_sent(std::string_view text, const std::string& path, const BaseKit& kit) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    SentFile out;
    try {
        if (json.at("format") != "veldstone-sent" || json.at("version") != 1)
            return bad(path, "is no memory of a sent mesh.");
        out.file = (std::filesystem::path(path).parent_path() / json.at("file").get<std::string>()).string();
        out.topology = json.at("topology");
        if (out.topology != kit.topology_key) return bad(path, "was sent from another base mesh.");
        const auto scope = send_scope_from_name(json.at("scope"));
        const auto unit = unit_from_name(json.at("unit"));
        const auto up = up_axis_from_name(json.at("up"));
        if (!scope || !unit || !up) return bad(path, "has a scope, unit or axis that is not known.");
        SendOptions& o = out.options;
        o.scope = *scope, o.unit = *unit, o.up = *up;
        o.of = json.at("of"), o.level = std::clamp(json.at("level").get<int>(), 0, 2);
        o.parts_off = json.at("parts_off").get<std::vector<std::string>>();
        out.morph = json.at("morph");
        for (const Json& m : json.at("morphs")) out.morphs.emplace_back(m.at("name"), m.at("amount"));
        if (json.contains("pose")) {
            const Json& p = json["pose"];
            o.pose =
                Pose{matrices_from(p.at("turns")), Vec3(p.at("move").at(0), p.at("move").at(1), p.at("move").at(2)),
                     matrices_from(p.at("stretch"))};
            if (o.pose->turns.size() != kit.joints.size() ||
                (!o.pose->stretch.empty() && o.pose->stretch.size() != kit.joints.size()))
                return bad(path, "has a pose of another skeleton.");
        }
    } catch (const Json::exception& e) {
        return bad(path, std::string("is damaged: ") + e.what() + ". Remove it to have the mesh checked without it.");
    }
    return out;
}

Result<std::optional<SentFile>> read_sidecar(const std::string& file, const BaseKit& kit) {
    const std::string path = sidecar_path(file);
    std::error_code ignored;
    if (!std::filesystem::is_regular_file(path, ignored)) return std::optional<SentFile>();
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    auto sent = parse_sent(bytes->view(), path, kit);
    if (!sent) return sent.error();
    return std::optional<SentFile>(std::move(*sent));
}

}  // namespace veld
