#include "core/landmark/photo_marks.h"
#include "core/mesh/mesh.h"
#include "core/photo/head_record.h"
#include "core/project/records/packing.h"

namespace veld {

Json pack_photo_set(const PhotoSet& set, BlobWriter& blobs) {
    Json photos = Json::array();
    for (const Image& image : *set.photos)
        photos.push_back({{"name", image.name},
                          {"mime", image.mime},
                          {"bytes", blobs.keep({image.bytes.begin(), image.bytes.end()})}});
    Json marks = Json::array();
    for (const PhotoMarks& m : set.marks) marks.push_back(m.width > 0 ? Json::parse(photo_marks_text(m)) : Json());
    Json out = {{"id", id_text(set.id.value)}, {"name", set.name}, {"photos", photos}, {"marks", marks}};
    if (set.settings) out["settings"] = Json::parse(photo_head_settings_text(*set.settings));
    return out;
}

Result<PhotoSet> unpack_photo_set(const Json& j, const BlobReader& blobs) {
    auto images = std::make_shared<std::vector<Image>>();
    for (const Json& p : j.at("photos")) {
        std::string bytes;
        if (!blobs.bytes(p.at("bytes"), bytes))
            return blobs.damaged("a photograph of '" + j.at("name").get<std::string>() + "' is missing.");
        images->push_back({p.at("name"), p.at("mime"), {bytes.begin(), bytes.end()}});
    }
    PhotoSet out{j.at("name"), images};
    read_id(j, "id", out.id);
    const Json marks = j.value("marks", Json::array());
    for (const Json& m : marks) {
        out.marks.emplace_back();
        if (m.is_null()) continue;
        auto read = parse_photo_marks(m.dump(), blobs.path());
        if (!read) return read.error();
        out.marks.back() = std::move(*read);
    }
    if (j.contains("settings")) {
        auto settings = parse_photo_head_settings(j["settings"].dump(), blobs.path());
        if (!settings) return settings.error();
        out.settings = std::make_shared<const PhotoHeadSettings>(std::move(*settings));
    }
    return out;
}

}  // namespace veld
