// veldstone-cli morph make | split | mix | mirror | half | export | import
#include <cmath>
#include <cstdlib>
#include <filesystem>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/own_order.h"
#include "core/exchange/reduced_out.h"
#include "core/io/obj.h"
#include "core/morph/arithmetic.h"
#include "core/morph/share.h"
#include "core/project/bank.h"
#include "core/project/store.h"

namespace veld::cli {
namespace {

// What every subcommand may be told about the morph that it makes.
struct MorphCard {
    std::string name, group, kind, note;
    std::vector<double> range;
    double usual = 0;
    int tag = 0;
    void apply(Morph& m) const {
        if (!group.empty()) m.group = group;
        if (!note.empty()) m.note = note;
        if (const auto k = morph_kind_from_name(kind)) m.kind = *k;
        if (range.size() == 2 && range[0] < range[1]) m.low = range[0], m.high = range[1];
        if (usual != 0) m.usual = usual;
        if (tag != 0) m.tag = tag;
    }
};

void add_card(CLI::App& command, MorphCard& card, bool name_required) {
    auto* name = command.add_option("--name", card.name, "Name of the morph");
    if (name_required) name->required();
    command.add_option("--group", card.group, "Group path, heads/marsh");
    command.add_option("--kind", card.kind, "What it is")
        ->check(CLI::IsMember({"whole", "head", "body", "region", "expression", "fix"}));
    command.add_option("--note", card.note, "A note to keep with it");
    command.add_option("--range", card.range, "Lowest and highest amount of its slider")->expected(2);
    command.add_option("--usual", card.usual, "The amount that a reset goes back to");
    command.add_option("--tag", card.tag, "Colour tag")->check(CLI::Range(0, kMorphTags));
}

struct MorphOptions {
    std::string kit, shape, out, parts = "as-they-are", format = "json", pattern = "{name}", project, side = "left",
                                 copy_to;
    std::vector<std::string> morphs, inputs;
    MorphCard card;
    double band_mm = 55, soft_mm = 8, noise_mm = 1e-4;
    bool no_floor = false, symmetric = false, each = false, by_region = false, reduced = false;
};

Json described(const Morph& m, const BaseKit& kit) {
    double most = 0;
    for (const Vec3& d : m.delta) most = std::max(most, d.norm());
    return {{"name", m.name}, {"vertices", m.index.size()},      {"of", kit.mesh.vertex_count()},
            {"max_mm", most}, {"kind", morph_kind_name(m.kind)}, {"root_mm", {m.root.x(), m.root.y(), m.root.z()}}};
}

std::string in_words(const Morph& m, const BaseKit& kit) {
    const Json d = described(m, kit);
    char text[200];
    std::snprintf(text, sizeof text, "morph '%s': %zu of %u vertices move, at most %.2f mm", m.name.c_str(),
                  m.index.size(), kit.mesh.vertex_count(), d["max_mm"].get<double>());
    std::string out = text;
    if (!m.root.isZero(0)) {
        std::snprintf(text, sizeof text, "; root %.2f, %.2f, %.2f mm", m.root.x(), m.root.y(), m.root.z());
        out += text;
    }
    return out + "\n";
}

int keep(const MorphOptions& o, const BaseKit& kit, Morph&& m, const Output& output) {
    o.card.apply(m);
    if (auto ok = write_file(o.out, morph_text(m)); !ok) return output.refuse(ok.error());
    Json json = described(m, kit);
    json["out"] = o.out;
    output.result(json, in_words(m, kit));
    return 0;
}

Result<Points> read_shape(const BaseKit& kit, const std::string& path, const std::string& parts) {
    auto shape = read_base_shape(kit, path);
    if (!shape) return shape;
    place_parts(kit,
                parts == "follow" ? PartsChoice::Follow
                : parts == "stay" ? PartsChoice::Stay
                                  : PartsChoice::AsTheyAre,
                *shape);
    return shape;
}

int make(const MorphOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto shape = read_shape(*kit, o.shape, o.parts);
    if (!shape) return output.refuse(shape.error());
    auto morph = make_morph(*kit, *shape, o.card.name, o.noise_mm);
    if (!morph) return output.refuse({morph.error().code, "'" + o.shape + "': " + morph.error().message});
    morph->origin = "From " + file_name(o.shape);
    return keep(o, *kit, std::move(*morph), output);
}

// A share for each region of the face; together they are the shape.
int split_by_region(const MorphOptions& o, const BaseKit& kit, const Points& shape, const std::string& name,
                    const Output& output) {
    const auto whole = make_morph(kit, shape, name, 0);
    if (!whole) return output.refuse(whole.error());
    const auto shares = region_shares(kit, face_regions(kit), *whole);
    if (!shares) return output.refuse(shares.error());
    Json json = {{"shares", Json::array()}};
    std::string text;
    for (Morph m : *shares) {
        o.card.apply(m);
        m.kind = MorphKind::Region;
        const std::string path = o.out + "/" + file_name_of("{name}", m, 1) + ".json";
        std::error_code failed;
        std::filesystem::create_directories(o.out, failed);
        if (auto ok = write_file(path, morph_text(m)); !ok) return output.refuse(ok.error());
        json["shares"].push_back(described(m, kit));
        text += in_words(m, kit);
    }
    output.result(json, text);
    return 0;
}

int split(const MorphOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    Points shape = kit->mesh.positions;
    std::string name = o.card.name;
    if (!o.shape.empty()) {
        auto read = read_shape(*kit, o.shape, o.parts);
        if (!read) return output.refuse(read.error());
        shape = std::move(*read);
        if (name.empty()) name = std::filesystem::path(o.shape).stem().string();
    } else {
        std::vector<Morph> morphs;
        const auto amounts = read_amounts(*kit, o.morphs, 1, morphs);
        if (!amounts) return output.refuse(amounts.error());
        shape = mix_morphs(shape, *amounts);
        if (name.empty() && !morphs.empty()) name = morphs.front().name;
    }
    if (o.by_region) return split_by_region(o, *kit, shape, name, output);
    ShareOptions options;
    options.band_mm = o.band_mm;
    options.on_floor = !o.no_floor;
    std::vector<double> painted;
    if (!kit->head_share.empty()) {
        const std::vector<float> w = spread_out(kit->head_share, kit->mesh.positions.size());
        painted.assign(w.begin(), w.end());
        options.head = &painted;
    }
    auto shares = split_shares(*kit, shape, name, options);
    if (!shares) return output.refuse(shares.error());
    std::error_code failed;
    std::filesystem::create_directories(o.out, failed);
    std::string text;
    Json json = {{"neck_move_mm", {shares->neck_move.x(), shares->neck_move.y(), shares->neck_move.z()}},
                 {"lifted_mm", shares->lifted.y()},
                 {"shares", Json::array()}};
    for (Morph* m : {&shares->head, &shares->body}) {
        o.card.apply(*m);
        m->kind = m == &shares->head ? MorphKind::Head : MorphKind::Body;
        const std::string path = o.out + "/" + file_name_of("{name}", *m, 1) + ".json";
        if (auto ok = write_file(path, morph_text(*m)); !ok) return output.refuse(ok.error());
        Json d = described(*m, *kit);
        d["out"] = path;
        json["shares"].push_back(d);
        text += in_words(*m, *kit);
    }
    char line[160];
    std::snprintf(line, sizeof line,
                  "split with the neck moved by %.2f mm along its axis; feet lifted by %.2f mm to the floor\n",
                  shares->neck_move.norm() * (shares->neck_move.y() < 0 ? -1 : 1), shares->lifted.y());
    output.result(json, text + line);
    return 0;
}

int mix(const MorphOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    std::vector<Morph> morphs;
    const auto amounts = read_amounts(*kit, o.morphs, 1, morphs);
    if (!amounts) return output.refuse(amounts.error());
    if (lower_extension(o.out) == ".obj") {
        if (auto ok = export_morphed_obj(*kit, *amounts, o.out); !ok) return output.refuse(ok.error());
        output.result({{"out", o.out}}, "written: " + o.out + "\n");
        return 0;
    }
    auto sum = sum_morphs(*kit, *amounts, o.card.name.empty() ? "mix" : o.card.name);
    if (!sum) return output.refuse(sum.error());
    return keep(o, *kit, std::move(*sum), output);
}

// mirror (sides exchanged), or one side on both; half: one side alone.
int one_side(const MorphOptions& o, const Output& output, bool half) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto morph = read_morph(o.morphs.front(), *kit);
    if (!morph) return output.refuse(morph.error());
    const Side side = o.side == "right" ? Side::Right : Side::Left;
    const std::string name =
        !o.card.name.empty() ? o.card.name : morph->name + (half || o.symmetric ? " " + o.side : " mirrored");
    auto out = half          ? half_morph(*kit, *morph, side, o.soft_mm, name)
               : o.symmetric ? symmetric_morph(*kit, *morph, side, o.soft_mm, name)
                             : mirrored_morph(*kit, *morph, name);
    if (!out) return output.refuse(out.error());
    return keep(o, *kit, std::move(*out), output);
}

int export_morphs(const MorphOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    std::vector<Morph> morphs;
    const std::string kind = lower_extension(o.out);
    const bool each = o.each || kind.empty();
    auto amounts = read_amounts(*kit, o.morphs, kind == ".glb" ? 0.0 : 1.0, morphs);
    if (!amounts) return output.refuse(amounts.error());
    Json list = Json::array();
    for (const MorphAmount& a : *amounts) list.push_back({{"name", a.morph->name}, {"amount", a.amount}});
    if (each) {
        const auto format = morph_format(o.format);
        if (!format)
            return output.refuse({ErrorCode::Unsupported, "Morphs are exported as json, obj, csv or glb; '" +
                                                              o.format + "' is none of them."});
        std::vector<const Morph*> all;
        for (const Morph& m : morphs) all.push_back(&m);
        const auto paths = export_each(*kit, all, {*format, o.out, o.pattern, o.reduced}, terminal_progress());
        if (!paths) return output.refuse(paths.error());
        std::string text;
        for (const std::string& p : *paths) text += "written: " + p + "\n";
        output.result({{"out", *paths}, {"morphs", list}}, text);
        return 0;
    }
    if (kind != ".obj" && kind != ".glb")
        return output.refuse(
            {ErrorCode::Unsupported,
             "Morphs are exported as .obj (one shape), .glb (all as morph targets), or each into a folder; '" + o.out +
                 "' is none of them."});
    const auto ok = kind == ".obj" ? export_morphed_obj(*kit, *amounts, o.out) : export_glb(*kit, *amounts, o.out);
    if (!ok) return output.refuse(ok.error());
    std::vector<std::string> written{o.out};
    if (o.reduced) {
        const auto versions = ReducedOut::open(*kit);
        if (!versions) return output.refuse(versions.error());
        const auto more = versions->write(*amounts, o.out);
        if (!more) return output.refuse(more.error());
        written.insert(written.end(), more->begin(), more->end());
    }
    std::string text;
    for (const std::string& p : written) text += "written: " + p + "\n";
    Json json = {{"out", o.out}, {"morphs", list}};
    if (o.reduced) json["written"] = written;
    output.result(json, text);
    return 0;
}

// Into a project's bank, or as morph files into a folder.
int import(const MorphOptions& o, const Output& output) {
    std::optional<LoadedProject> project;
    std::optional<BaseKit> own;
    if (!o.project.empty()) {
        auto loaded = load_project(o.project);
        if (!loaded) return output.refuse(loaded.error());
        project = std::move(*loaded);
    } else {
        if (o.kit.empty() || o.out.empty())
            return output.refuse({ErrorCode::BadInput, "import needs --project, or --kit and --out."});
        auto kit = read_base_kit(o.kit);
        if (!kit) return output.refuse(kit.error());
        own = std::move(*kit);
    }
    const BaseKit& kit = project ? *project->state.kit : *own;
    std::string text;
    Json json = Json::array();
    std::vector<Morph> all;
    for (const std::string& input : o.inputs) {
        auto morphs = import_morphs(kit, input, terminal_progress());
        if (!morphs) return output.refuse(morphs.error());
        for (Morph& m : *morphs) all.push_back(std::move(m));
    }
    for (Morph& m : all) {
        o.card.apply(m);
        json.push_back(described(m, kit));
        text += in_words(m, kit);
        if (project) add_morph(project->state, std::move(m), 0);
    }
    if (project) {
        if (auto ok = save_project(o.project, project->state); !ok) return output.refuse(ok.error());
    } else {
        std::vector<const Morph*> list;
        for (const Morph& m : all) list.push_back(&m);
        const auto paths = export_each(kit, list, {MorphFormat::Json, o.out, o.pattern}, terminal_progress());
        if (!paths) return output.refuse(paths.error());
    }
    output.result(json, text);
    return 0;
}

void add_making(CLI::App& morph, const std::shared_ptr<MorphOptions>& o, const Output& output, int& exit_code) {
    auto* make_command = morph.add_subcommand("make", "A morph from a shape in the base's order and frame");
    make_command->add_option("--shape", o->shape, "The shape: a mesh in the base's order, mm, kit frame")->required();
    make_command->add_option("--parts", o->parts, "Eyes, teeth, lashes: as-they-are, follow, stay")
        ->check(CLI::IsMember({"as-they-are", "follow", "stay"}));
    make_command->add_option("--noise,--least", o->noise_mm, "Differences below this many mm are zero");
    add_card(*make_command, o->card, true);
    make_command->callback([o, &output, &exit_code] { exit_code = make(*o, output); });
    auto* split_command = morph.add_subcommand("split", "Head share and body share of a whole shape, into a folder");
    split_command->add_option("--shape", o->shape, "The shape: a mesh in the base's order, mm, kit frame");
    split_command->add_option("--morph", o->morphs, "Or morph files, FILE or FILE=AMOUNT");
    split_command->add_option("--parts", o->parts, "Eyes, teeth, lashes: as-they-are, follow, stay")
        ->check(CLI::IsMember({"as-they-are", "follow", "stay"}));
    split_command->add_option("--band", o->band_mm, "Length of neck over which the shares fade, mm")
        ->check(CLI::Range(1.0, 400.0));
    split_command->add_flag("--by-region", o->by_region,
                            "A share for each region of the face instead of head and body");
    split_command->add_flag("--keep-floor", o->no_floor, "Leave the feet where the shape has them");
    add_card(*split_command, o->card, false);
    split_command->callback([o, &output, &exit_code] {
        exit_code = o->shape.empty() == o->morphs.empty()
                        ? output.refuse({ErrorCode::BadInput, "split needs --shape or --morph, one of them."})
                        : split(*o, output);
    });
    auto* mix_command =
        morph.add_subcommand("mix", "Morphs at amounts baked into one morph (.json), or one shape (.obj)");
    mix_command->add_option("--morph", o->morphs, "Morph file, or FILE=AMOUNT; may be given several times")
        ->required();
    add_card(*mix_command, o->card, false);
    mix_command->callback([o, &output, &exit_code] { exit_code = mix(*o, output); });
    auto* mirror_command = morph.add_subcommand("mirror", "Left and right exchanged, or one side on both");
    mirror_command->add_option("--morph", o->morphs, "Morph file")->required()->expected(1);
    mirror_command->add_flag("--symmetric", o->symmetric, "One side's shape on both sides");
    mirror_command->add_option("--from", o->side, "Which side, with --symmetric")
        ->check(CLI::IsMember({"left", "right"}));
    mirror_command->add_option("--soft", o->soft_mm, "Width of the soft middle, mm");
    add_card(*mirror_command, o->card, false);
    mirror_command->callback([o, &output, &exit_code] { exit_code = one_side(*o, output, false); });
    auto* half_command = morph.add_subcommand("half", "One side of a morph; left and right add up to it");
    half_command->add_option("--morph", o->morphs, "Morph file")->required()->expected(1);
    half_command->add_option("--side", o->side, "left or right")->check(CLI::IsMember({"left", "right"}))->required();
    half_command->add_option("--soft", o->soft_mm, "Width of the soft middle, mm");
    add_card(*half_command, o->card, false);
    half_command->callback([o, &output, &exit_code] { exit_code = one_side(*o, output, true); });
    for (auto* command : {make_command, split_command, mix_command, mirror_command, half_command}) {
        command->add_option("--kit", o->kit, "Folder of the base kit")->required();
        command->add_option("--out", o->out, command == split_command ? "Folder to write into" : "File to write")
            ->required();
    }
}

}  // namespace

void add_morph(CLI::App& app, const Output& output, int& exit_code) {
    auto* morph = app.add_subcommand("morph", "Make, split, mix, mirror, export and import morph targets");
    morph->require_subcommand(1);
    auto o = std::make_shared<MorphOptions>();
    add_making(*morph, o, output, exit_code);
    auto* export_command =
        morph->add_subcommand("export", "One OBJ, one GLB with morph targets, or a file for each into a folder");
    export_command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    export_command->add_option("--morph", o->morphs, "Morph file, or FILE=AMOUNT; may be given several times")
        ->required();
    export_command->add_option("--out", o->out, ".obj, .glb, or a folder")->required();
    export_command->add_flag("--each", o->each, "A file for each morph, into the folder --out");
    export_command->add_flag("--reduced", o->reduced, "Also for each reduced version of the base, beside it");
    export_command->add_option("--format", o->format, "With --each: json, obj, csv, glb");
    export_command->add_option("--pattern", o->pattern, "With --each: {name}, {group}, {kind}, {number}");
    export_command->callback([o, &output, &exit_code] { exit_code = export_morphs(*o, output); });
    auto* import_command = morph->add_subcommand(
        "import", "Morph files, delta lists, OBJs, GLB targets or folders of them, into a project or as morph files");
    import_command->add_option("files", o->inputs, "Files or folders")->required();
    import_command->add_option("--project", o->project, "Into this project's bank");
    import_command->add_option("--kit", o->kit, "Folder of the base kit, without a project");
    import_command->add_option("--out", o->out, "Folder for morph files, without a project");
    import_command->add_option("--pattern", o->pattern, "Their names: {name}, {group}, {kind}, {number}");
    add_card(*import_command, o->card, false);
    import_command->callback([o, &output, &exit_code] { exit_code = import(*o, output); });
}

}  // namespace veld::cli
