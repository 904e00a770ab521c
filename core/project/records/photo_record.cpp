#include "core/project/records/photo_record.h"

#include <algorithm>

#include "core/kit/base_kit.h"
#include "core/project/records/packing.h"

namespace veld {
namespace {

Json camera_json(const PhotoCamera& c) {
    Json turn = Json::array();
    for (int i = 0; i < 9; ++i) turn.push_back(c.turn(i / 3, i % 3));
    return {{"size", {c.width, c.height}},
            {"focal", c.focal},
            {"centre", {c.centre.x(), c.centre.y()}},
            {"turn", turn},
            {"move", {c.move.x(), c.move.y(), c.move.z()}},
            {"parallel", c.parallel}};
}

PhotoCamera camera_from(const Json& j) {
    PhotoCamera c;
    c.width = j.at("size").at(0), c.height = j.at("size").at(1);
    c.focal = j.at("focal"), c.parallel = j.at("parallel");
    c.centre = Vec2(j.at("centre").at(0).get<double>(), j.at("centre").at(1).get<double>());
    for (std::size_t i = 0; i < 9; ++i)
        c.turn(static_cast<Eigen::Index>(i / 3), static_cast<Eigen::Index>(i % 3)) = j.at("turn").at(i);
    for (std::size_t i = 0; i < 3; ++i) c.move[static_cast<Eigen::Index>(i)] = j.at("move").at(i);
    return c;
}

Json photo_json(const PhotoFigures& f) {
    Json j = {{"name", f.name},
              {"landmark_rms_mm", f.landmark_rms_mm},
              {"landmark_max_mm", f.landmark_max_mm},
              {"landmark_share", f.landmark_share},
              {"curve_rms_mm", f.curve_rms_mm},
              {"outline_rms_mm", f.outline_rms_mm},
              {"landmarks", f.landmarks},
              {"outline_points", f.outline_points},
              {"distance_mm", f.distance_mm},
              {"landmark_mm", f.landmark_mm}};
    if (f.camera) j["camera"] = camera_json(*f.camera);
    return j;
}

PhotoFigures photo_from(const Json& j) {
    PhotoFigures f;
    f.name = j.at("name");
    f.landmark_rms_mm = j.at("landmark_rms_mm"), f.landmark_max_mm = j.at("landmark_max_mm"),
    f.landmark_share = j.at("landmark_share");
    f.curve_rms_mm = j.at("curve_rms_mm"), f.outline_rms_mm = j.at("outline_rms_mm"), f.landmarks = j.at("landmarks"),
    f.outline_points = j.at("outline_points");
    f.distance_mm = j.at("distance_mm"), f.landmark_mm = j.at("landmark_mm").get<std::map<std::string, double>>();
    if (j.contains("camera")) f.camera = camera_from(j["camera"]);
    return f;
}

Result<PhotoRecord> photo_record_from(const Json& j, std::size_t vertices, const std::string& name,
                                      const BlobReader& blobs) {
    PhotoRecord p;
    auto settings = parse_photo_head_settings(j.at("settings").dump(), blobs.path());
    if (!settings) return settings.error();
    p.settings = std::move(*settings);
    for (const PhotoPlace& dragged : p.settings.places) {
        for (const Index v : dragged.place.vertices) {
            if (v >= vertices) return blobs.damaged("a dragged place of '" + name + "' is on no vertex of the kit.");
        }
    }
    for (const Json& one : j.at("photos")) p.photos.push_back(photo_from(one));
    auto solved = std::make_shared<Points>();
    bool ok = blobs.array(j.at("z"), p.z) && blobs.array(j.at("solved"), *solved) && solved->size() == vertices;
    ok = ok && blobs.array(j.at("seen_by"), p.seen_by) && (p.seen_by.empty() || p.seen_by.size() == vertices);
    ok = ok && std::all_of(p.seen_by.begin(), p.seen_by.end(), [](std::uint8_t n) { return n <= 2; });
    if (!ok) return blobs.damaged("the head from photographs '" + name + "' does not match the kit.");
    p.solved = solved;
    for (const Json& s : j.at("sliders")) {
        const auto move = hand_move_from_name(s.at("move"));
        if (move) p.hand.settings.push_back({s.at("region"), *move, s.at("mm")});
    }
    p.hand.keeps = j.at("keeps").get<std::vector<int>>();
    return p;
}

}  // namespace

void pack_photo_record(const FitRecord& f, Json& out, BlobWriter& blobs) {
    if (f.photo) {
        const PhotoRecord& p = *f.photo;
        Json j = {{"settings", Json::parse(photo_head_settings_text(p.settings))},
                  {"photos", Json::array()},
                  {"z", blobs.keep_array(p.z)},
                  {"solved", blobs.keep_array(*p.solved)},
                  {"seen_by", blobs.keep_array(p.seen_by)}};
        for (const PhotoFigures& one : p.photos) j["photos"].push_back(photo_json(one));
        j["sliders"] = Json::array();
        for (const HandSetting& s : p.hand.settings)
            j["sliders"].push_back({{"region", s.region}, {"move", hand_move_name(s.move)}, {"mm", s.mm}});
        j["keeps"] = p.hand.keeps;
        out["photo"] = std::move(j);
    }
}

Status unpack_photo_record(const Json& json, const BaseKit& kit, const BlobReader& blobs, FitRecord& out) {
    if (json.contains("photo")) {
        auto read = photo_record_from(json["photo"], kit.mesh.positions.size(), out.name, blobs);
        if (!read) return read.error();
        out.photo = std::make_shared<const PhotoRecord>(std::move(*read));
    }
    return Done{};
}

}  // namespace veld
