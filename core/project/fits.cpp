#include "core/project/fits.h"

#include "core/fit/articulate.h"

namespace veld {

FitRecord make_record(const BaseKit& kit, FitResult&& fit, const std::string& source, const std::vector<std::string>& taken, std::shared_ptr<const TouchLayer> touch) {
    FitRecord out;
    out.name = free_name(std::string(fit_part_name(fit.settings.part)) + " fit", taken);
    out.source = source;
    out.positions = std::make_shared<Points>(std::move(fit.positions));
    out.distances = std::make_shared<std::vector<float>>(std::move(fit.distances));
    out.source_to_kit = fit.placement.source_to_kit;
    out.size_ratio = fit.placement.size_ratio;
    out.settings = fit.settings;
    out.figures = fit.figures;
    out.notes = fit.notes;
    out.pose = fit.pose;
    if (touch && !touch->empty()) set_touch(kit, out, *touch);
    return out;
}

const Points& untouched(const FitRecord& record) { return record.fitted ? *record.fitted : *record.positions; }

void set_touch(const BaseKit& kit, FitRecord& record, TouchLayer layer) {
    if (!record.fitted) record.fitted = record.positions;
    record.positions = std::make_shared<Points>(with_touch(kit, *record.fitted, layer));
    record.touch = std::make_shared<TouchLayer>(std::move(layer));
    record.figures_old = true;
}

Points rest_shape(const BaseKit& kit, const FitRecord& record) { return at_rest(kit, *record.positions, record.pose); }

std::optional<Measuring> measuring_of(const ProjectState& state) {
    const FitRecord* fit = state.fit();
    if (!fit) return {};
    for (const Source& source : state.current()->sources) {
        if (source.name == fit->source && source.mesh) return Measuring{state.kit, state.base_points, state.base_curves, source, *fit};
    }
    return {};
}

Status measure(Measuring& what, const Progress& progress) {
    FitInput input;
    const BaseKit posed = what.record.pose ? posed_kit(*what.kit, *what.record.pose) : BaseKit();
    input.kit = what.record.pose ? &posed : what.kit.get();
    input.base_points = what.base_points, input.base_curves = what.base_curves;
    input.source = what.source.mesh.get();
    input.landmarks = what.source.landmarks;
    input.ignored = what.source.ignored.get();
    input.settings = what.record.settings;
    std::vector<float> distances;
    auto figures = measure_again(input, what.record.source_to_kit, *what.record.positions, &distances, progress);
    if (!figures) return figures.error();
    figures->seconds = what.record.figures.seconds;   // of the fit itself
    figures->repaired_vertices = what.record.figures.repaired_vertices;
    what.record.figures = std::move(*figures);
    what.record.distances = std::make_shared<std::vector<float>>(std::move(distances));
    what.record.figures_old = false;
    return Done{};
}

}  // namespace veld
