#pragma once
// What is done with a photo set on a worker thread: looking at the pictures, learning how heads differ, solving,
// skins.
#include <memory>

#include "core/photo/by_hand.h"
#include "core/photo/look_at_photos.h"
#include "core/project/photo_heads.h"
#include "core/skin/layers.h"

namespace veld {

// What a set's photographs showed, kept while the program runs.
struct KnownPhotos {
    std::shared_ptr<const std::vector<Image>> photos;
    std::vector<LookedAt> looked;
};

// How heads may differ, for one kit, one choice of known heads and one neck band.
struct HeadSpace {
    std::shared_ptr<const BaseKit> kit;
    std::vector<std::shared_ptr<const Morph>> heads;  // held, so that another morph of the same name is another one
    double neck_band_mm = 0;
    ShapeSpace space;
    BaseRegions regions;
    std::unique_ptr<HandSliders> sliders;
};

struct PhotoTask {
    enum class Kind { Look, Make, Blend } kind = Kind::Look;
    ProjectState state;        // when it began
    SubjectId subject, other;  // whose it is; the other one of a blend
    PhotoSetId set;            // of a blend: the other one's, when that person has no fit yet
    FitId from;                // the fit that it goes on from
    std::shared_ptr<const Points> from_shape;
    std::shared_ptr<KnownPhotos> known;      // null: looked at by the work
    std::shared_ptr<const HeadSpace> space;  // null: made by the work
    PhotoHeadSettings settings;
    std::vector<int> faces;
    bool go_on = false, skins = false;
    double share = 0.5;
};

struct PhotoOutcome {
    std::shared_ptr<KnownPhotos> known;
    std::shared_ptr<const HeadSpace> space;
    std::optional<PhotoHead> fit;
    std::shared_ptr<FitRecord> other_fit;  // made for a blend
    std::shared_ptr<LayeredSkin> skin;     // of a blend; null: neither of the two has one
};

Result<PhotoOutcome> do_photo_task(const PhotoTask& task, const Progress& progress);

// What a solve is asked; what nobody marked is as it was found.
PhotoHeadInput photo_input(const ProjectState& state, const PhotoSet& set, const KnownPhotos& known,
                           const HeadSpace& space, const PhotoHeadSettings& settings);

}  // namespace veld
