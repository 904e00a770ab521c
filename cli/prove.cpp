// veldstone-cli prove
#include "core/proof/prove.h"
#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/proof/proof_file.h"
#include "core/rig/bvh.h"

#include <algorithm>
#include <filesystem>

namespace veld::cli {
namespace {

constexpr std::size_t kLinesSaid = 15;

struct ProveOptions {
    std::string kit, shape, report, own, skinning = "linear";
    std::vector<std::string> morphs, names, motions;
};

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
        Proof proof{std::filesystem::path(path).stem().string(), ProofKind::Motion, {}};
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

int run_prove(const ProveOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto shape = shape_or_mix(*kit, o.shape, o.morphs);
    if (!shape) return output.refuse(shape.error());
    const auto proofs = proofs_asked(*kit, o);
    if (!proofs) return output.refuse(proofs.error());
    const auto bench = ProofBench::make(*kit, *shape, *proofs, {});
    if (!bench) return output.refuse(bench.error());
    const auto report = prove(*bench, *proofs, *skinning_from_name(o.skinning), {});
    if (!report) return output.refuse(report.error());
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
    proves->add_option("--report", o->report, "Write all figures to this JSON file");
    proves->callback([o, &output, &exit_code] { exit_code = run_prove(*o, output); });
}

}  // namespace veld::cli
