#include "core/project/marks.h"

#include "core/landmark/landmarks.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

template <class Map>
void rename_key(Map& map, const std::string& from, const std::string& to) {
    if (auto node = map.extract(from); !node.empty()) {
        node.key() = to;
        map.insert(std::move(node));
    }
}

template <class Set>
void rename_in(Set& set, const std::string& from, const std::string& to) {
    rename_key(set.points, from, to), rename_key(set.curves, from, to), rename_key(set.trust, from, to);
}

void rename_in_fit(FitRecord& fit, const std::string& from, const std::string& to) {
    if (fit.landmarks) rename_in(*fit.landmarks, from, to);
    rename_key(fit.figures.landmark_mm, from, to);
    if (!fit.photo) return;
    auto photo = std::make_shared<PhotoRecord>(*fit.photo);
    for (PhotoFigures& p : photo->photos) rename_key(p.landmark_mm, from, to);
    fit.photo = photo;
}

}  // namespace

Status rename_landmark(ProjectState& state, const std::string& from, const std::string& to) {
    if (from.empty() || landmark_scheme().point(from) || landmark_scheme().curve(from))
        return Error{ErrorCode::BadInput, "Only your own landmarks can be renamed."};
    const bool taken = state.base_points.contains(to) || state.base_curves.contains(to) ||
                       landmark_scheme().point(to) || landmark_scheme().curve(to);
    if (to.empty() || taken || to.find('#') != std::string::npos)
        return Error{ErrorCode::BadInput, "'" + to + "' is taken, empty or holds a '#'; use another name."};
    rename_key(state.base_points, from, to), rename_key(state.base_curves, from, to);
    for (Subject& subject : state.subjects) {
        for (Source& source : subject.sources) rename_in(source.landmarks, from, to);
        for (PhotoSet& set : subject.photo_sets) {
            for (PhotoMarks& marks : set.marks) rename_in(marks, from, to);
        }
        for (FitRecord& fit : subject.fits) rename_in_fit(fit, from, to);
    }
    return Done{};
}

}  // namespace veld
