#include "core/io/obj.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <set>
#include <sstream>
#include <unordered_map>

#include "core/base/file.h"
#include "core/io/text_scan.h"

namespace veld {
namespace {

class ObjParser {
 public:
    ObjParser(std::string_view text, const std::string& path)
        : text_(text), path_(path), p_(text.data()), end_(text.data() + text.size()) {}

    Result<MeshFile> run();

 private:
    void skip_space() {
        for (;;) {
            while (p_ < end_ && is_space(*p_)) ++p_;
            // a backslash at the end of a line continues it
            if (p_ + 1 < end_ && *p_ == '\\' && (p_[1] == '\n' || p_[1] == '\r')) {
                p_ += p_[1] == '\r' && p_ + 2 < end_ && p_[2] == '\n' ? 3 : 2;
                continue;
            }
            return;
        }
    }
    bool at_line_end() const { return p_ >= end_ || *p_ == '\n' || *p_ == '#'; }
    void skip_line() {
        const void* at = p_ < end_ ? std::memchr(p_, '\n', end_ - p_) : nullptr;
        p_ = at ? static_cast<const char*>(at) + 1 : end_;
    }
    std::string rest_of_line() {
        skip_space();
        const char* start = p_;
        while (p_ < end_ && *p_ != '\n') ++p_;
        const char* stop = p_;
        while (stop > start && is_space(stop[-1])) --stop;
        return {start, stop};
    }
    bool fail(const std::string& why) {
        error_ = "'" + path_ + "', line " + std::to_string(line_number(text_, line_)) + ": " + why;
        return false;
    }

    bool line();
    bool vertex();
    bool texture_point();
    bool normal();
    bool face();
    bool corner_index(std::size_t count, const char* what, Index& out);
    bool finite(const double* values, int count);
    void group(const std::string& name);
    void material(const std::string& name);
    void reserve();

    std::string_view text_;
    const std::string& path_;
    const char* p_;
    const char* end_;
    const char* line_ = nullptr;
    std::string error_;
    MeshFile out_;
    Index group_ = kNone, material_ = kNone;
    std::unordered_map<std::string, Index> group_ids_, material_ids_;
    std::size_t skipped_ = 0;
    bool any_uv_ = false, any_normal_ = false;
};

bool ObjParser::finite(const double* values, int count) {
    for (int i = 0; i < count; ++i) {
        if (!std::isfinite(values[i])) {
            return fail(
                "a coordinate is not a finite number. Delete that vertex where the mesh "
                "was made and export again.");
        }
    }
    return true;
}

bool ObjParser::vertex() {
    double v[8];
    int count = 0;
    for (skip_space(); count < 8 && !at_line_end(); skip_space()) {
        if (!scan_double(p_, end_, v[count])) return fail("a vertex holds something that is no number.");
        ++count;
    }
    if (count < 3) return fail("a vertex needs three numbers, this one has " + std::to_string(count) + ".");
    if (!finite(v, count)) return false;
    Mesh& mesh = out_.mesh;
    mesh.positions.emplace_back(v[0], v[1], v[2]);
    if (count >= 6) {
        mesh.colours.resize(mesh.positions.size() - 1);
        const double* c = v + (count == 7 ? 4 : 3);
        const auto byte = [](double x) {
            return static_cast<std::uint8_t>(std::lround(std::clamp(x, 0.0, 1.0) * 255));
        };
        mesh.colours.push_back({byte(c[0]), byte(c[1]), byte(c[2]), 255});
    }
    return true;
}

bool ObjParser::texture_point() {
    double v[2] = {0, 0};
    for (int i = 0; i < 2; ++i) {
        skip_space();
        if (i == 1 && at_line_end()) break;
        if (!scan_double(p_, end_, v[i])) return fail("a texture point (vt) holds something that is no number.");
    }
    if (!finite(v, 2)) return false;
    out_.mesh.uvs.emplace_back(v[0], v[1]);
    return true;
}

bool ObjParser::normal() {
    double v[3];
    for (double& x : v) {
        skip_space();
        if (!scan_double(p_, end_, x)) return fail("a normal (vn) needs three numbers.");
    }
    if (!finite(v, 3)) return false;
    out_.mesh.normals.emplace_back(v[0], v[1], v[2]);
    return true;
}

bool ObjParser::corner_index(std::size_t count, const char* what, Index& out) {
    std::int64_t i = 0;
    if (!scan_int(p_, end_, i)) return fail(std::string("a face corner has no number for its ") + what + ".");
    const std::int64_t at = i < 0 ? static_cast<std::int64_t>(count) + i : i - 1;
    if (at < 0 || at >= static_cast<std::int64_t>(count)) {
        return fail("a face asks for " + std::string(what) + " " + std::to_string(i) + ", but " +
                    std::to_string(count) + " were read so far. The file is damaged or cut short; export it again.");
    }
    out = static_cast<Index>(at);
    return true;
}

bool ObjParser::face() {
    Mesh& mesh = out_.mesh;
    const std::size_t first = mesh.corner_vertex.size();
    for (skip_space(); !at_line_end(); skip_space()) {
        Index v = kNone, t = kNone, n = kNone;
        if (!corner_index(mesh.positions.size(), "vertex", v)) return false;
        if (p_ < end_ && *p_ == '/') {
            ++p_;
            if (p_ < end_ && *p_ != '/') {
                if (!corner_index(mesh.uvs.size(), "texture point", t)) return false;
                any_uv_ = true;
            }
            if (p_ < end_ && *p_ == '/') {
                ++p_;
                if (!corner_index(mesh.normals.size(), "normal", n)) return false;
                any_normal_ = true;
            }
        }
        mesh.corner_vertex.push_back(v);
        mesh.corner_uv.push_back(t);
        mesh.corner_normal.push_back(n);
    }
    if (mesh.corner_vertex.size() < first + 3) return fail("a face has fewer than three corners.");
    mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    mesh.face_group.push_back(group_);
    mesh.face_material.push_back(material_);
    return true;
}

void ObjParser::group(const std::string& name) {
    const auto [at, fresh] = group_ids_.try_emplace(name, static_cast<Index>(group_ids_.size()));
    if (fresh) out_.mesh.group_names.push_back(name);
    group_ = at->second;
}

void ObjParser::material(const std::string& name) {
    const auto [at, fresh] = material_ids_.try_emplace(name, static_cast<Index>(material_ids_.size()));
    if (fresh) {
        Material m;
        m.name = name;
        out_.mesh.materials.push_back(m);
    }
    material_ = at->second;
}

bool ObjParser::line() {
    line_ = p_;
    skip_space();
    if (at_line_end()) return true;
    const char a = *p_, b = p_ + 1 < end_ ? p_[1] : '\n';
    const bool one = is_space(b);
    if (a == 'v' && one) return p_ += 1, vertex();
    if (a == 'f' && one) return p_ += 1, face();
    if (a == 'v' && p_ + 2 < end_ && is_space(p_[2])) {
        if (b == 't') return p_ += 2, texture_point();
        if (b == 'n') return p_ += 2, normal();
    }
    if ((a == 'g' || a == 'o') && (one || b == '\n')) {
        ++p_;
        const std::string name = rest_of_line();
        group(name.empty() ? "default" : name);
        return true;
    }
    const std::string_view left(p_, static_cast<std::size_t>(end_ - p_));
    if (left.starts_with("usemtl ")) {
        p_ += 7;
        material(rest_of_line());
    } else if (left.starts_with("mtllib ")) {
        p_ += 7;
        out_.mesh.material_libraries.push_back(rest_of_line());
    } else if (a != 's') {
        ++skipped_;
    }
    return true;
}

void ObjParser::reserve() {
    // by the usual mix of lines in a scan with UVs and normals; a wrong guess only costs growth
    const std::size_t bytes = text_.size();
    out_.mesh.positions.reserve(bytes / 110);
    out_.mesh.corner_vertex.reserve(bytes / 36);
    out_.mesh.corner_uv.reserve(bytes / 36);
    out_.mesh.corner_normal.reserve(bytes / 36);
    out_.mesh.face_start.reserve(bytes / 110);
    out_.mesh.face_group.reserve(bytes / 110);
    out_.mesh.face_material.reserve(bytes / 110);
}

Result<MeshFile> ObjParser::run() {
    reserve();
    while (p_ < end_) {
        if (!line()) return Error{ErrorCode::BadFile, error_};
        skip_line();
    }
    Mesh& mesh = out_.mesh;
    if (!any_uv_) mesh.corner_uv.clear();
    if (!any_normal_) mesh.corner_normal.clear();
    if (mesh.group_names.empty()) mesh.face_group.clear();
    if (mesh.materials.empty()) mesh.face_material.clear();
    if (!mesh.colours.empty()) mesh.colours.resize(mesh.positions.size());
    if (skipped_ > 0) {
        out_.notes.push_back(std::to_string(skipped_) + " lines of other kinds (points, curves) were left out.");
    }
    return std::move(out_);
}

void append_corner(std::string& text, const Mesh& mesh, Index c) {
    text += ' ';
    append_int(text, std::int64_t{mesh.corner_vertex[c]} + 1);
    const Index t = mesh.corner_uv.empty() ? kNone : mesh.corner_uv[c];
    const Index n = mesh.corner_normal.empty() ? kNone : mesh.corner_normal[c];
    if (t == kNone && n == kNone) return;
    text += '/';
    if (t != kNone) append_int(text, std::int64_t{t} + 1);
    if (n == kNone) return;
    text += '/';
    append_int(text, std::int64_t{n} + 1);
}

template <class Vector>
void append_row(std::string& text, const char* tag, const Vector& v) {
    text += tag;
    for (int i = 0; i < v.size(); ++i) {
        text += ' ';
        append_double(text, v[i]);
    }
}

}  // namespace

Result<MeshFile> parse_obj(std::string_view text, const std::string& path) { return ObjParser(text, path).run(); }

Result<MeshFile> read_obj(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    auto file = parse_obj(bytes->view(), path);
    if (file) load_materials(folder_of(path), *file);
    return file;
}

std::string obj_text(const Mesh& mesh, const std::string& comment) {
    std::string text;
    text.reserve(mesh.positions.size() * 60 + mesh.uvs.size() * 40 + mesh.corner_vertex.size() * 20);
    std::istringstream lines(comment);
    for (std::string line; std::getline(lines, line);) text += "# " + line + "\n";
    for (const std::string& name : mesh.material_libraries) text += "mtllib " + name + "\n";
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) {
        append_row(text, "v", mesh.positions[v]);
        if (!mesh.colours.empty()) {
            const Colour& c = mesh.colours[v];
            for (int x : {c.r, c.g, c.b}) {
                text += ' ';
                append_double(text, x / 255.0);
            }
        }
        text += '\n';
    }
    for (const Vec2& uv : mesh.uvs) append_row(text, "vt", uv), text += '\n';
    for (const Vec3& n : mesh.normals) append_row(text, "vn", n), text += '\n';
    Index group = kNone, material = kNone;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (!mesh.face_group.empty() && mesh.face_group[f] != group && mesh.face_group[f] != kNone) {
            group = mesh.face_group[f];
            text += "g " + mesh.group_names[group] + "\n";
        }
        if (!mesh.face_material.empty() && mesh.face_material[f] != material && mesh.face_material[f] != kNone) {
            material = mesh.face_material[f];
            text += "usemtl " + mesh.materials[material].name + "\n";
        }
        text += 'f';
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) append_corner(text, mesh, c);
        text += '\n';
    }
    return text;
}

Status write_obj(const std::string& path, const Mesh& mesh, const std::string& comment) {
    return write_file(path, obj_text(mesh, comment));
}

namespace {

constexpr const char* kTileToken = "<UDIM>";

// Into mesh.images; -1 with a note when it is not there. Kinds that we do not show are passed over.
int load_image(const std::string& folder, const std::string& path, MeshFile& file) {
    Mesh& mesh = file.mesh;
    for (std::size_t i = 0; i < mesh.images.size(); ++i) {
        if (mesh.images[i].name == path) return static_cast<int>(i);
    }
    const std::string kind = lower_extension(path);
    if (kind != ".jpg" && kind != ".jpeg" && kind != ".png") return -1;
    auto bytes = read_file(folder + "/" + path);
    if (!bytes) {
        file.notes.push_back("The texture '" + path + "' was not found beside the mesh.");
        return -1;
    }
    const std::string_view view = bytes->view();
    mesh.images.push_back({path, kind == ".png" ? "image/png" : "image/jpeg", {view.begin(), view.end()}});
    return static_cast<int>(mesh.images.size()) - 1;
}

std::set<int> tiles_in_use(const Mesh& mesh, Index material) {
    std::set<int> out;
    if (mesh.corner_uv.empty() || mesh.face_material.empty()) return out;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (mesh.face_material[f] != material) continue;
        Vec2 middle = Vec2::Zero();
        int known = 0;
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c) {
            if (mesh.corner_uv[c] != kNone) middle += mesh.uvs[mesh.corner_uv[c]], ++known;
        }
        if (known > 0) out.insert(udim_of(middle / known));
    }
    return out;
}

}  // namespace

void load_materials(const std::string& folder, MeshFile& file) {
    Mesh& mesh = file.mesh;
    for (const std::string& library : mesh.material_libraries) {
        auto bytes = read_file(folder + "/" + library);
        if (!bytes) {
            file.notes.push_back("The material library '" + library +
                                 "' was not found; materials keep their names only.");
            continue;
        }
        std::istringstream lines{std::string(bytes->view())};
        Material* current = nullptr;
        for (std::string line; std::getline(lines, line);) {
            std::istringstream words(line);
            std::string key, value;
            words >> key;
            std::getline(words >> std::ws, value);
            while (!value.empty() && is_space(value.back())) value.pop_back();
            if (key == "newmtl") {
                current = nullptr;
                for (Material& m : mesh.materials) {
                    if (m.name == value) current = &m;
                }
            } else if (key == "Kd" && current) {
                std::istringstream numbers(value);
                std::array<double, 3> c{};
                if (numbers >> c[0] >> c[1] >> c[2]) current->colour = c;
            } else if (key == "map_Kd" && current) {
                current->image_path = value;
            }
        }
    }
    for (Material& m : mesh.materials) {
        if (m.image_path.empty()) continue;
        const std::size_t token = m.image_path.find(kTileToken);
        if (token == std::string::npos) {
            m.image = load_image(folder, m.image_path, file);
            continue;
        }
        for (const int tile : tiles_in_use(mesh, static_cast<Index>(&m - mesh.materials.data()))) {
            std::string path = m.image_path;
            path.replace(token, std::strlen(kTileToken), std::to_string(tile));
            if (const int image = load_image(folder, path, file); image >= 0) m.tiles.emplace_back(tile, image);
        }
    }
}

}  // namespace veld
