#include "core/project/photo_heads.h"

#include <limits>

#include "core/photo/by_hand.h"
#include "core/photo/photo_figures.h"
#include "core/project/fits.h"
#include "core/project/records/photo_record.h"
#include "core/touchup/layer.h"

namespace veld {
namespace {

constexpr std::size_t kFewestHeads = 6;  // fewer say nothing of how people differ

std::shared_ptr<const std::vector<float>> no_distances(const BaseKit& kit) {
    return std::make_shared<std::vector<float>>(kit.mesh.positions.size(), std::numeric_limits<float>::quiet_NaN());
}

void put_shape(const BaseKit& kit, FitRecord& record, Points shape) {
    record.positions = std::make_shared<Points>(std::move(shape));
    record.fitted = nullptr;
    record.figures_old = true;  // measured again when the hand rests
    if (record.touch) set_touch(kit, record, *record.touch);
}

}  // namespace

const PhotoSet* photo_set_of(const Subject& subject, const FitRecord& fit) {
    if (!fit.photo) return nullptr;
    for (const PhotoSet& set : subject.photo_sets) {
        if (set.id == fit.photo_set_id && set.photos) return &set;
    }
    return nullptr;
}

PhotoHeadSettings photo_settings(const ProjectState& state, const PhotoSet& set) {
    PhotoHeadSettings out;
    if (set.settings)
        out = *set.settings;
    else if (auto heads = head_morphs(state); heads.size() >= kFewestHeads)
        out.heads = std::move(heads);
    out.lenses.resize(set.photos->size());
    return out;
}

std::vector<std::string> head_morphs(const ProjectState& state) {
    std::vector<std::string> out;
    for (const BankEntry& e : state.bank) {
        if (e.morph->kind == MorphKind::Head || e.morph->kind == MorphKind::Whole) out.push_back(e.morph->name);
    }
    return out;
}

std::vector<std::shared_ptr<const Morph>> morphs_named(const ProjectState& state,
                                                       const std::vector<std::string>& names) {
    std::vector<std::shared_ptr<const Morph>> out;
    for (const BankEntry& e : state.bank) {
        if (std::find(names.begin(), names.end(), e.morph->name) != names.end()) out.push_back(e.morph);
    }
    return out;
}

FitRecord make_photo_record(const BaseKit& kit, PhotoHead&& fit, const PhotoSet& set,
                            const PhotoHeadSettings& settings, const std::vector<std::string>& taken,
                            const HandShape& hand, std::shared_ptr<const TouchLayer> touch,
                            const HandSliders* sliders) {
    FitRecord out;
    out.name = free_name("photo head", taken);
    out.source = set.name, out.photo_set_id = set.id;
    out.distances = no_distances(kit);
    out.settings.neck_band_mm = settings.neck_band_mm;
    out.figures = std::move(fit.figures);
    const double took = fit.seconds;
    out.figures.seconds["photo"] = took;
    out.notes = std::move(fit.notes);
    auto photo = std::make_shared<PhotoRecord>();
    photo->settings = settings, photo->photos = std::move(fit.photos);
    photo->z.assign(fit.z.data(), fit.z.data() + fit.z.size());
    photo->seen_by = std::move(fit.seen_by);
    photo->solved = std::make_shared<Points>(std::move(fit.positions));
    out.positions = photo->solved;
    out.touch = touch && !touch->empty() ? touch : nullptr;
    out.photo = photo;
    if (sliders && !hand.settings.empty())
        set_hand(kit, *sliders, out, hand);
    else if (out.touch)
        put_shape(kit, out, *photo->solved);
    return out;
}

void set_hand(const BaseKit& kit, const HandSliders& sliders, FitRecord& record, const HandShape& hand) {
    auto photo = std::make_shared<PhotoRecord>(*record.photo);
    photo->hand = hand;
    std::erase_if(photo->hand.settings, [](const HandSetting& s) { return s.mm == 0; });
    Points shape = *photo->solved;
    if (!photo->hand.settings.empty()) {
        const Points delta = sliders.delta(photo->hand, shape, photo->cameras());
        for (std::size_t v = 0; v < shape.size(); ++v) shape[v] += delta[v];
        place_parts(kit, PartsChoice::Follow, shape);
    }
    record.photo = photo;
    put_shape(kit, record, std::move(shape));
}

void set_solved(const BaseKit& kit, const HandSliders& sliders, FitRecord& record,
                std::shared_ptr<const Points> solved) {
    auto photo = std::make_shared<PhotoRecord>(*record.photo);
    photo->solved = std::move(solved);
    record.photo = photo;
    set_hand(kit, sliders, record, photo->hand);
}

FitRecord blend_fits(const BaseKit& kit, const FitRecord& a, const FitRecord& b, double share,
                     const std::vector<std::string>& taken) {
    FitRecord out;
    char name[96];
    std::snprintf(name, sizeof name, "blend %.0f : %.0f", 100 * (1 - share), 100 * share);
    out.name = free_name(name, taken);
    out.distances = no_distances(kit);
    out.positions = std::make_shared<Points>(blend_people(kit, rest_shape(kit, a), rest_shape(kit, b), share));
    out.settings.use_surface = false;
    out.figures = photo_figures(kit, out.settings.neck_band_mm, *out.positions, {});
    out.notes.push_back("Blended from '" + a.name + "' and '" + b.name + "'.");
    return out;
}

}  // namespace veld
