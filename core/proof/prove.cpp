#include "core/proof/prove.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstdio>

#include "core/base/json.h"

namespace veld {

Result<ProofBench> ProofBench::make(const BaseKit& kit, Points shape, const std::vector<Proof>& proofs,
                                    const Progress& progress, const std::map<std::string, Points>& own) {
    auto subject = ProofSubject::make(kit, std::move(shape), expressions_of(kit, proofs), progress, own);
    if (!subject) return subject.error();
    return ProofBench{std::move(*subject), ProofSubject::base_of(kit), std::make_shared<const ProofPlaces>(kit)};
}

ProofBench ProofBench::corrected(const std::vector<ShapeCorrection>& corrections,
                                 std::map<std::string, double> heads) const {
    return {shape.corrected(corrections, std::move(heads)), base.corrected(corrections, {}), places};
}

std::size_t ProofReport::bad() const {
    return static_cast<std::size_t>(
        std::count_if(rows.begin(), rows.end(), [](const ProofRow& r) { return r.figure.badness() >= 1; }));
}

Result<ProofReport> prove(const ProofBench& bench, const std::vector<Proof>& proofs, Skinning skinning,
                          const Progress& progress) {
    struct Stop {
        std::size_t proof, stop;
        std::vector<ProofFigure> figures;
    };
    std::vector<Stop> stops;
    for (std::size_t p = 0; p < proofs.size(); ++p)
        for (std::size_t s = 0; s < proofs[p].stops.size(); ++s) stops.push_back({p, s, {}});
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, stops.size(), [&](std::size_t i) {
        if (progress.is_cancelled()) return;
        const ProofStop& at = proofs[stops[i].proof].stops[stops[i].stop];
        ProofStop on_base = at;
        on_base.amount = 1;
        stops[i].figures = bench.places->measure(bench.shape, bench.base, at, bench.shape.at(at, skinning),
                                                 bench.base.at(on_base, skinning));
        progress.say(static_cast<double>(++done) / static_cast<double>(stops.size()), proofs[stops[i].proof].name);
    });
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    ProofReport out;
    out.stops = stops.size();
    for (const Stop& stop : stops) {
        const Proof& proof = proofs[stop.proof];
        for (const ProofFigure& figure : stop.figures) {
            const auto same = std::find_if(out.rows.begin(), out.rows.end(), [&](const ProofRow& r) {
                return r.proof == proof.name && r.figure.measure == figure.measure;
            });
            if (same == out.rows.end())
                out.rows.push_back({proof.name, proof.kind, stop.stop, figure});
            else if (figure.badness() > same->figure.badness())
                same->stop = stop.stop, same->figure = figure;
        }
    }
    std::stable_sort(out.rows.begin(), out.rows.end(),
                     [](const ProofRow& a, const ProofRow& b) { return a.figure.badness() > b.figure.badness(); });
    return out;
}

std::string proof_report_json(const ProofReport& report) {
    Json proofs = Json::object();
    for (const ProofRow& row : report.rows) {
        Json figure = {{"value", row.figure.value},
                       {"base", row.figure.base},
                       {"unit", proof_measure_unit(row.figure.measure)},
                       {"stop", row.stop + 1},
                       {"worth_a_look", row.figure.badness() >= 1}};
        if (row.figure.at != kNone) figure["vertex"] = row.figure.at;
        proofs[row.proof][proof_measure_name(row.figure.measure)] = std::move(figure);
    }
    const Json out = {{"stops", report.stops}, {"worth_a_look", report.bad()}, {"proofs", std::move(proofs)}};
    return out.dump();
}

std::string proof_value_text(const ProofFigure& figure) {
    char text[40];
    const std::string unit = proof_measure_unit(figure.measure);
    if (unit == "mm")
        std::snprintf(text, sizeof text, "%.2f mm", figure.value);
    else if (unit == "%")
        std::snprintf(text, sizeof text, "%.0f %%", 100 * figure.value);
    else if (unit == "x")
        std::snprintf(text, sizeof text, "%.2f x", figure.value);
    else
        std::snprintf(text, sizeof text, "%.0f", figure.value);
    return text;
}

}  // namespace veld
