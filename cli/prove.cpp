// veldstone-cli prove
#include "core/proof/prove.h"
#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/morph/morph_file.h"
#include "core/project/state.h"
#include "core/proof/mend.h"
#include "core/proof/proof_file.h"
#include "core/proof/sheet.h"
#include "core/rig/bvh.h"

#include <algorithm>
#include <filesystem>

namespace veld::cli {
namespace {

constexpr std::size_t kLinesSaid = 15;

struct ProveOptions {
    std::string kit, shape, report, own, skinning = "linear", sheet, mend, out, head;
    std::vector<std::string> morphs, names, motions, corrections;
};

std::string head_names(const std::map<std::string, double>& heads) {
    std::string out;
    for (const auto& [name, amount] : heads) out += (out.empty() ? "" : " + ") + name;
    return out;
}

// The program's proofs with people's own and motions; of those only the asked for.
Result<std::vector<Proof>> proofs_asked(const BaseKit& kit, const ProveOptions& o) {
    std::vector<Proof> all = stock_proofs(kit);
    if (!o.own.empty()) {
        auto own = read_proofs(o.own, kit.joints);
        if (!own) return own.error();
        for (Proof& p : *own) all.push_back(std::move(p));
    }
    std::vector<std::string> wanted = o.names;
    for (const std::string& path : o.motions) {
        const auto motion = read_bvh(path);
        if (!motion) return motion.error();
        auto poses = motion_on(*motion, kit.joints);
        if (!poses) return Error{poses.error().code, "'" + path + "': " + poses.error().message};
        std::vector<std::string> taken;
        for (const Proof& p : all) taken.push_back(p.name);
        Proof proof{free_name(std::filesystem::path(path).stem().string(), taken), ProofKind::Motion, {}};
        for (Pose& pose : *poses) proof.stops.push_back({std::move(pose), {}});
        if (!wanted.empty()) wanted.push_back(proof.name);
        all.push_back(std::move(proof));
    }
    if (wanted.empty()) return all;
    std::vector<Proof> out;
    for (const std::string& name : wanted) {
        const auto at = std::find_if(all.begin(), all.end(), [&](const Proof& p) { return p.name == name; });
        if (at != all.end()) {
            out.push_back(*at);
            continue;
        }
        std::string known;
        for (const Proof& p : all) known += (known.empty() ? "" : ", ") + p.name;
        return Error{ErrorCode::NotFound, "There is no proof '" + name + "'; there are " + known + "."};
    }
    return out;
}

// What the shape is made of, by name: what --head says, else the morphs' own names.
Result<std::map<std::string, double>> heads_of(const BaseKit& kit, const ProveOptions& o) {
    if (!o.head.empty()) return std::map<std::string, double>{{o.head, 1}};
    if (!o.shape.empty()) return std::map<std::string, double>{{std::filesystem::path(o.shape).stem().string(), 1}};
    std::vector<Morph> morphs;
    const auto amounts = read_amounts(kit, o.morphs, 1, morphs);
    if (!amounts) return amounts.error();
    std::map<std::string, double> out;
    for (const MorphAmount& a : *amounts) out[a.morph->name] = a.amount;
    return out;
}

// The bench with what --correction names.
Result<ProofBench> bench_for(const BaseKit& kit, const Points& shape, const std::vector<Proof>& proofs,
                             const ProveOptions& o) {
    const auto bench = ProofBench::make(kit, shape, proofs, {});
    if (!bench) return bench.error();
    const auto heads = heads_of(kit, o);
    if (!heads) return heads.error();
    std::vector<ShapeCorrection> corrections;
    for (const std::string& path : o.corrections) {
        auto morph = read_morph(path, kit);
        if (!morph) return morph.error();
        if (morph->drivers.empty())
            return Error{ErrorCode::BadInput, "'" + path + "' is no correction: nothing brings it in by itself."};
        corrections.push_back({std::make_shared<const Morph>(std::move(*morph)), 1});
    }
    return bench->corrected(corrections, *heads);
}

// In the one proof that is asked for, where it is worst.
int mend_it(const ProofBench& bench, const Proof& proof, const ProofReport& report, const ProveOptions& o,
            const Output& output) {
    std::size_t at = proof.stops.size() - 1;
    if (!report.rows.empty() && report.rows.front().figure.badness() >= 1) at = report.rows.front().stop;
    const Skinning skinning = *skinning_from_name(o.skinning);
    const auto mended = mend(bench, proof.stops[at], skinning, *mend_from_name(o.mend), {});
    if (!mended) return output.refuse(mended.error());
    const auto morphs = corrections_of(bench.shape, proof.stops[at], mended->ways,
                                       head_names(bench.shape.heads()) + ", " + proof.name);
    if (!morphs) return output.refuse(morphs.error());
    Json written = Json::array();
    std::string text;
    for (const Morph& morph : *morphs) {
        const std::string path = (std::filesystem::path(o.out) / (morph.name + ".json")).string();
        if (auto ok = write_file(path, morph_text(morph)); !ok) return output.refuse(ok.error());
        written.push_back({{"name", morph.name}, {"out", path}, {"brought_in_by", driver_names(morph.drivers)}});
        text += "  " + path + ", brought in by " + driver_names(morph.drivers) + "\n";
    }
    char line[200];
    if (*mend_from_name(o.mend) == Mend::ShutLids)
        std::snprintf(line, sizeof line, "lids stayed open by %.2f mm, now by %.2f mm\n", mended->gap_before,
                      mended->gap_after);
    else
        std::snprintf(line, sizeof line, "cuts: %zu before, %zu now\n", mended->before, mended->after);
    output.result({{"corrections", written},
                   {"stop", at + 1},
                   {"cuts_before", mended->before},
                   {"cuts_after", mended->after},
                   {"gap_before_mm", mended->gap_before},
                   {"gap_after_mm", mended->gap_after}},
                  line + text);
    return 0;
}

int run_prove(const ProveOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    if (!o.mend.empty() && (o.names.size() != 1 || o.out.empty()))
        return output.refuse(
            {ErrorCode::BadInput, "--mend wants one --proof, and a folder for the corrections with --out."});
    const auto shape = shape_or_mix(*kit, o.shape, o.morphs);
    if (!shape) return output.refuse(shape.error());
    const auto proofs = proofs_asked(*kit, o);
    if (!proofs) return output.refuse(proofs.error());
    const auto bench = bench_for(*kit, *shape, *proofs, o);
    if (!bench) return output.refuse(bench.error());
    const auto report = prove(*bench, *proofs, *skinning_from_name(o.skinning), {});
    if (!report) return output.refuse(report.error());
    if (!o.mend.empty()) return mend_it(*bench, proofs->front(), *report, o, output);
    if (!o.sheet.empty()) {
        const std::string name = head_names(bench->shape.heads());
        const auto sheet = proof_sheet(*bench, proofs_for_sheet(*proofs, *report), *report,
                                       *skinning_from_name(o.skinning), {name.empty() ? "base" : name}, {});
        if (!sheet) return output.refuse(sheet.error());
        if (auto ok = write_sheet(*sheet, o.sheet); !ok) return output.refuse(ok.error());
    }
    const std::string json = proof_report_json(*report);
    if (!o.report.empty())
        if (auto ok = write_file(o.report, json + "\n"); !ok) return output.refuse(ok.error());
    char line[200];
    std::snprintf(line, sizeof line, "%zu proofs at %zu stops, %zu figures to look at\n", proofs->size(),
                  report->stops, report->bad());
    std::string text = line;
    for (std::size_t i = 0; i < std::min(kLinesSaid, report->rows.size()); ++i) {
        const ProofRow& row = report->rows[i];
        if (row.figure.badness() < 1) break;
        std::snprintf(line, sizeof line, "  %-20s %-28s %s\n", row.proof.c_str(),
                      proof_measure_plain(row.figure.measure), proof_value_text(row.figure).c_str());
        text += line;
    }
    output.result(Json::parse(json), text);
    return 0;
}

}  // namespace

void add_prove(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<ProveOptions>();
    CLI::App* proves = app.add_subcommand("prove", "A shape in poses and expressions beside the base, measured");
    proves->add_option("--kit", o->kit, "Folder of the base kit")->required();
    proves->add_option("--shape", o->shape, "A shape of the base (OBJ, PLY, GLB)");
    proves->add_option("--morph", o->morphs, "Morph file, FILE or FILE=AMOUNT; several make a mix");
    proves->add_option("--proof", o->names, "Name of a proof; all when none is said");
    proves->add_option("--own", o->own, "Proofs of your own (JSON)");
    proves->add_option("--motion", o->motions, "Motion (BVH)");
    proves->add_option("--skinning", o->skinning, "How skin follows its joints")
        ->check(CLI::IsMember({"linear", "dual quaternion"}));
    proves->add_option("--head", o->head,
                       "Name of the shape's morph, for corrections that it brings in; else the name in its file");
    proves->add_option("--correction", o->corrections, "Morph that poses or expressions bring in by themselves");
    proves->add_option("--mend", o->mend, "Put this right in the proof, where it is worst, and write corrections")
        ->check(CLI::IsMember({"shut_lids", "part_lips", "push_apart"}));
    proves->add_option("--out", o->out, "Folder for the corrections, as morph files")->check(CLI::ExistingDirectory);
    proves->add_option("--sheet", o->sheet, "Write a page of pictures with the figures, as PNG and PDF");
    proves->add_option("--report", o->report, "Write all figures to this JSON file");
    proves->callback([o, &output, &exit_code] { exit_code = run_prove(*o, output); });
}

}  // namespace veld::cli
