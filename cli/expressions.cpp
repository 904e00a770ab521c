// veldstone-cli expressions carry | scan
#include <filesystem>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/detect/detect.h"
#include "core/io/mesh_file.h"
#include "core/morph/morph_file.h"
#include "core/proof/carry_expression.h"
#include "core/proof/face.h"
#include "core/proof/scanned_expression.h"
#include "core/tidy/orient.h"

namespace veld::cli {
namespace {

struct ExpressionOptions {
    std::string kit, shape, out, head;
    std::vector<std::string> morphs, names;
    double amount = 1;
    bool corrections = false;
};

int carry(ExpressionOptions o, const Output& output) {
    if (o.head.empty()) {
        const std::string from = o.shape.empty() && !o.morphs.empty() ? o.morphs.front() : o.shape;
        o.head = std::filesystem::path(from.substr(0, from.rfind('='))).stem().string();
    }
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto head = shape_or_mix(*kit, o.shape, o.morphs);
    if (!head) return output.refuse(head.error());
    std::vector<std::string> names = o.names;
    if (names.empty())
        for (const auto& [name, shape] : kit->expressions) names.push_back(name);
    const auto face = Face::make(*kit, *head, {}, names);
    if (!face) return output.refuse(face.error());
    Json all = Json::object();
    std::string text;
    for (const std::string& name : names) {
        const Points carried = o.amount == 1 ? face->carried().at(name) : (*face)({{name, o.amount}});
        const Points plain = plain_expression(*kit, *head, name, o.amount);
        auto morph = o.corrections ? expression_correction(*kit, plain, carried, name, o.head)
                                   : expression_morph(*kit, *head, carried, name);
        if (!morph) return output.refuse(morph.error());
        const std::string path = (std::filesystem::path(o.out) / (name + ".json")).string();
        if (auto ok = write_file(path, morph_text(*morph)); !ok) return output.refuse(ok.error());
        const ContactFigures now = contact_figures(*kit, carried, name, o.amount),
                             before = contact_figures(*kit, plain, name, o.amount);
        all[name] = {{"out", path},
                     {"gap_mm", now.gap_mm},
                     {"cuts", now.cuts},
                     {"plain", {{"gap_mm", before.gap_mm}, {"cuts", before.cuts}}}};
        char line[200];
        std::snprintf(line, sizeof line, "  %-18s gap %.2f mm (plain %.2f), cuts %u (plain %u)\n", name.c_str(),
                      now.gap_mm, before.gap_mm, now.cuts, before.cuts);
        text += line;
    }
    output.result({{"expressions", all}}, std::to_string(names.size()) + " expressions carried\n" + text);
    return 0;
}

struct ScanOptions {
    std::string kit, neutral, source, landmarks, name, out;
    bool whole_only = false;
};

int from_scan(const ScanOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto neutral = shape_or_mix(*kit, o.neutral, {});
    if (!neutral) return output.refuse(neutral.error());
    auto source = read_mesh(o.source);
    if (!source) return output.refuse(source.error());
    FitInput input;
    input.source = &source->mesh;
    const FrameGuess guess = guess_frame(source->mesh, o.source, {});
    input.unit = guess.unit;
    VertexMask not_skin;
    if (!o.landmarks.empty()) {
        auto marks = read_landmarks(o.landmarks);
        if (!marks) return output.refuse(marks.error());
        input.landmarks = std::move(marks->set);
        if (input.landmarks.unit) input.unit = input.landmarks.unit;
    } else {
        DetectInput look;
        look.kit = &*kit, look.source = &source->mesh;
        look.upright = rough_upright(source->mesh, guess.unit, guess.up, bounding_box(kit->mesh.positions).high.y());
        FaceNetwork network;
        auto found = detect_landmarks(network, look, terminal_progress());
        if (!found) return output.refuse(found.error());
        input.landmarks = std::move(found->set), not_skin = std::move(found->not_skin);
        if (!not_skin.empty()) input.ignored = &not_skin;
    }
    const auto made = expression_from_scan(*kit, *neutral, input, terminal_progress());
    if (!made) return output.refuse(made.error());
    const auto morphs = expression_parts(*kit, *neutral, made->shape, o.name, {!o.whole_only, !o.whole_only});
    if (!morphs) return output.refuse(morphs.error());
    Json all = Json::array();
    std::string text;
    for (const Morph& morph : *morphs) {
        const std::string path = (std::filesystem::path(o.out) / (morph.name + ".json")).string();
        if (auto ok = write_file(path, morph_text(morph)); !ok) return output.refuse(ok.error());
        all.push_back({{"name", morph.name}, {"out", path}, {"moved", morph.index.size()}});
        text += "  " + morph.name + ", " + std::to_string(morph.index.size()) + " vertices\n";
    }
    char line[200];
    std::snprintf(line, sizeof line, "to the scan: median %.3f mm; the head was turned by %.1f degrees\n",
                  made->figures.surface.median, 180 / M_PI * Eigen::AngleAxisd(made->held.rotation).angle());
    output.result({{"morphs", all},
                   {"median_mm", made->figures.surface.median},
                   {"turned_degrees", 180 / M_PI * Eigen::AngleAxisd(made->held.rotation).angle()},
                   {"notes", made->notes}},
                  line + text);
    return 0;
}

void add_scan(CLI::App& expressions, const Output& output, int& exit_code) {
    auto o = std::make_shared<ScanOptions>();
    CLI::App* scans = expressions.add_subcommand(
        "scan", "A person's own expression from a scan of them with it: whole, halves and regions, as morph files");
    scans->add_option("--kit", o->kit, "Folder of the base kit")->required();
    scans->add_option("--neutral", o->neutral, "The person's neutral shape of the base (OBJ, PLY, GLB)")->required();
    scans->add_option("--source", o->source, "The scan with the expression")->required();
    scans->add_option("--landmarks", o->landmarks, "Its landmarks; found when not given");
    scans->add_option("--name", o->name, "Name of the expression")->required();
    scans->add_flag("--whole-only", o->whole_only, "Neither halves nor regions");
    scans->add_option("--out", o->out, "Folder to write into")->required()->check(CLI::ExistingDirectory);
    scans->callback([o, &output, &exit_code] { exit_code = from_scan(*o, output); });
}

}  // namespace

void add_expressions(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<ExpressionOptions>();
    CLI::App* expressions = app.add_subcommand("expressions", "The kit's expressions on other heads");
    expressions->require_subcommand(1);
    CLI::App* carries = expressions->add_subcommand(
        "carry", "Each expression as this head would make it, with lids and lips that meet; morph files");
    carries->add_option("--kit", o->kit, "Folder of the base kit")->required();
    carries->add_option("--shape", o->shape, "A shape of the base (OBJ, PLY, GLB)");
    carries->add_option("--morph", o->morphs, "Morph file, FILE or FILE=AMOUNT; several make a mix");
    carries->add_option("--expression", o->names, "Name of one of the kit's; all when none is said");
    carries->add_option("--amount", o->amount, "How far it goes; 1 is the kit's own")->check(CLI::Range(0.0, 2.0));
    carries->add_flag("--corrections", o->corrections,
                      "Writes what is to be added to the kit's own expression, not the whole");
    carries->add_option("--head", o->head,
                        "Name of the head's morph, which brings corrections in together with the expression; else the "
                        "name of its file");
    carries->add_option("--out", o->out, "Folder to write into")->required()->check(CLI::ExistingDirectory);
    add_scan(*expressions, output, exit_code);
    carries->callback([o, &output, &exit_code] { exit_code = carry(*o, output); });
}

}  // namespace veld::cli
