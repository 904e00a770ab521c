// veldstone-cli expressions carry
#include <filesystem>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/morph/morph_file.h"
#include "core/proof/carry_expression.h"
#include "core/proof/face.h"

namespace veld::cli {
namespace {

struct ExpressionOptions {
    std::string kit, shape, out;
    std::vector<std::string> morphs, names;
    double amount = 1;
    bool corrections = false;
};

int carry(const ExpressionOptions& o, const Output& output) {
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
        auto morph = expression_morph(*kit, o.corrections ? plain : *head, carried, name, o.corrections);
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
    carries->add_option("--out", o->out, "Folder to write into")->required()->check(CLI::ExistingDirectory);
    carries->callback([o, &output, &exit_code] { exit_code = carry(*o, output); });
}

}  // namespace veld::cli
