#include "core/detect/reference_store.h"

#include <cmath>
#include <cstdlib>
#include <cstring>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"

namespace veld {
namespace {

constexpr int kReferenceVersion = 1;  // raised when views, light or networks change

std::string cache_folder() {
    if (const char* xdg = std::getenv("XDG_CACHE_HOME"); xdg && *xdg) return std::string(xdg) + "/veldstone";
    if (const char* home = std::getenv("HOME"); home && *home) return std::string(home) + "/.cache/veldstone";
    return {};
}

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
    for (const SeenView& v : r.views) views.push_back({{"sure", v.sure}, {"points", points_json(v.points)}});
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
            out.views.push_back({views[i], v.at("sure").get<double>(), points_from(v.at("points"))});
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
    std::uint64_t hash = 1469598103934665603ull;  // FNV-1a
    const auto mix = [&](const void* data, std::size_t bytes) {
        const auto* p = static_cast<const unsigned char*>(data);
        for (std::size_t i = 0; i < bytes; ++i) hash = (hash ^ p[i]) * 1099511628211ull;
    };
    mix(&kReferenceVersion, sizeof kReferenceVersion);
    mix(kit.topology_key.data(), kit.topology_key.size());
    for (const Vec3& p : kit.mesh.positions) mix(p.data(), sizeof(double) * 3);
    const FacePlace place = face_place(kit);
    mix(place.centre.data(), sizeof(double) * 3);
    mix(&place.radius, sizeof place.radius);
    for (const Image& image : kit.mesh.images) mix(image.bytes.data(), image.bytes.size());
    char name[40];
    std::snprintf(name, sizeof name, "face-%016llx.json", static_cast<unsigned long long>(hash));
    return name;
}

Result<FaceReference> kept_face_reference(FaceNetwork& network, const BaseKit& kit, const std::string& folder) {
    const std::string in = folder.empty() ? cache_folder() : folder;
    const std::string path = in + "/" + face_reference_file(kit);
    if (!in.empty()) {
        if (const auto bytes = read_file(path)) {
            if (auto kept = parse(bytes->view(), kit)) return std::move(*kept);
        }
    }
    auto made = face_reference(network, kit);
    if (!made || in.empty()) return made;
    std::error_code ignored;
    std::filesystem::create_directories(in, ignored);
    (void)write_file(path, text_of(*made));  // next time it is made again
    return made;
}

}  // namespace veld
