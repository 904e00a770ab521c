#include "app/stations/fit/photo_work.h"

#include "core/project/records/photo_record.h"
#include "core/skin/mix_skins.h"

namespace veld {
namespace {

Result<std::shared_ptr<const HeadSpace>> learn_heads(const PhotoTask& task, const PhotoHeadSettings& settings,
                                                     const Progress& progress) {
    progress.say(0, "Learning how heads may differ");
    ShapeSpaceOptions options;
    options.neck_band_mm = settings.neck_band_mm;
    auto out = std::make_shared<HeadSpace>();
    out->kit = task.state.kit, out->neck_band_mm = settings.neck_band_mm;
    out->heads = morphs_named(task.state, settings.heads);
    std::vector<const Morph*> known;
    for (const auto& head : out->heads) known.push_back(head.get());
    const auto deltas = whole_deltas(*task.state.kit, known);
    if (!deltas) return deltas.error();
    auto made = make_shape_space(*task.state.kit, *deltas, options);
    if (!made) return made.error();
    out->space = std::move(*made);
    out->regions = face_regions(*task.state.kit);
    out->sliders = std::make_unique<HandSliders>(*out->kit, out->space, out->regions);
    return std::shared_ptr<const HeadSpace>(out);
}

// The two people's current skins as one, weighed as their shapes are; null: neither has one.
Result<std::shared_ptr<LayeredSkin>> blended_skin(const PhotoTask& task, const Progress& progress) {
    const Subject *one = find_subject(task.state, task.subject), *two = find_subject(task.state, task.other);
    if (!one || !two || (!one->skin() && !two->skin())) return std::shared_ptr<LayeredSkin>();
    std::vector<SkinShare> shares;
    auto out = std::make_shared<LayeredSkin>();
    out->size = 0;
    for (const auto& [whose, share] : {std::pair(one, 1 - task.share), std::pair(two, task.share)}) {
        if (!whose->skin()) continue;  // wears the base's
        out->size = std::max(out->size, whose->skin()->size);
        if (share > 0) shares.push_back({whose->skin(), share, {}});
    }
    if (shares.empty()) return std::shared_ptr<LayeredSkin>();
    auto layer = mixed_skin(*task.state.kit, shares, one->name + " + " + two->name, out->size, progress);
    if (!layer) return layer.error();
    out->name = layer->name;
    out->layers.push_back(std::move(*layer));
    return out;
}

}  // namespace

PhotoHeadInput photo_input(const ProjectState& state, const PhotoSet& set, const KnownPhotos& known,
                           const HeadSpace& space, const PhotoHeadSettings& settings) {
    PhotoHeadInput in;
    in.kit = space.kit.get(), in.base_points = state.base_points, in.base_curves = state.base_curves;
    in.space = &space.space, in.settings = settings, in.photos = views_of(known.looked);
    for (std::size_t i = 0; i < in.photos.size(); ++i) {
        if (i < set.marks.size() && set.marks[i].width > 0) in.photos[i].marks = set.marks[i];
        if (in.photos[i].marks.points.empty()) in.photos[i].marks = known.looked[i].marks;
    }
    return in;
}

Result<PhotoOutcome> do_photo_task(const PhotoTask& task, const Progress& progress) {
    PhotoOutcome out;
    out.known = task.known, out.space = task.space;
    const ProjectState& s = task.state;
    if (task.kind == PhotoTask::Kind::Blend && task.skins) {
        auto skin = blended_skin(task, progress);
        if (!skin) return skin.error();
        out.skin = std::move(*skin);
    }
    const PhotoSet* set = find_photo_set(s, task.set);
    if (!set) return out;  // a blend of two who have fits: nothing is to be made first
    const FitRecord* from = find_fit(s, task.from);
    const PhotoHeadSettings settings = task.kind == PhotoTask::Kind::Blend ? photo_settings(s, *set) : task.settings;
    if (!out.known) {
        LookOptions look;
        look.face = task.faces;
        look.space = out.space ? &out.space->space : nullptr;
        auto looked = look_at_photos(*s.kit, *set->photos, set->marks, look, progress);
        if (!looked) return looked.error();
        out.known = std::make_shared<KnownPhotos>(KnownPhotos{set->photos, std::move(*looked)});
    }
    if (task.kind == PhotoTask::Kind::Look && !from) return out;
    if (!out.space) {
        auto space = learn_heads(task, settings, progress);
        if (!space) return space.error();
        out.space = std::move(*space);
    }
    if (task.kind == PhotoTask::Kind::Look) return out;
    PhotoHeadInput in = photo_input(s, *set, *out.known, *out.space, settings);
    if (task.go_on && from && from->photo &&
        static_cast<Eigen::Index>(from->photo->z.size()) == out.space->space.count()) {
        in.cameras = from->photo->cameras();
        in.z =
            Eigen::Map<const Eigen::VectorXd>(from->photo->z.data(), static_cast<Eigen::Index>(from->photo->z.size()));
    }
    auto fit = fit_photos(in, progress);
    if (!fit) return fit.error();
    if (task.kind == PhotoTask::Kind::Blend)
        out.other_fit = std::make_shared<FitRecord>(
            make_photo_record(*s.kit, std::move(*fit), *set, settings, {}, {}, nullptr, nullptr));
    else
        out.fit = std::move(*fit);
    return out;
}

}  // namespace veld
