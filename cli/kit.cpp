// veldstone-cli kit: a base kit from any base mesh; what a kit holds and can do.
#include <filesystem>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/own_order.h"
#include "core/exchange/reduced_out.h"
#include "core/io/mesh_write.h"
#include "core/kit/original.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/carry_morphs.h"
#include "core/kit_making/check_kit.h"
#include "core/kit_making/make_kit.h"
#include "core/morph/morph_file.h"
#include "core/rig/rest_poses.h"

namespace veld::cli {
namespace {

struct KitOptions {
    std::string mesh, model, out, unit, up = "auto", landmarks, kit;
    std::vector<std::string> parts;  // PART=WORD or PART=FILE
    std::string expressions, skeleton;
    std::vector<std::string> more, reduced, rules;
    std::string from, to;
    std::vector<std::string> morphs;
    bool report = false, with_reduced = false;
};

Json ability_json(const KitAbility& ability) {
    return {
        {"ability", ability.name}, {"ready", ability.ready()}, {"missing", ability.missing}, {"weak", ability.weak}};
}

std::string joined(const std::vector<std::string>& texts) {
    std::string out;
    for (const std::string& text : texts) out += (out.empty() ? "" : "; ") + text;
    return out;
}

std::string abilities_text(const BaseKit& kit) {
    std::string out;
    for (const KitAbility& a : check_kit(kit)) {
        out += std::string(a.ready() ? "  ready    " : "  missing  ") + a.name;
        if (!a.missing.empty()) out += ": needs " + joined(a.missing);
        if (!a.weak.empty())
            out += std::string(a.ready() ? " (weaker: " : "; weaker: ") + joined(a.weak) + (a.ready() ? ")" : "");
        out += "\n";
    }
    return out;
}

Json report_json(const MadeKit& made) {
    const KitReport& r = made.report;
    Json json = {{"unit", unit_name(r.unit)},
                 {"unit_reason", r.unit_reason},
                 {"up", up_axis_name(r.up)},
                 {"up_reason", r.up_reason},
                 {"figure", r.figure},
                 {"file_vertices", r.file_vertices},
                 {"joined_vertices", r.joined},
                 {"vertices", made.kit.mesh.positions.size()},
                 {"mirror", {{"paired", r.paired}, {"unpaired", r.unpaired}}},
                 {"neck_ring", made.kit.neck_ring.size()},
                 {"joints", made.kit.joints.size()},
                 {"own_joints", r.own_joints},
                 {"roles_open", r.roles_open},
                 {"own_expressions", r.own_expressions},
                 {"expressions", made.kit.expressions.size()},
                 {"landmarks", made.kit.landmarks.size()},
                 {"curves", made.kit.curves.size()},
                 {"unsure", r.doubts},
                 {"left_out", r.left_out},
                 {"model_median_mm", r.model.surface.median},
                 {"notes", r.notes},
                 {"seconds", r.seconds}};
    for (const MadePart& part : r.parts)
        json["parts"].push_back(
            {{"name", part.name}, {"pieces", part.pieces}, {"vertices", part.vertices}, {"off_mm", part.off_mm}});
    for (const auto& [name, vertices] : made.kit.regions) json["regions"][name] = vertices.size();
    for (const KitAbility& a : check_kit(made.kit)) json["abilities"].push_back(ability_json(a));
    return json;
}

std::string report_text(const MadeKit& made, bool whole) {
    const KitReport& r = made.report;
    std::string out = std::to_string(made.kit.mesh.positions.size()) + " vertices (" + std::to_string(r.joined) +
                      " of the file's " + std::to_string(r.file_vertices) + " lie on seams); " + unit_name(r.unit) +
                      " (" + r.unit_reason + "), up " + up_axis_name(r.up) + "\n";
    for (const MadePart& part : r.parts)
        out += "  part " + part.name + ": " + std::to_string(part.vertices) + " vertices in " +
               std::to_string(part.pieces) + (part.pieces == 1 ? " piece\n" : " pieces\n");
    out += "  mirror map: " + std::to_string(r.paired) + " vertices have a partner, " + std::to_string(r.unpaired) +
           " have none\n";
    out += "  " + std::to_string(made.kit.landmarks.size()) + " landmarks, " + std::to_string(r.doubts.size()) +
           " of them unsure; " + std::to_string(made.kit.curves.size()) + " guide curves\n";
    if (r.own_joints)
        out += "  the file's own " + std::to_string(r.own_joints) + " joints, " +
               std::to_string(made.kit.own_rig->roles.size()) + " of them with a role; " +
               std::to_string(r.roles_open.size()) + " roles are open\n";
    out += "  " + std::to_string(made.kit.expressions.size()) + " expressions, " +
           (r.own_expressions ? "the base's own\n" : "carried over from the known kit\n");
    if (whole) {
        for (const std::string& role : r.roles_open) out += "    nobody has the role " + role + "\n";
        for (const auto& [name, mm] : r.doubts) {
            char line[160];
            std::snprintf(line, sizeof line, "    unsure: %s, may be %.1f mm off\n",
                          landmark_scheme().plain(name).c_str(), mm);
            out += line;
        }
        for (const auto& [name, why] : r.left_out)
            out += "    left out: " + landmark_scheme().plain(name) + ": " + why + "\n";
    }
    out += abilities_text(made.kit);
    for (const std::string& note : r.notes) out += note + "\n";
    return out;
}

int make(const KitOptions& o, const Output& output) {
    auto model = read_base_kit(o.model);
    if (!model) return output.refuse(model.error());
    KitRecipe recipe;
    recipe.file = o.mesh;
    if (!o.unit.empty()) recipe.unit = unit_from_name(o.unit);
    if (o.up != "auto") recipe.up = up_axis_from_name(o.up);
    for (const std::string& text : o.parts) {
        const auto [part, what] = parted(text);
        if (part.empty() || what.empty())
            return output.refuse({ErrorCode::BadInput, "--part wants PART=WORD or PART=FILE, not '" + text + "'."});
        std::error_code none;
        if (std::filesystem::is_regular_file(what, none))
            recipe.more.push_back({what, part});
        else
            recipe.part[what] = part;
    }
    for (const std::string& path : o.more) recipe.more.push_back({path, {}});
    recipe.expressions = o.expressions, recipe.skeleton = o.skeleton;
    for (const std::string& text : o.reduced) {
        const auto [name, path] = parted(text);
        if (name.empty())
            return output.refuse({ErrorCode::BadInput, "--reduced wants NAME=FILE, not '" + text + "'."});
        recipe.reduced[name] = path;
    }
    for (const std::string& text : o.rules) {
        const auto [part, name] = parted(text);
        const auto rule = part_rule_from_name(name);
        if (part.empty() || !rule)
            return output.refuse({ErrorCode::BadInput,
                                  "--goes-with wants PART=RULE, with one of eye, upper_jaw, "
                                  "lower_jaw, edge, skin, not '" +
                                      text + "'."});
        recipe.rule[part] = *rule;
    }
    if (!o.landmarks.empty()) {
        auto kept = read_landmarks(o.landmarks);
        if (!kept) return output.refuse(kept.error());
        recipe.landmarks = std::move(kept->set);
    }
    FaceNetwork network;
    const Progress progress = terminal_progress();
    auto made = make_kit(network, *model, recipe, progress);
    if (!made) return output.refuse(made.error());
    if (auto ok = write_base_kit(made->kit, o.out, recipe.files()); !ok) return output.refuse(ok.error());
    made->kit.folder = o.out;
    Json json = report_json(*made);
    json["written"] = o.out;
    output.result(json, report_text(*made, o.report));
    return 0;
}

int carry(const KitOptions& o, const Output& output) {
    const auto from = read_base_kit(o.from), to = read_base_kit(o.to);
    if (!from) return output.refuse(from.error());
    if (!to) return output.refuse(to.error());
    std::vector<Morph> morphs;
    for (const std::string& path : o.morphs) {
        auto morph = read_morph(path, *from);
        if (!morph) return output.refuse(morph.error());
        morphs.push_back(std::move(*morph));
    }
    std::vector<const Morph*> all;
    for (const Morph& m : morphs) all.push_back(&m);
    const Progress progress = terminal_progress();
    const auto bank = carry_morphs(*from, *to, all, progress);
    if (!bank) return output.refuse(bank.error());
    std::error_code failed;
    std::filesystem::create_directories(o.out, failed);
    Json json = {{"exact_vertices", bank->exact},
                 {"without_place", bank->without},
                 {"apart_median_mm", bank->apart_mm},
                 {"morphs", Json::array()},
                 {"notes", bank->notes}};
    std::string text = bank->exact ? std::to_string(bank->exact) + " vertices lie where the old base has one: exact\n"
                                   : std::string("the old base was fitted onto the new one\n");
    for (std::size_t i = 0; i < bank->morphs.size(); ++i) {
        const CarriedMorph& m = bank->morphs[i];
        const std::string path = (std::filesystem::path(o.out) / file_name(o.morphs[i])).string();
        if (auto ok = write_file(path, morph_text(m.morph)); !ok) return output.refuse(ok.error());
        json["morphs"].push_back({{"name", m.morph.name},
                                  {"written", path},
                                  {"vertices", m.morph.index.size()},
                                  {"most_before_mm", m.most_before},
                                  {"most_after_mm", m.most_after},
                                  {"stretch_p95_before", m.stretch_before},
                                  {"stretch_p95_after", m.stretch_after},
                                  {"worst_vertex", m.worst == kNone ? Json(nullptr) : Json(m.worst)},
                                  {"worst_mm", m.worst_mm}});
        char line[200];
        std::snprintf(line, sizeof line, "  %s: %zu vertices, at most %.2f mm (%.2f before)\n", m.morph.name.c_str(),
                      m.morph.index.size(), m.most_after, m.most_before);
        text += line;
    }
    for (const std::string& note : bank->notes) text += note + "\n";
    output.result(json, text);
    return 0;
}

// A shape in the vertices, order, unit and axes of the file that the kit was made from.
int give_back(const KitOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    Points shape = kit->mesh.positions;
    std::vector<Morph> morphs;
    const auto amounts = read_amounts(*kit, o.morphs, 1, morphs);
    if (!amounts) return output.refuse(amounts.error());
    shape = mix_morphs(shape, *amounts);
    const std::string kind = lower_extension(o.out);
    if (kit->original && kind == ".obj") {
        const std::string comment = "In the order, unit and axes of the kit's own file";
        if (auto ok = write_in_own_order(*kit, shape, comment, o.out); !ok) return output.refuse(ok.error());
    } else if (kind == ".glb" && original_is_glb(*kit)) {
        const auto bytes = rewritten_original(*kit, shape, {});
        if (!bytes) return output.refuse(bytes.error());
        if (auto ok = write_file(o.out, *bytes); !ok) return output.refuse(ok.error());
    } else {
        const auto mesh = in_original(*kit, shape);
        if (!mesh) return output.refuse(mesh.error());
        // of one of the file's units
        if (auto ok =
                write_mesh(o.out, *mesh, kit->original->to_kit.scale / 1000, "In the order of the kit's own file");
            !ok)
            return output.refuse(ok.error());
    }
    Json reduced = Json::array();
    if (o.with_reduced) {
        const auto versions = ReducedOut::open(*kit);
        if (!versions) return output.refuse(versions.error());
        const auto more = versions->write_shape(shape, "A reduced version, in its own order, unit and axes", o.out);
        if (!more) return output.refuse(more.error());
        reduced = *more;
    }
    const std::size_t count = kit->original->main_vertices();
    output.result({{"reduced", reduced}, {"written", o.out}, {"vertices", count}, {"morphs", o.morphs.size()}},
                  o.out + ": " + std::to_string(count) + " vertices, as in " + kit->original->file + "\n");
    return 0;
}

int check(const KitOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    Json json = {{"kit", o.kit}, {"abilities", Json::array()}};
    for (const KitAbility& a : check_kit(*kit)) json["abilities"].push_back(ability_json(a));
    std::string text = abilities_text(*kit);
    if (!o.model.empty()) {
        const auto model = read_base_kit(o.model);
        if (!model) return output.refuse(model.error());
        const auto trial = try_kit(*kit, *model, terminal_progress());
        if (!trial) return output.refuse(trial.error());
        json["trial"] = Json::parse(figures_text(trial->figures));
        const FitFigures& f = trial->figures;
        char line[200];
        std::snprintf(
            line, sizeof line,
            "  a made-up head fitted onto it: %.2f mm (median), %.2f mm (95 %%) apart, %u faces turned over, "
            "%u new cuts through itself\n",
            f.surface.median, f.surface.p95, f.flipped_faces, f.self_intersections);
        text += line;
    }
    output.result(json, text);
    return 0;
}

int show(const KitOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    Json json = {{"kit", o.kit},
                 {"vertices", kit->mesh.positions.size()},
                 {"faces", kit->mesh.face_count()},
                 {"topology", kit->topology_key},
                 {"landmarks", kit->landmarks.size()},
                 {"curves", kit->curves.size()},
                 {"joints", kit->joints.size()},
                 {"expressions", Json::array()},
                 {"unpaired", kit->unpaired.size()},
                 {"neck_ring", kit->neck_ring.size()}};
    std::string text = std::to_string(kit->mesh.positions.size()) + " vertices, " +
                       std::to_string(kit->mesh.face_count()) + " faces\n";
    for (const KitPart& part : kit->parts) {
        json["parts"][part.name] = part.vertices.size();
        text += "  part " + part.name + ": " + std::to_string(part.vertices.size()) + " vertices";
        if (part.name != "skin") {
            json["goes_with"][part.name] = part_rule_name(part.rule());
            text += ", goes with: " + std::string(part_rule_name(part.rule()));
        }
        text += "\n";
    }
    for (const auto& [name, vertices] : kit->regions) {
        json["regions"][name] = vertices.size();
        text += "  region " + name + ": " + std::to_string(vertices.size()) + " vertices\n";
    }
    for (const auto& [name, shape] : kit->expressions) {
        json["expressions"].push_back(name);
        text += "  expression " + name + "\n";
    }
    text += "  " + std::to_string(kit->landmarks.size()) + " landmarks, " + std::to_string(kit->curves.size()) +
            " guide curves, " + std::to_string(kit->joints.size()) + " joints\n";
    for (const Joint& joint : kit->joints) json["joint_names"].push_back(joint.name);
    if (kit->own_rig) {
        for (const Joint& joint : kit->own_rig->joints) json["own_joints"].push_back(joint.name);
        json["roles"] = kit->own_rig->roles;
        text += "  the file's own " + std::to_string(kit->own_rig->joints.size()) + " joints:\n";
        for (const auto& [role, name] : kit->own_rig->roles) text += "    " + role + " is " + name + "\n";
    }
    for (const KitReduced& entry : kit->reduced) {
        const auto version = ReducedMesh::open(*kit, entry);
        if (!version) return output.refuse(version.error());
        json["reduced"].push_back({{"name", entry.name},
                                   {"vertices", entry.vertices},
                                   {"median_mm", version->median_mm()},
                                   {"most_mm", version->most_mm()}});
        char line[200];
        std::snprintf(line, sizeof line,
                      "  reduced version %s: %zu vertices, %.2f mm (median), at most %.2f mm away\n",
                      entry.name.c_str(), entry.vertices, version->median_mm(), version->most_mm());
        text += line;
    }
    if (const auto down = arms_below_level(kit->joints); down && !kit->rest_poses.empty()) {
        json["arms_below_level"] = *down;
        text += "  at rest its arms hang " + std::to_string(static_cast<int>(std::round(*down))) +
                " degrees below the level; also kept:";
        for (const auto& [name, pose] : kit->rest_poses) {
            json["rest_poses"].push_back(name);
            text += " " + name + " pose";
        }
        text += "\n";
    }
    if (!kit->doubts.empty()) json["unsure"] = kit->doubts;
    if (kit->original) {
        json["original"] = {{"file", kit->original->file}, {"vertices", kit->original->work_of.size()}};
        text += "  made from " + kit->original->file + " (" + std::to_string(kit->original->work_of.size()) +
                " vertices)\n";
    }
    output.result(json, text);
    return 0;
}

}  // namespace

void add_kit(CLI::App& app, const Output& output, int& exit_code) {
    auto* kit = app.add_subcommand("kit", "Makes a base kit from a base mesh, shows and checks kits");
    kit->require_subcommand(1);
    auto o = std::make_shared<KitOptions>();
    auto* making =
        kit->add_subcommand("make", "From a mesh file to a kit: parts, landmarks, regions, mirror map, joints");
    making->add_option("mesh", o->mesh, "The base mesh: OBJ, PLY, GLB and others")->required();
    making->add_option("--out", o->out, "Folder to write the kit to")->required();
    making->add_option("--model", o->model, "A kit that is known, laid onto the mesh")->required();
    making->add_option("--unit", o->unit, "Unit of the file; guessed when missing")
        ->check(CLI::IsMember({"mm", "cm", "m", "in", "dm", "ft"}));
    making->add_option("--up", o->up, "Axis that points up in the file")
        ->check(CLI::IsMember({"auto", "+X", "-X", "+Y", "-Y", "+Z", "-Z"}, CLI::ignore_case));
    making->add_option("--landmarks", o->landmarks, "Landmarks set by hand, in the file's coordinates");
    making->add_option(
        "--part", o->parts,
        "PART=WORD: pieces whose group or material holds this word; PART=FILE: another file holds them");
    making->add_option("--with", o->more, "Another file of the same base: a body, a head, eyes");
    making->add_option("--expressions", o->expressions, "Folder of expressions as OBJ, in the mesh's vertex order");
    making->add_option("--skeleton", o->skeleton,
                       "GLB of the rigged base, where the mesh itself has no joints: names, places, weights");
    making->add_option("--reduced", o->reduced, "NAME=FILE: a mesh of fewer vertices that goes along with the base");
    making->add_option("--goes-with", o->rules,
                       "PART=RULE: what a part goes with, where its name does not tell: eye, upper_jaw, lower_jaw, "
                       "edge (of the lids), skin");
    making->add_flag("--report", o->report, "List every doubt");
    making->callback([o, &output, &exit_code] { exit_code = make(*o, output); });
    auto* carrying = kit->add_subcommand("carry", "Morphs made for one kit as morphs of another");
    carrying->add_option("--from", o->from, "Folder of the kit that they were made for")->required();
    carrying->add_option("--to", o->to, "Folder of the kit that they are for")->required();
    carrying->add_option("--morph", o->morphs, "Morph files")->required();
    carrying->add_option("--out", o->out, "Folder for the new morph files")->required();
    carrying->callback([o, &output, &exit_code] { exit_code = carry(*o, output); });
    auto* giving =
        kit->add_subcommand("export", "A shape in the vertices, order and unit of the file the kit was made from");
    giving->add_option("kit", o->kit, "Folder of the kit")->required();
    giving->add_option("--morph", o->morphs, "FILE or FILE=AMOUNT; several are added. None: the base itself");
    giving->add_flag("--reduced", o->with_reduced, "Also for each reduced version of the base, as OBJ");
    giving->add_option("--out", o->out, "Mesh file to write: .obj, .ply, .stl, .glb")->required();
    giving->callback([o, &output, &exit_code] { exit_code = give_back(*o, output); });
    auto* checking = kit->add_subcommand("check", "What a kit can do, and what is missing for the rest");
    checking->add_option("kit", o->kit, "Folder of the kit")->required();
    checking->add_option("--model", o->model, "Also fit a made-up head onto it, made from this kit's");
    checking->callback([o, &output, &exit_code] { exit_code = check(*o, output); });
    add_kit_editing(*kit, output, exit_code);
    auto* showing = kit->add_subcommand("show", "What a kit holds");
    showing->add_option("kit", o->kit, "Folder of the kit")->required();
    showing->callback([o, &output, &exit_code] { exit_code = show(*o, output); });
}

}  // namespace veld::cli
