#include "core/landmark/photo_marks.h"

#include <algorithm>

#include "core/base/json.h"

namespace veld {

bool unsure_in_photo(const Trust& trust, const PhotoMarks& marks) {
    if (trust.origin != Origin::Found || trust.accepted) return false;
    double low = 1e300, high = -1e300;
    for (const auto& [name, p] : marks.points) {
        if (in_point_set(name, PointSet::Face)) low = std::min(low, p.y()), high = std::max(high, p.y());
    }
    return high > low && trust.expected_mm > (high - low) / 30;
}

std::string photo_marks_text(const PhotoMarks& marks) {
    LandmarkSet set;
    for (const auto& [name, p] : marks.points) set.points[name] = {p.x(), p.y(), 0};
    for (const auto& [name, line] : marks.curves) {
        for (const Vec2& p : line) set.curves[name].push_back({p.x(), p.y(), 0});
    }
    set.trust = marks.trust;
    Json json = Json::parse(landmarks_text(set));
    json["photo"] = {{"width", marks.width}, {"height", marks.height}};
    return json.dump(1) + "\n";
}

Result<PhotoMarks> parse_photo_marks(std::string_view text, const std::string& where) {
    auto file = parse_landmarks(text, where);
    if (!file) return file.error();
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    const auto photo = json.find("photo");
    const auto size = [&](const char* key) {
        return photo != json.end() && photo->is_object() && photo->contains(key) && (*photo)[key].is_number_integer()
                   ? (*photo)[key].get<int>()
                   : 0;
    };
    PhotoMarks out;
    out.width = size("width"), out.height = size("height");
    if (out.width <= 0 || out.height <= 0)
        return Error{
            ErrorCode::BadFile,
            "'" + where + "': is no landmark file of a photograph ('photo' with width and height is missing)."};
    for (const auto& [name, p] : file->set.points) out.points[name] = p.head<2>();
    for (const auto& [name, line] : file->set.curves) {
        for (const Vec3& p : line) out.curves[name].push_back(p.head<2>());
    }
    out.trust = file->set.trust;
    return out;
}

}  // namespace veld
