#include "core/photo/look_at_photos.h"

#include <algorithm>

namespace veld {

constexpr double kNearlyAsLarge = 0.6;
constexpr std::size_t kMarked = 4;

Result<std::vector<LookedAt>> look_at_photos(const BaseKit& kit, const std::vector<Image>& photos,
                                             const std::vector<PhotoMarks>& marks, const LookOptions& options,
                                             const Progress& progress) {
    std::vector<LookedAt> out;
    std::unique_ptr<FaceNetwork> network;
    std::optional<FaceReference> own;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        progress.say(static_cast<double>(i) / static_cast<double>(photos.size()),
                     "Looking at '" + photos[i].name + "'");
        auto photo = decode_photo(photos[i], PixelBits::Sixteen);
        if (!photo) return photo.error();
        LookedAt one;
        one.photo = std::move(*photo);
        if (i < marks.size()) one.marks = marks[i];
        if (one.marks.width > 0 &&
            (one.marks.width != one.photo.pixels.width || one.marks.height != one.photo.pixels.height)) {
            return Error{ErrorCode::BadInput,
                         "The landmarks of '" + photos[i].name + "' were made on a picture of " +
                             std::to_string(one.marks.width) + " x " + std::to_string(one.marks.height) +
                             " pixels, this one has " + std::to_string(one.photo.pixels.width) + " x " +
                             std::to_string(one.photo.pixels.height) + ". Take the picture that was marked."};
        }
        if (!network) network = std::make_unique<FaceNetwork>();
        if (!options.reference && !own) {
            auto made = kept_face_reference(*network, kit);
            if (!made) return made.error();
            own = std::move(*made);
        }
        const int which = i < options.face.size() ? options.face[i] : -1;
        const FaceReference* reference = options.reference ? options.reference : &*own;
        // who marked it by hand needs no guess at where a profile is
        const auto by_hand = static_cast<std::size_t>(
            std::count_if(one.marks.points.begin(), one.marks.points.end(),
                          [&](const auto& p) { return kept_by_hand(one.marks.trust_of(p.first)); }));
        auto found =
            by_hand >= kMarked
                ? detect_on_photo(*network, kit, one.photo, reference, static_cast<std::size_t>(std::max(which, 0)))
                : find_on_photo(*network, kit, one.photo, reference, static_cast<std::size_t>(std::max(which, 0)),
                                options.space, progress);
        if (found) {
            one.which_face =
                which < 0 && found->faces.size() > 1 && found->faces[1].size > kNearlyAsLarge * found->faces[0].size;
            if (options.find) merge_found(*found, one.marks);
            one.found = std::make_shared<PhotoDetection>(std::move(*found));
        } else if (which > 0 || found.error().code == ErrorCode::Cancelled) {
            return found.error();
        }
        one.marks.width = one.photo.pixels.width, one.marks.height = one.photo.pixels.height;
        one.report = report_on(kit, one.photo, one.found.get(), by_hand);
        out.push_back(std::move(one));
    }
    return out;
}

std::vector<PhotoView2D> views_of(const std::vector<LookedAt>& looked) {
    std::vector<PhotoView2D> out;
    for (const LookedAt& l : looked) out.push_back({&l.photo, l.photo.name, l.photo.focal_35mm, l.marks, l.found});
    return out;
}

}  // namespace veld
