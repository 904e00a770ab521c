#include <algorithm>
#include <set>

#include "core/io/mesh_blob.h"
#include "core/project/bank_store.h"
#include "core/project/blob_array.h"
#include "core/project/photo_store.h"
#include "core/project/state_json.h"
#include "core/tidy/recipe.h"

namespace veld {
namespace {

Similarity similarity_from(const Json& j) {
    Similarity s;
    s.scale = j.at("scale");
    for (int i = 0; i < 9; ++i) s.rotation(i / 3, i % 3) = j.at("rotation").at(static_cast<std::size_t>(i));
    for (int k = 0; k < 3; ++k) s.translation[k] = j.at("translation").at(static_cast<std::size_t>(k));
    return s;
}

class Unpacker {
 public:
    Unpacker(const BlobReader& read, std::string path) : read_(read), path_(std::move(path)) {}

    Result<ProjectState> unpack(const Json& j, std::shared_ptr<const BaseKit> kit);

 private:
    Error damaged(const std::string& why) const {
        return {ErrorCode::BadFile, "The project '" + path_ + "' is damaged: " + why};
    }
    bool blob(const std::string& id, std::string& out) const { return read_(id, out); }
    Status sources(const Json& j, Subject& out);
    Status tidied(const Json& j, Source& out);
    Status photos(const Json& j, Subject& out);
    Status fits(const Json& j, std::size_t vertices, Subject& out);
    Status touch(const Json& j, std::size_t vertices, FitRecord& f);
    Status marks_used(const Json& j, const Subject& subject, FitRecord& f);

    const BlobReader& read_;
    std::string path_;
    double crown_ = 0;  // of the kit, mm
    std::size_t joints_ = 0;
};

// Projects of before there were ids keep the one that the object was just made with.
template <class Key>
void read_id(const Json& j, const char* name, Key& id) {
    if (const auto value = id_value(j.value(name, ""))) id.value = value;
}

// How a source stands and what was done to it.
Status Unpacker::tidied(const Json& j, Source& s) {
    if (!j.contains("upright")) {  // written before sources could be tidied
        const FrameGuess guess = guess_frame(*s.mesh, s.name, {});
        s.shown_unit = s.unit.value_or(guess.unit), s.up = guess.up, s.unit_reason = guess.unit_reason,
        s.up_reason = guess.up_reason;
        s.upright = rough_upright(*s.mesh, s.shown_unit, s.up, crown_);
        return Done{};
    }
    s.shown_unit = unit_from_name(j.at("shown_unit")).value_or(Unit::Millimetre);
    s.up = up_axis_from_name(j.at("up")).value_or(UpAxis::PlusY);
    s.unit_reason = j.at("unit_reason"), s.up_reason = j.at("up_reason");
    s.upright = similarity_from(j.at("upright"));
    if (!(s.upright.scale > 0)) return damaged("the placement of '" + s.name + "' has no size.");
    if (j.contains("ignored")) {
        std::string bytes;
        auto mask = std::make_shared<VertexMask>();
        if (!blob(j["ignored"], bytes) || !array_from(bytes, *mask) || mask->size() != s.mesh->positions.size())
            return damaged("the ignored areas of '" + s.name + "' do not match its mesh.");
        s.ignored = mask;
    }
    auto recipe = parse_recipe(j.at("recipe").dump(), path_);
    if (!recipe) return recipe.error();
    s.recipe = std::move(*recipe);
    s.recipe_said = j.at("recipe_said").get<std::vector<std::string>>();
    s.recipe_said.resize(s.recipe.size());
    s.stamp = j.at("stamp");
    return Done{};
}

Status Unpacker::photos(const Json& list, Subject& out) {
    for (const Json& j : list) {
        auto images = std::make_shared<std::vector<Image>>();
        for (const Json& p : j.at("photos")) {
            std::string bytes;
            if (!blob(p.at("bytes"), bytes))
                return damaged("a photograph of '" + j.at("name").get<std::string>() + "' is missing.");
            images->push_back({p.at("name"), p.at("mime"), {bytes.begin(), bytes.end()}});
        }
        out.photo_sets.push_back({j.at("name"), images});
        read_id(j, "id", out.photo_sets.back().id);
        const Json marks = j.value("marks", Json::array());
        for (const Json& m : marks) {
            out.photo_sets.back().marks.emplace_back();
            if (m.is_null()) continue;
            auto read = parse_photo_marks(m.dump(), path_);
            if (!read) return read.error();
            out.photo_sets.back().marks.back() = std::move(*read);
        }
        if (j.contains("settings")) {
            auto settings = parse_photo_head_settings(j["settings"].dump(), path_);
            if (!settings) return settings.error();
            out.photo_sets.back().settings = std::move(*settings);
        }
    }
    return Done{};
}

Status Unpacker::sources(const Json& list, Subject& out) {
    for (const Json& j : list) {
        Source s;
        read_id(j, "id", s.id);
        s.name = j.at("name"), s.path = j.at("path");
        s.notes = j.at("notes").get<std::vector<std::string>>();
        if (j.contains("unit")) s.unit = unit_from_name(j["unit"]);
        std::string bytes;
        if (!blob(j.at("mesh"), bytes)) return damaged("the mesh of '" + s.name + "' is missing.");
        auto mesh = mesh_from_blob(bytes);
        if (!mesh) return damaged(mesh.error().message);
        s.mesh = std::make_shared<Mesh>(std::move(*mesh));
        if (auto ok = tidied(j, s); !ok) return ok;
        auto marks = parse_landmarks(j.at("landmarks").dump(), path_);
        if (!marks) return marks.error();
        s.landmarks = std::move(marks->set);
        out.sources.push_back(std::move(s));
    }
    return Done{};
}

Status Unpacker::touch(const Json& j, std::size_t vertices, FitRecord& f) {
    const Json& t = j.at("touch");
    auto fitted = std::make_shared<Points>();
    auto layer = std::make_shared<TouchLayer>();
    std::string bytes;
    bool ok = blob(j.at("fitted"), bytes) && array_from(bytes, *fitted) && fitted->size() == vertices;
    ok = ok && blob(t.at("vertices"), bytes) && array_from(bytes, layer->vertex);
    ok = ok && blob(t.at("moves"), bytes) && array_from(bytes, layer->move) &&
         layer->move.size() == layer->vertex.size();
    if (!ok || std::any_of(layer->vertex.begin(), layer->vertex.end(), [&](Index v) { return v >= vertices; }))
        return damaged("the touch-up of '" + f.name + "' does not match the kit.");
    layer->amount = t.at("amount"), layer->on = t.at("on");
    f.figures_old = t.value("figures_old", false);
    f.fitted = fitted, f.touch = layer;
    return Done{};
}

// What the source looked like when the fit was made.
Status Unpacker::marks_used(const Json& j, const Subject& subject, FitRecord& f) {
    if (j.contains("landmarks")) {
        auto read = parse_landmarks(j["landmarks"].dump(), path_);
        if (!read) return read.error();
        f.landmarks = std::move(read->set);
    }
    if (!j.contains("ignored")) return Done{};
    std::string bytes;
    auto mask = std::make_shared<VertexMask>();
    if (!blob(j["ignored"], bytes) || !array_from(bytes, *mask))
        return damaged("the ignored areas of '" + f.name + "' are missing.");
    f.ignored = mask;
    for (const Source& source : subject.sources) {
        if (source.id == f.source_id && source.ignored && *source.ignored == *mask)
            f.ignored = source.ignored;  // unchanged since
    }
    return Done{};
}

// By id; projects of before there were ids say it by name.
void made_from(const Json& j, const Subject& subject, FitRecord& f) {
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

Status Unpacker::fits(const Json& list, std::size_t vertices, Subject& out) {
    for (const Json& j : list) {
        FitRecord f;
        read_id(j, "id", f.id);
        f.name = j.at("name"), f.source = j.at("source");
        std::string bytes;
        auto positions = std::make_shared<Points>();
        auto distances = std::make_shared<std::vector<float>>();
        const bool ok = blob(j.at("positions"), bytes) && array_from(bytes, *positions) &&
                        blob(j.at("distances"), bytes) && array_from(bytes, *distances);
        if (!ok || positions->size() != vertices || distances->size() != vertices)
            return damaged("the fit '" + f.name + "' does not match the kit.");
        f.positions = positions, f.distances = distances;
        f.source_to_kit = similarity_from(j.at("source_to_kit"));
        f.size_ratio = j.at("size_ratio");
        auto settings = parse_fit_settings(j.at("settings").dump(), path_);
        if (!settings) return settings.error();
        f.settings = *settings;
        f.figures = parse_figures(j.at("figures").dump());
        f.notes = j.at("notes").get<std::vector<std::string>>();
        if (j.contains("pose")) {
            Pose pose;
            const Json& p = j["pose"];
            std::string turns, stretch;
            const bool whole = blob(p.at("turns"), turns) && array_from(turns, pose.turns) &&
                               blob(p.at("stretch"), stretch) && array_from(stretch, pose.stretch);
            if (!whole || pose.turns.size() != joints_ || (!pose.stretch.empty() && pose.stretch.size() != joints_))
                return damaged("the pose of '" + f.name + "' does not match the kit's joints.");
            for (int k = 0; k < 3; ++k) pose.move[k] = p.at("move").at(static_cast<std::size_t>(k));
            f.pose = std::move(pose);
        }
        made_from(j, out, f);
        if (auto ok = marks_used(j, out, f); !ok) return ok;
        if (auto ok = unpack_photo_head(
                j, path_, vertices, [this](const std::string& id, std::string& bytes) { return blob(id, bytes); }, f);
            !ok)
            return ok;
        if (j.contains("touch")) {
            if (auto ok = touch(j, vertices, f); !ok) return ok;
        }
        out.fits.push_back(std::move(f));
    }
    return Done{};
}

bool ids_differ(const ProjectState& state) {
    std::set<std::uint64_t> seen;
    const auto fresh = [&](const auto& list) {
        return std::all_of(list.begin(), list.end(),
                           [&](const auto& thing) { return seen.insert(thing.id.value).second; });
    };
    if (!fresh(state.subjects) || !fresh(state.bank)) return false;
    return std::all_of(state.subjects.begin(), state.subjects.end(),
                       [&](const Subject& s) { return fresh(s.sources) && fresh(s.photo_sets) && fresh(s.fits); });
}

Result<ProjectState> Unpacker::unpack(const Json& j, std::shared_ptr<const BaseKit> kit) {
    ProjectState out = new_project(std::move(kit));
    const std::size_t vertices = out.kit->mesh.positions.size();
    crown_ = bounding_box(out.kit->mesh.positions).high.y();
    joints_ = out.kit->joints.size();
    try {
        if (j.at("version") != 1) return damaged("it has a version that this program does not know.");
        if (j.at("topology") != out.kit->topology_key)
            return Error{ErrorCode::BadInput, "The project '" + path_ +
                                                  "' was made with another base mesh than the kit in '" +
                                                  out.kit->folder + "'."};
        out.subject = j.at("subject");
        auto settings = parse_fit_settings(j.at("settings").dump(), path_);
        if (!settings) return settings.error();
        out.settings = *settings;
        const auto place_on_base = [&](const Json& p, SurfacePoint& place) {
            place.face = p.at("face");
            place.vertices = p.at("vertices");
            place.weights = p.at("weights");
            return std::all_of(place.vertices.begin(), place.vertices.end(), [&](Index v) { return v < vertices; });
        };
        for (const auto& [name, p] : j.at("base_points").items()) {
            if (!place_on_base(p, out.base_points[name])) return damaged("a landmark of the base lies on no vertex.");
        }
        // projects of before there were own curves have none of these, and keep the kit's
        const Json curves = j.value("base_curves", Json::object());
        if (j.contains("base_curves")) out.base_curves.clear();
        for (const auto& [name, line] : curves.items()) {
            for (const Json& p : line) {
                out.base_curves[name].emplace_back();
                if (!place_on_base(p, out.base_curves[name].back()))
                    return damaged("a guide curve of the base lies on no vertex.");
            }
        }
        for (const PointSet set : kPointSets) {
            if (j.value("asked", "head") == point_set_name(set)) out.asked = set;
        }
        for (const Json& s : j.at("subjects")) {
            Subject subject;
            read_id(s, "id", subject.id);
            subject.name = s.at("name");
            if (auto ok = sources(s.at("sources"), subject); !ok) return ok.error();
            if (auto ok = photos(s.value("photo_sets", Json::array()), subject); !ok) return ok.error();
            if (auto ok = fits(s.at("fits"), vertices, subject); !ok) return ok.error();
            subject.chosen_fit = s.value("chosen_fit", -1);
            out.subjects.push_back(std::move(subject));
        }
        out.inbox = j.value("inbox", "");
        if (auto ok = unpack_bank(
                j, path_, [this](const std::string& id, std::string& bytes) { return blob(id, bytes); }, out);
            !ok)
            return ok.error();
        if (!ids_differ(out)) return damaged("two of its objects have one id.");
    } catch (const Json::exception& e) {
        return damaged(e.what());
    }
    return out;
}

}  // namespace

Result<ProjectState> unpack_state(const Json& json, std::shared_ptr<const BaseKit> kit, const BlobReader& blob,
                                  const std::string& path) {
    return Unpacker(blob, path).unpack(json, std::move(kit));
}

}  // namespace veld
