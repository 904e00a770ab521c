#include "core/detect/reference_store.h"

#include <cmath>

#include "core/base/cache.h"
#include "core/base/json.h"

namespace veld {
namespace {

constexpr int kReferenceVersion = 2;  // raised when views, light or networks change

Json points_json(const SeenFace& points) {
    Json out = Json::array();
    for (const auto& p : points) out.push_back(p ? Json{p->x(), p->y(), p->z()} : Json(nullptr));
    return out;
}

SeenFace points_from(const Json& json) {
    SeenFace out;
    for (const Json& p : json) {
        if (p.is_null())
            out.push_back(std::nullopt);
        else
            out.push_back(Vec3(p.at(0).get<double>(), p.at(1).get<double>(), p.at(2).get<double>()));
    }
    if (!out.empty() && out.size() != kSeenPoints) throw std::runtime_error("count");
    return out;
}

std::string text_of(const FaceReference& r) {
    Json views = Json::array();
    for (const SeenView& v : r.views)
        views.push_back({{"sure", v.sure}, {"points", points_json(v.points)}, {"lip_gap", v.lip_gap}});
    Json spread = Json::array();
    for (const double s : r.spread_mm) spread.push_back(s);
    return Json{{"views", views}, {"mean", points_json(r.mean)}, {"spread_mm", spread}}.dump();
}

std::optional<FaceReference> parse(std::string_view text, const BaseKit& kit) {
    try {
        const Json json = Json::parse(text);
        FaceReference out;
        out.place = face_place(kit);
        const std::vector<FaceView> views = face_views(true);
        if (json.at("views").size() != views.size()) return {};
        for (std::size_t i = 0; i < views.size(); ++i) {
            const Json& v = json["views"][i];
            out.views.push_back(
                {views[i], v.at("sure").get<double>(), points_from(v.at("points")), v.at("lip_gap").get<double>()});
        }
        out.mean = points_from(json.at("mean"));
        out.spread_mm = json.at("spread_mm").get<std::vector<double>>();
        if (out.mean.size() != kSeenPoints || out.spread_mm.size() != kSeenPoints) return {};
        return out;
    } catch (const std::exception&) {
        return {};  // cut off or damaged: looked at anew
    }
}

}  // namespace

std::string face_reference_file(const BaseKit& kit) {
    CacheKey key;
    key.mix(&kReferenceVersion, sizeof kReferenceVersion);
    key.mix(kit.topology_key.data(), kit.topology_key.size());
    for (const Vec3& p : kit.mesh.positions) key.mix(p.data(), sizeof(double) * 3);
    const FacePlace place = face_place(kit);
    key.mix(place.centre.data(), sizeof(double) * 3);
    key.mix(&place.radius, sizeof place.radius);
    for (const Image& image : kit.mesh.images) key.mix(image.bytes.data(), image.bytes.size());
    return key.file("face", "json");
}

Result<FaceReference> kept_face_reference(FaceNetwork& network, const BaseKit& kit) {
    const std::string name = face_reference_file(kit);
    if (const auto bytes = from_cache(name)) {
        if (auto kept = parse(bytes->view(), kit)) return std::move(*kept);
    }
    auto made = face_reference(network, kit);
    if (made) into_cache(name, text_of(*made));
    return made;
}

}  // namespace veld
