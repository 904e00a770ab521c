// The photo controller's share in trying lenses: while the slider is held the head is solved with the lens under the
// hand, once for each place of the slider; let go, the lens is kept and the head made.
#include "app/stations/fit/photo_controller.h"
#include "core/project/records/photo_record.h"

namespace veld {

bool PhotoController::lens_is_for_this() const { return wanted_lens_ && fit() && fit()->id == wanted_lens_->fit; }

void PhotoController::let_lens_go() {
    s_.jobs().cancel_kind(JobKind::Lens);
    wanted_lens_.reset(), shown_lens_.reset();
    lens_cameras_.clear();
    emit live_ended();
}

void PhotoController::try_lens(int photo, double mm, bool done) {
    const auto keep = [&] {
        edit(
            tr("Focal length"),
            [&](PhotoHeadSettings& f) {
                if (photo < 0 || photo >= static_cast<int>(f.lenses.size())) return;
                PhotoLens& lens = f.lenses[static_cast<std::size_t>(photo)];
                lens.from = PhotoLens::From::Typed, lens.focal_35mm = mm;
            },
            "photo lens");
    };
    if (!fit()) {
        if (done) keep();
        return;
    }
    if (done) {
        let_lens_go();
        keep();
        return make(true);
    }
    wanted_lens_ = Lens{fit()->id, photo, mm};
    run_lens();
}

void PhotoController::run_lens() {
    // one at a time; what is shown already needs no second run, however long the slider is held
    if (!lens_is_for_this() || running_lens_ || shown_lens_ == wanted_lens_) return;
    const Lens lens = *wanted_lens_;
    const FitRecord& from = *fit();
    const auto k = known();
    const auto space = space_for(from.photo->settings);
    if (!k || !space || static_cast<Eigen::Index>(from.photo->z.size()) != space->space.count()) {
        let_lens_go();
        look();
        return emit s_.noticed(tr("The photographs are being analysed; move the slider again in a moment."));
    }
    PhotoHeadInput in = photo_input(s_.state(), *set(), *k, *space, from.photo->settings);
    in.settings.lenses.resize(in.photos.size());
    if (lens.photo < 0 || lens.photo >= static_cast<int>(in.photos.size())) return let_lens_go();
    in.settings.lenses[static_cast<std::size_t>(lens.photo)].from = PhotoLens::From::Typed;
    in.settings.lenses[static_cast<std::size_t>(lens.photo)].focal_35mm = lens.mm;
    in.cameras = from.photo->cameras();
    in.z = Eigen::Map<const Eigen::VectorXd>(from.photo->z.data(), static_cast<Eigen::Index>(from.photo->z.size()));
    in.quick = true;
    running_lens_ = lens;
    s_.jobs().start<PhotoHead>(
        {JobKind::Lens, tr("Trying a focal length"), s_.subject(), true},
        [in, k, space](const Progress& progress) { return fit_photos(in, progress); },
        [this, lens](Result<PhotoHead>&& result) {
            running_lens_.reset();
            if (lens_is_for_this() && wanted_lens_->photo == lens.photo) {
                shown_lens_ = lens;  // a lens that cannot be is not tried again either
                if (result) {
                    lens_cameras_.clear();
                    for (const PhotoFigures& f : result->photos)
                        lens_cameras_.push_back(f.camera.value_or(PhotoCamera{}));
                    emit live(std::make_shared<Points>(std::move(result->positions)));
                    emit changed();
                }
            }
            run_lens();
        });
}

}  // namespace veld
