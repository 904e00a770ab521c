#include "core/project/records/fit_record.h"

#include <algorithm>

#include "core/fit/settings_text.h"
#include "core/kit/base_kit.h"
#include "core/project/records/packing.h"
#include "core/touchup/layer.h"

namespace veld {
namespace {

Json touch_json(const FitRecord& f, BlobWriter& blobs) {
    return {{"vertices", blobs.keep_array(f.touch->vertex)},
            {"moves", blobs.keep_array(f.touch->move)},
            {"amount", f.touch->amount},
            {"on", f.touch->on},
            {"figures_old", f.figures_old}};
}

Status read_touch(const Json& j, std::size_t vertices, const BlobReader& blobs, FitRecord& f) {
    const Json& t = j.at("touch");
    auto fitted = std::make_shared<Points>();
    auto layer = std::make_shared<TouchLayer>();
    bool ok = blobs.array(j.at("fitted"), *fitted) && fitted->size() == vertices;
    ok = ok && blobs.array(t.at("vertices"), layer->vertex) && blobs.array(t.at("moves"), layer->move) &&
         layer->move.size() == layer->vertex.size();
    if (!ok || std::any_of(layer->vertex.begin(), layer->vertex.end(), [&](Index v) { return v >= vertices; }))
        return blobs.damaged("the touch-up of '" + f.name + "' does not match the kit.");
    layer->amount = t.at("amount"), layer->on = t.at("on");
    f.figures_old = t.value("figures_old", false);
    f.fitted = fitted, f.touch = layer;
    return Done{};
}

// What the source looked like when the fit was made.
Status read_marks_used(const Json& j, const Subject& subject, const BlobReader& blobs, FitRecord& f) {
    if (j.contains("landmarks")) {
        auto read = parse_landmarks(j["landmarks"].dump(), blobs.path());
        if (!read) return read.error();
        f.landmarks = std::move(read->set);
    }
    if (!j.contains("ignored")) return Done{};
    auto mask = std::make_shared<VertexMask>();
    if (!blobs.array(j["ignored"], *mask)) return blobs.damaged("the ignored areas of '" + f.name + "' are missing.");
    f.ignored = mask;
    for (const Source& source : subject.sources) {
        if (source.id == f.source_id && source.ignored && *source.ignored == *mask)
            f.ignored = source.ignored;  // unchanged since
    }
    return Done{};
}

// By id; projects of before there were ids say it by name.
void read_made_from(const Json& j, const Subject& subject, FitRecord& f) {
    read_id(j, "source_id", f.source_id);
    read_id(j, "photo_set_id", f.photo_set_id);
    if (f.source_id || f.photo_set_id || f.source.empty()) return;
    if (j.contains("photo")) {
        for (const PhotoSet& set : subject.photo_sets) {
            if (set.name == f.source) f.photo_set_id = set.id;
        }
        if (!f.photo_set_id) f.photo_set_id = PhotoSetId::make();  // gone already
        return;
    }
    for (const Source& source : subject.sources) {
        if (source.name == f.source) f.source_id = source.id;
    }
    if (!f.source_id) f.source_id = SourceId::make();
}

Status read_shape(const Json& j, std::size_t vertices, const BlobReader& blobs, FitRecord& f) {
    auto positions = std::make_shared<Points>();
    auto distances = std::make_shared<std::vector<float>>();
    if (!blobs.array(j.at("positions"), *positions) || !blobs.array(j.at("distances"), *distances) ||
        positions->size() != vertices || distances->size() != vertices)
        return blobs.damaged("the fit '" + f.name + "' does not match the kit.");
    f.positions = positions, f.distances = distances;
    if (j.contains("guessed")) {
        auto guessed = std::make_shared<std::vector<float>>();
        if (!blobs.array(j["guessed"], *guessed) || guessed->size() != vertices)
            return blobs.damaged("what is guessed in the fit '" + f.name + "' does not match the kit.");
        f.guessed = guessed;
    }
    return Done{};
}

}  // namespace

Json pack_fit(const FitRecord& f, BlobWriter& blobs) {
    Json out = {{"id", id_text(f.id.value)},
                {"name", f.name},
                {"source", f.source},
                {"positions", blobs.keep_array(*f.positions)},
                {"distances", blobs.keep_array(*f.distances)},
                {"source_to_kit", similarity_json(f.source_to_kit)},
                {"size_ratio", f.size_ratio},
                {"settings", Json::parse(fit_settings_text(f.settings))},
                {"figures", Json::parse(figures_text(f.figures))},
                {"notes", f.notes}};
    if (f.guessed) out["guessed"] = blobs.keep_array(*f.guessed);
    if (f.source_id) out["source_id"] = id_text(f.source_id.value);
    if (f.photo_set_id) out["photo_set_id"] = id_text(f.photo_set_id.value);
    if (f.pose) out["pose"] = pack_pose(*f.pose, blobs);
    if (f.landmarks) out["landmarks"] = Json::parse(landmarks_text(*f.landmarks));
    if (f.ignored) out["ignored"] = blobs.keep_array(*f.ignored);
    pack_photo_record(f, out, blobs);
    if (!f.touch || !f.fitted) return out;
    out["fitted"] = blobs.keep_array(*f.fitted);
    out["touch"] = touch_json(f, blobs);
    return out;
}

Result<FitRecord> unpack_fit(const Json& j, const BaseKit& kit, const Subject& subject, const BlobReader& blobs) {
    const std::size_t vertices = kit.mesh.positions.size();
    FitRecord f;
    read_id(j, "id", f.id);
    f.name = j.at("name"), f.source = j.at("source");
    if (auto ok = read_shape(j, vertices, blobs, f); !ok) return ok.error();
    f.source_to_kit = similarity_from(j.at("source_to_kit"));
    f.size_ratio = j.at("size_ratio");
    auto settings = parse_fit_settings(j.at("settings").dump(), blobs.path());
    if (!settings) return settings.error();
    f.settings = std::move(*settings);
    f.figures = parse_figures(j.at("figures").dump());
    f.notes = j.at("notes").get<std::vector<std::string>>();
    if (j.contains("pose")) {
        auto pose = unpack_pose(j["pose"], kit, f.name, blobs);
        if (!pose) return pose.error();
        f.pose = std::move(*pose);
    }
    read_made_from(j, subject, f);
    if (auto ok = read_marks_used(j, subject, blobs, f); !ok) return ok.error();
    if (auto ok = unpack_photo_record(j, kit, blobs, f); !ok) return ok.error();
    if (j.contains("touch")) {
        if (auto ok = read_touch(j, vertices, blobs, f); !ok) return ok.error();
    }
    return f;
}

}  // namespace veld
