#include "core/exchange/export.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <filesystem>
#include <set>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/exchange/correspondence.h"
#include "core/exchange/own_order.h"
#include "core/exchange/reduced_out.h"
#include "core/io/glb_write.h"
#include "core/io/obj.h"
#include "core/kit/original.h"
#include "core/kit_making/skeleton.h"

namespace veld {
namespace {

namespace fs = std::filesystem;

std::string shortest(double x) {
    char text[32];
    const auto end = std::to_chars(text, text + sizeof text, x);
    return {text, end.ptr};
}

// What morph_about() said, as far as it can be read.
void take_about(const std::string& text, Morph& m) {
    const Json json = Json::parse(text, nullptr, false);
    if (!json.is_object()) return;
    try {
        m.kind = morph_kind_from_name(json.at("kind")).value_or(MorphKind::Whole);
        m.group = json.at("group"), m.note = json.at("note"), m.origin = json.at("origin");
        m.low = json.at("range").at(0), m.high = json.at("range").at(1), m.usual = json.at("usual");
        m.tag = std::clamp(json.at("tag").get<int>(), 0, kMorphTags);
        if (json.contains("figures")) m.figures = json["figures"].dump();
        for (int k = 0; k < 3; ++k) m.root[k] = json.at("root").at(static_cast<std::size_t>(k));
        // the root was part of every vertex's difference
        for (Vec3& d : m.delta) d -= m.root;
        if (!json.contains("joints")) return;
        for (const auto& [joint, move] : json["joints"].items())
            m.joints[joint] = Vec3(move.at(0).get<double>(), move.at(1).get<double>(), move.at(2).get<double>());
    } catch (const Json::exception&) {
        m.root.setZero();
    }
}

std::string comment_of(const BaseKit& kit, const std::vector<MorphAmount>& amounts) {
    std::string out = kit.original ? "In the order, unit and axes of the kit's own file"
                                   : "mm, Y up, facing +Z, own left = +X; order of the base";
    for (const MorphAmount& a : amounts) {
        out += "\n" + a.morph->name + " x " + std::to_string(a.amount);
        if (!a.morph->origin.empty()) out += "  (" + a.morph->origin + ")";
        if (!a.morph->figures.empty()) out += "\n  figures " + a.morph->figures;
    }
    return out;
}

void drop_still(Morph& m) {
    std::erase_if(m.delta, [&, at = std::size_t{0}](const Vec3& d) mutable {
        const bool none = d.norm() < 1e-4;
        if (none) m.index[at] = kNone;
        return ++at, none;
    });
    std::erase(m.index, kNone);
}

// A file's target, as this shape of the base, with what was said of it.
Status add_target(const BaseKit& kit, const Points& shape, const FileTarget& target, std::vector<Morph>& out) {
    auto m = make_morph(kit, shape, target.name);
    if (!m) return m.error();
    take_about(target.about, *m);
    drop_still(*m);
    out.push_back(std::move(*m));
    return Done{};
}

// Of a file whose vertices are those of the kit's own.
Result<std::vector<Morph>> own_targets(const BaseKit& kit, const MeshFile& file) {
    const Similarity& to = kit.original->to_kit;
    std::vector<Morph> out;
    for (const FileTarget& t : file.targets) {
        Points shape = kit.mesh.positions;
        for (Index i = 0; i < t.delta.size(); ++i) {
            const Index v = kit.original->work_of[i];
            shape[v] = kit.mesh.positions[v] + to.scale * (to.rotation * t.delta[i]);
        }
        if (auto ok = add_target(kit, shape, t, out); !ok) return ok.error();
    }
    return out;
}

Result<std::vector<Morph>> from_glb(const BaseKit& kit, MeshFile&& file, const std::string& path) {
    if (file.targets.empty())
        return Error{ErrorCode::BadInput,
                     "'" + path + "' holds no morph targets. A sculpt goes through the return check."};
    if (const auto own = shape_in_own_order(kit, file.mesh.positions)) return own_targets(kit, file);
    const auto found = find_correspondence(kit.mesh, file.mesh, {});
    if (!found) return Error{found.error().code, "'" + path + "': " + found.error().message};
    if (found->first_found < kit.mesh.vertex_count() / 2 || found->faces_confirmed < 0.9)
        return Error{ErrorCode::BadInput,
                     "'" + path + "' is not of this base mesh: only " + std::to_string(found->first_found) +
                         " of its " + std::to_string(kit.mesh.vertex_count()) + " vertices were found by their UVs."};
    // glTF is metres
    std::vector<Morph> out;
    for (const FileTarget& t : file.targets) {
        Points shape = kit.mesh.positions;
        for (Index i = 0; i < t.delta.size(); ++i) {
            if (found->first_of[i] != kNone)
                shape[found->first_of[i]] = kit.mesh.positions[found->first_of[i]] + 1000 * t.delta[i];
        }
        if (auto ok = add_target(kit, shape, t, out); !ok) return ok.error();
    }
    return out;
}

Result<Morph> from_csv(const BaseKit& kit, const std::string& text, const std::string& path) {
    Points shape = kit.mesh.positions;
    Morph head;
    std::size_t line_number = 0;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        std::string line = text.substr(at, end - at);
        at = end + 1, ++line_number;
        if (!line.empty() && line.back() == '\r') line.pop_back();
        const std::string where = "'" + path + "', line " + std::to_string(line_number);
        if (line.starts_with("# name ")) head.name = line.substr(7);
        if (line.starts_with("# topology ") && line.substr(11) != kit.topology_key)
            return Error{ErrorCode::BadFile, where + ": it belongs to another base mesh."};
        if (line.starts_with("# about ")) take_about(line.substr(8), head);
        if (line.empty() || line[0] == '#' || line.starts_with("vertex")) continue;
        double n[4];
        const char *p = line.data(), *stop = p + line.size();
        for (int k = 0; k < 4; ++k) {
            const auto got = std::from_chars(p, stop, n[k]);
            if (got.ec != std::errc() || (k < 3 && (got.ptr == stop || *got.ptr != ',')))
                return Error{ErrorCode::BadFile, where + ": wanted are four numbers, vertex,dx,dy,dz."};
            p = got.ptr + (k < 3);
        }
        if (!(n[0] >= 0) || n[0] >= static_cast<double>(shape.size()) || n[0] != std::floor(n[0]))
            return Error{ErrorCode::BadFile, where + ": the base has no vertex " + shortest(n[0]) + "."};
        shape[static_cast<std::size_t>(n[0])] += Vec3(n[1], n[2], n[3]);
    }
    auto out = make_morph(kit, shape, head.name.empty() ? fs::path(path).stem().string() : head.name, 1e-9);
    if (!out) return Error{out.error().code, "'" + path + "': " + out.error().message};
    head.name = out->name, head.topology = out->topology, head.index = out->index, head.delta = out->delta;
    return head;
}

Result<std::vector<Morph>> from_file(const BaseKit& kit, const std::string& path) {
    const std::string kind = lower_extension(path);
    const auto one = [](Result<Morph>&& m) -> Result<std::vector<Morph>> {
        if (!m) return m.error();
        return std::vector<Morph>{std::move(*m)};
    };
    if (kind == ".json") return one(read_morph(path, kit));
    if (kind == ".csv") {
        auto bytes = read_file(path);
        if (!bytes) return bytes.error();
        return one(from_csv(kit, std::string(bytes->view()), path));
    }
    auto file = read_mesh(path);
    if (!file) return file.error();
    if (kind == ".glb" || kind == ".gltf") return from_glb(kit, std::move(*file), path);
    if (const auto own = shape_in_own_order(kit, file->mesh.positions)) {
        auto m = make_morph(kit, *own, fs::path(path).stem().string());
        if (m) m->origin = "From " + file_name(path);
        return one(std::move(m));
    }
    if (file->mesh.positions.size() == kit.mesh.positions.size() && topology_key(file->mesh) != kit.topology_key)
        return Error{ErrorCode::BadInput, "'" + path +
                                              "' has the base's vertex count but other faces, so its vertices may be "
                                              "in another order. The return check puts it in order."};
    auto m = make_morph(kit, file->mesh.positions, fs::path(path).stem().string());
    if (!m)
        return Error{m.error().code, "'" + path + "': " + m.error().message + " The return check says what differs."};
    m->origin = "From " + file_name(path);
    return one(std::move(m));
}

}  // namespace

std::string morph_about(const Morph& m) {
    Json out = {{"kind", morph_kind_name(m.kind)},
                {"group", m.group},
                {"range", {m.low, m.high}},
                {"usual", m.usual},
                {"tag", m.tag},
                {"root", {m.root.x(), m.root.y(), m.root.z()}},
                {"note", m.note},
                {"origin", m.origin}};
    for (const auto& [joint, move] : m.joints) out["joints"][joint] = {move.x(), move.y(), move.z()};
    if (!m.figures.empty()) out["figures"] = Json::parse(m.figures, nullptr, false);
    return out.dump(-1, ' ', false, Json::error_handler_t::replace);
}

Status export_shape_obj(const BaseKit& kit, const Points& shape, const std::string& comment, const std::string& path) {
    if (kit.original) return write_in_own_order(kit, shape, comment, path);
    Mesh mesh = kit.mesh;
    mesh.positions = shape;
    mesh.material_libraries.clear();  // they lie beside the kit, not beside this file
    return write_obj(path, mesh, comment);
}

Status export_placed_obj(const BaseKit& kit, const Points& shape, const std::string& comment,
                         const std::string& path) {
    if (!kit.original) return export_shape_obj(kit, shape, comment, path);
    Points turned = shape;  // which giving it back in the file's frame undoes
    for (Vec3& p : turned) p = kit.original->to_kit(p);
    return export_shape_obj(kit, turned, comment, path);
}

Status export_morphed_obj(const BaseKit& kit, const std::vector<MorphAmount>& amounts, const std::string& path) {
    return export_shape_obj(kit, mix_morphs(kit.mesh.positions, amounts), comment_of(kit, amounts), path);
}

namespace {

// worn: null where the kit shows its own pictures.
Status write_model(const BaseKit& kit, const std::vector<GlbTarget>& targets, const GlbSkin* worn,
                   const std::string& path) {
    GlbModel model;
    model.mesh = &kit.mesh;
    model.joints = &kit.joints;
    model.weights = &kit.weights;
    model.metres_per_unit = 0.001;
    model.name = fs::path(path).stem().string();
    model.targets = targets;
    if (worn) model.pictures = worn->pictures, model.variants = worn->variants;
    SkinWeights weights;
    if (kit.own_rig) {
        auto kept = own_weights(kit);
        if (!kept) return kept.error();
        weights = std::move(*kept);
        model.joints = &kit.own_rig->joints, model.weights = &weights;
    }
    return write_file(path, glb_bytes(model));
}

std::vector<GlbTarget> targets_of(const BaseKit& kit, const std::vector<MorphAmount>& morphs) {
    std::vector<GlbTarget> out;
    for (const MorphAmount& m : morphs) {
        GlbTarget target;
        target.name = m.morph->name;
        target.weight = m.amount;
        target.about = morph_about(*m.morph);
        target.delta.assign(kit.mesh.positions.size(), m.morph->root);
        for (std::size_t i = 0; i < m.morph->index.size(); ++i) target.delta[m.morph->index[i]] += m.morph->delta[i];
        out.push_back(std::move(target));
    }
    return out;
}

}  // namespace

Status export_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const std::string& path) {
    const std::vector<GlbTarget> targets = targets_of(kit, morphs);
    if (!original_is_glb(kit) || (kit.own_rig && !kit.own_rig->file.empty()))
        return write_model(kit, targets, nullptr, path);
    std::vector<FileTarget> own;
    for (const GlbTarget& t : targets) own.push_back({t.name, t.about, t.delta});
    return write_own_glb(kit, own, path);
}

Status export_worn_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const GlbSkin& skin,
                       const std::string& path) {
    return write_model(kit, targets_of(kit, morphs), &skin, path);
}

std::string delta_csv(const Morph& m) {
    std::string out = "# name " + m.name + "\n# topology " + m.topology + "\n# unit mm\n# about " + morph_about(m) +
                      "\nvertex,dx,dy,dz\n";
    for (std::size_t i = 0; i < m.index.size(); ++i) {
        out += std::to_string(m.index[i]);
        for (int k = 0; k < 3; ++k) out += "," + shortest(m.delta[i][k]);
        out += "\n";
    }
    return out;
}

std::optional<MorphFormat> morph_format(const std::string& extension) {
    const std::string e = extension.starts_with('.') ? extension.substr(1) : extension;
    if (e == "json") return MorphFormat::Json;
    if (e == "obj") return MorphFormat::Obj;
    if (e == "csv") return MorphFormat::Csv;
    if (e == "glb") return MorphFormat::Glb;
    return {};
}

std::string file_name_of(const std::string& pattern, const Morph& morph, std::size_t number) {
    char digits[16];
    std::snprintf(digits, sizeof digits, "%03zu", number);
    const auto clean = [](std::string text, bool folders) {
        for (char& c : text) {
            if (std::string_view("\\:*?\"<>|\n\r\t").find(c) != std::string_view::npos || (c == '/' && !folders))
                c = '_';
        }
        return text;
    };
    std::string out = pattern;
    const std::pair<const char*, std::string> fields[] = {{"{name}", clean(morph.name, false)},
                                                          {"{group}", clean(morph.group, true)},
                                                          {"{kind}", morph_kind_name(morph.kind)},
                                                          {"{number}", digits}};
    for (const auto& [field, value] : fields) {
        for (std::size_t at = 0; (at = out.find(field, at)) != std::string::npos; at += value.size())
            out.replace(at, std::string_view(field).size(), value);
    }
    // no way up and out of the folder, no empty names
    std::string safe;
    for (const fs::path& step : fs::path(out).relative_path()) {
        if (step == ".." || step == "." || step.empty()) continue;
        safe += (safe.empty() ? "" : "/") + step.string();
    }
    return safe.empty() ? digits : safe;
}

Result<std::vector<std::string>> export_each(const BaseKit& kit, const std::vector<const Morph*>& morphs,
                                             const EachInto& into, const Progress& progress) {
    const MorphFormat format = into.format;
    static constexpr const char* endings[] = {".json", ".obj", ".csv", ".glb"};
    std::vector<std::string> paths;
    std::set<std::string> taken;
    for (std::size_t i = 0; i < morphs.size(); ++i) {
        paths.push_back(into.folder + "/" + file_name_of(into.pattern, *morphs[i], i + 1) +
                        endings[static_cast<int>(format)]);
        if (!taken.insert(paths.back()).second)
            return Error{ErrorCode::BadInput, "Two morphs would be written to '" + paths.back() +
                                                  "'. Put {name} or {number} into the naming pattern."};
    }
    std::optional<ReducedOut> versions;
    if (into.reduced && format == MorphFormat::Json)
        return Error{ErrorCode::BadInput,
                     "Morph files are of the base alone. Reduced versions go out as OBJ, delta lists or GLB."};
    if (into.reduced) {
        auto all = ReducedOut::open(kit);
        if (!all) return all.error();
        versions.emplace(std::move(*all));
    }
    std::vector<std::string> further;
    for (std::size_t i = 0; i < morphs.size(); ++i) {
        if (progress.is_cancelled())
            return Error{ErrorCode::Cancelled,
                         "Stopped after " + std::to_string(i) + " of " + std::to_string(morphs.size()) + " files."};
        progress.say(static_cast<double>(i) / static_cast<double>(morphs.size()), "Writing " + morphs[i]->name);
        std::error_code failed;
        fs::create_directories(fs::path(paths[i]).parent_path(), failed);
        if (failed)
            return Error{ErrorCode::Io, "Cannot make the folder '" + fs::path(paths[i]).parent_path().string() +
                                            "': " + failed.message() + "."};
        const Morph& m = *morphs[i];
        const Status ok = format == MorphFormat::Json  ? write_file(paths[i], morph_text(m))
                          : format == MorphFormat::Csv ? write_file(paths[i], delta_csv(m))
                          : format == MorphFormat::Obj ? export_morphed_obj(kit, {{&m, 1.0}}, paths[i])
                                                       : export_glb(kit, {{&m, 0.0}}, paths[i]);
        if (!ok) return ok.error();
        if (!versions) continue;
        auto more = versions->write({{&m, format == MorphFormat::Glb ? 0.0 : 1.0}}, paths[i]);
        if (!more) return more.error();
        further.insert(further.end(), more->begin(), more->end());
    }
    paths.insert(paths.end(), further.begin(), further.end());
    progress.say(1, "Done");
    return paths;
}

Result<std::vector<Morph>> import_morphs(const BaseKit& kit, const std::string& path, const Progress& progress) {
    std::error_code ignored;
    if (!fs::is_directory(path, ignored)) return from_file(kit, path);
    std::vector<std::string> files;
    for (const auto& entry : fs::recursive_directory_iterator(path, ignored)) {
        const std::string kind = lower_extension(entry.path().string());
        if (entry.is_regular_file(ignored) &&
            (kind == ".json" || kind == ".csv" || kind == ".obj" || kind == ".ply" || kind == ".glb"))
            files.push_back(entry.path().string());
    }
    if (files.empty())
        return Error{ErrorCode::BadInput,
                     "The folder '" + path + "' holds no morph files, OBJ, PLY, GLB or delta lists."};
    std::sort(files.begin(), files.end());
    std::vector<Result<std::vector<Morph>>> read(files.size(), Error{});
    tbb::parallel_for(std::size_t{0}, files.size(), [&](std::size_t i) {
        if (!progress.is_cancelled()) read[i] = from_file(kit, files[i]);
    });
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Import cancelled."};
    std::vector<Morph> out;
    for (std::size_t i = 0; i < files.size(); ++i) {
        if (!read[i]) return read[i].error();
        for (Morph& m : *read[i]) {
            // below folders: those are its groups
            const std::string group = fs::relative(fs::path(files[i]).parent_path(), path, ignored).string();
            if (m.group.empty() && group != ".") m.group = group;
            out.push_back(std::move(m));
        }
    }
    return out;
}

}  // namespace veld
