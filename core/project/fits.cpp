#include "core/project/fits.h"

#include <set>

#include "core/base/json.h"
#include "core/fit/articulate.h"
#include "core/fit/problem.h"
#include "core/fit/rest_doubt.h"
#include "core/fit/settings_text.h"
#include "core/photo/photo_figures.h"
#include "core/project/records/photo_record.h"
#include "core/touchup/layer.h"

namespace veld {

FitRecord make_record(const BaseKit& kit, FitResult&& fit, const Source& source, const std::vector<std::string>& taken,
                      std::shared_ptr<const TouchLayer> touch) {
    FitRecord out;
    out.name = free_name(std::string(fit_part_name(fit.settings.part)) + " fit", taken);
    out.source = source.name, out.source_id = source.id;
    out.landmarks = source.landmarks, out.ignored = source.ignored;
    out.positions = std::make_shared<Points>(std::move(fit.positions));
    out.distances = std::make_shared<std::vector<float>>(std::move(fit.distances));
    if (!fit.guessed.empty()) out.guessed = std::make_shared<std::vector<float>>(std::move(fit.guessed));
    out.source_to_kit = fit.placement.source_to_kit;
    out.size_ratio = fit.placement.size_ratio;
    out.settings = fit.settings;
    out.figures = fit.figures;
    out.notes = fit.notes;
    out.pose = fit.pose;
    if (touch && !touch->empty()) set_touch(kit, out, *touch);
    return out;
}

void add_fit(Subject& subject, FitRecord&& record) {
    subject.fits.push_back(std::move(record));
    subject.current_fit = -1;
}

void remove_fit(Subject& subject, std::size_t at) {
    if (at >= subject.fits.size()) return;
    subject.fits.erase(subject.fits.begin() + static_cast<std::ptrdiff_t>(at));
    subject.current_fit = subject.fits.empty() ? -1 : std::max(0, static_cast<int>(at) - 1);
}

namespace {

const Source* source_of(const ProjectState& state) {
    const FitRecord* fit = state.fit();
    return fit ? find_source(state, fit->source_id) : nullptr;
}

}  // namespace

bool outdated(const ProjectState& state) {
    const FitRecord* fit = state.fit();
    const Source* source = source_of(state);
    if (!fit || !source || !fit->landmarks) return false;
    return !(fit->settings == state.settings) || !(*fit->landmarks == source->landmarks) ||
           fit->ignored != source->ignored;
}

std::optional<FitStart> start_from(const ProjectState& state, FitCache cache) {
    const Source* source = source_of(state);
    if (!source || !source->mesh) return {};
    const FitRecord& fit = *state.fit();
    FitStart out;
    out.positions = &untouched(fit);
    out.placement.source_to_kit = fit.source_to_kit, out.placement.size_ratio = fit.size_ratio;
    out.placement.unit = source->shown_unit, out.placement.unit_reason = source->unit_reason;
    out.pose = fit.pose, out.settings = fit.settings;
    out.landmarks = fit.landmarks.value_or(LandmarkSet());
    out.ignored = fit.ignored.get();
    out.cache = std::move(cache);
    return out;
}

std::vector<std::string> settings_differences(const FitSettings& before, const FitSettings& now) {
    const Json a = Json::parse(fit_settings_text(before)), b = Json::parse(fit_settings_text(now));
    std::vector<std::string> out;
    for (const auto& [key, value] : b.items()) {
        if (key == "regions" || key == "own_regions" || !a.contains(key) || a[key] == value) continue;
        out.push_back(key + " " + a[key].dump() + " -> " + value.dump());
    }
    std::set<std::string> names;
    for (const auto* s : {&before, &now}) {
        for (const auto& [name, setting] : s->regions) names.insert(name);
        for (const auto& [name, weights] : s->own_regions) names.insert(name);
    }
    const auto same = [&](const auto& x, const auto& y, const std::string& name) {
        const auto i = x.find(name), j = y.find(name);
        return (i == x.end()) == (j == y.end()) && (i == x.end() || i->second == j->second);
    };
    for (const std::string& name : names) {
        if (!same(before.regions, now.regions, name) || !same(before.own_regions, now.own_regions, name))
            out.push_back("region " + name);
    }
    return out;
}

const Points& untouched(const FitRecord& record) { return record.fitted ? *record.fitted : *record.positions; }

void set_touch(const BaseKit& kit, FitRecord& record, TouchLayer layer) {
    if (!record.fitted) record.fitted = record.positions;
    record.positions = std::make_shared<Points>(with_touch(kit, *record.fitted, layer));
    record.touch = std::make_shared<TouchLayer>(std::move(layer));
    record.figures_old = true;
}

Points rest_shape(const BaseKit& kit, const FitRecord& record) {
    return at_rest(kit, *record.positions, record.pose, record.settings.shut_mouth);
}

std::shared_ptr<const SourceSurface> surface_under(const Source& source, const FitRecord& fit) {
    FitInput input;
    input.source = source.mesh.get(), input.ignored = source.ignored.get(), input.settings = fit.settings;
    const auto ignored = never_matched(input, fit.source_to_kit);
    return std::make_shared<SourceSurface>(prepare_source(*source.mesh, fit.source_to_kit, &ignored));
}

std::optional<Measuring> measuring_of(const ProjectState& state) {
    const FitRecord* fit = state.fit();
    if (!fit) return {};
    const Source* source = find_source(state, fit->source_id);
    if (source && source->mesh) return Measuring{state.kit, state.base_points, state.base_curves, *source, *fit};
    // of photographs, or of two people: there is no surface, and nothing that could be gone
    if (!fit->source_id || fit->photo) return Measuring{state.kit, state.base_points, state.base_curves, {}, *fit};
    return {};
}

Status measure(Measuring& what, const Progress& progress) {
    if (!what.source.mesh) {
        auto photos = what.record.photo ? what.record.photo->photos : std::vector<PhotoFigures>();
        for (PhotoFigures& p : photos) {
            for (auto& [name, mm] : p.landmark_mm) {
                // at most: what it was off by, and what hands moved it by in that picture
                const auto place = what.base_points.find(name);
                if (!p.camera || place == what.base_points.end()) continue;
                const Vec3 now = place->second.at(*what.record.positions),
                           then = place->second.at(*what.record.photo->solved);
                mm += (p.camera->project(now) - p.camera->project(then)).norm() / p.camera->pixels_per_mm(now);
            }
        }
        auto seconds = what.record.figures.seconds;
        what.record.figures =
            photo_figures(*what.kit, what.record.settings.neck_band_mm, *what.record.positions, photos);
        what.record.figures.seconds = std::move(seconds);
        what.record.distances =
            std::make_shared<std::vector<float>>(*what.record.distances);  // new figures are known by it
        what.record.figures_old = false;
        return Done{};
    }
    FitInput input;
    const BaseKit posed = what.record.pose ? posed_kit(*what.kit, *what.record.pose) : BaseKit();
    input.kit = what.record.pose ? &posed : what.kit.get();
    input.base_points = what.base_points, input.base_curves = what.base_curves;
    input.source = what.source.mesh.get();
    input.landmarks = what.source.landmarks;
    input.ignored = what.source.ignored.get(), input.not_skin = what.source.not_skin.get();
    input.settings = what.record.settings;
    std::vector<float> distances;
    auto figures = measure_again(input, what.record.source_to_kit, what.record.pose, *what.record.positions,
                                 &distances, progress);
    if (!figures) return figures.error();
    if (what.record.pose) figures->rest = rest_doubts(*what.kit, *what.record.positions, *what.record.pose, distances);
    figures->seconds = what.record.figures.seconds;  // of the fit itself
    figures->repaired_vertices = what.record.figures.repaired_vertices;
    what.record.figures = std::move(*figures);
    what.record.distances = std::make_shared<std::vector<float>>(std::move(distances));
    what.record.figures_old = false;
    return Done{};
}

}  // namespace veld
