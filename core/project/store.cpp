#include "core/project/store.h"

#include <sqlite3.h>

#include <cstring>
#include <filesystem>
#include <set>

#include "core/io/json.h"
#include "core/project/bank_store.h"
#include "core/project/blob_array.h"
#include "core/project/mesh_blob.h"
#include "core/project/photo_store.h"
#include "core/tidy/recipe.h"

namespace veld {
namespace {

namespace fs = std::filesystem;
constexpr int kApplicationId = 0x56454C44;  // "VELD", in the file's header
constexpr const char* kSlotNames[] = {"saved", "autosave"};

class Database {
   public:
    ~Database() { sqlite3_close(db_); }
    Status open(const std::string& path, bool create) {
        path_ = path;
        const int flags = create ? SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE : SQLITE_OPEN_READONLY;
        if (sqlite3_open_v2(path.c_str(), &db_, flags, nullptr) != SQLITE_OK) return fail(create ? "write" : "open");
        sqlite3_busy_timeout(db_, 3000);
        return Done{};
    }
    Error fail(const std::string& verb) const {
        const int code = sqlite3_errcode(db_);
        std::string why = sqlite3_errmsg(db_);
        if (code == SQLITE_FULL) why = "the disk is full. Free some space and save again; the file still holds the last complete state";
        if (code == SQLITE_IOERR) why = "the disk cannot be read or written (full or failing). Save to another place; the file still holds the last complete state";
        if (code == SQLITE_READONLY || code == SQLITE_CANTOPEN || code == SQLITE_PERM) why = "it is not there, or the folder is read-only. Choose another place";
        if (code == SQLITE_NOTADB || code == SQLITE_CORRUPT) why = "it is no Veldstone project, or it is damaged";
        if (code == SQLITE_BUSY || code == SQLITE_LOCKED) why = "another program has it open";
        return {code == SQLITE_NOTADB || code == SQLITE_CORRUPT ? ErrorCode::BadFile : ErrorCode::Io, "Cannot " + verb + " the project '" + path_ + "': " + why + "."};
    }
    Status run(const std::string& sql) {
        return sqlite3_exec(db_, sql.c_str(), nullptr, nullptr, nullptr) == SQLITE_OK ? Status(Done{}) : Status(fail("write"));
    }
    sqlite3* handle() const { return db_; }

   private:
    sqlite3* db_ = nullptr;
    std::string path_;
};

class Statement {
   public:
    Statement(Database& db, const char* sql) { ok_ = sqlite3_prepare_v2(db.handle(), sql, -1, &s_, nullptr) == SQLITE_OK; }
    ~Statement() { sqlite3_finalize(s_); }
    void text(int at, const std::string& v) { sqlite3_bind_text(s_, at, v.data(), static_cast<int>(v.size()), SQLITE_TRANSIENT); }
    void blob(int at, const std::string& v) { sqlite3_bind_blob64(s_, at, v.data(), v.size(), SQLITE_STATIC); }
    int step() { return ok_ ? sqlite3_step(s_) : SQLITE_ERROR; }
    std::string column(int at) {
        const void* p = sqlite3_column_blob(s_, at);
        return p ? std::string(static_cast<const char*>(p), static_cast<std::size_t>(sqlite3_column_bytes(s_, at))) : "";
    }

   private:
    sqlite3_stmt* s_ = nullptr;
    bool ok_ = false;
};

std::string blob_id(const std::string& bytes) {
    std::uint64_t a = 1469598103934665603ull, b = 0x9E3779B97F4A7C15ull;
    for (std::size_t i = 0; i < bytes.size(); i += 8) {
        std::uint64_t word = 0;
        std::memcpy(&word, bytes.data() + i, std::min<std::size_t>(8, bytes.size() - i));
        a = (a ^ word) * 1099511628211ull;
        b = (b + word) * 0xD6E8FEB86659FD93ull;
        b ^= b >> 32;
    }
    char text[64];
    std::snprintf(text, sizeof text, "%zx-%016llx%016llx", bytes.size(), static_cast<unsigned long long>(a), static_cast<unsigned long long>(b));
    return text;
}

Json place_json(const SurfacePoint& p) { return {{"face", p.face}, {"vertices", p.vertices}, {"weights", p.weights}}; }
Json similarity_json(const Similarity& s) {
    Json r = Json::array();
    for (int i = 0; i < 9; ++i) r.push_back(s.rotation(i / 3, i % 3));
    return {{"scale", s.scale}, {"rotation", r}, {"translation", {s.translation.x(), s.translation.y(), s.translation.z()}}};
}
Similarity similarity_from(const Json& j) {
    Similarity s;
    s.scale = j.at("scale");
    for (int i = 0; i < 9; ++i) s.rotation(i / 3, i % 3) = j.at("rotation").at(static_cast<std::size_t>(i));
    for (int k = 0; k < 3; ++k) s.translation[k] = j.at("translation").at(static_cast<std::size_t>(k));
    return s;
}

// State <-> JSON with heavy arrays replaced by their blob's id.
class Packer {
   public:
    std::map<std::string, std::string> blobs;

    Json pack(const ProjectState& s, const std::string& folder) {
        Json j;
        j["version"] = 1;
        std::error_code ignored;
        const fs::path kit = fs::absolute(s.kit->folder, ignored).lexically_normal();
        j["kit"] = kit.string();
        j["kit_relative"] = fs::relative(kit, fs::absolute(folder, ignored), ignored).string();
        j["topology"] = s.kit->topology_key;
        j["subject"] = s.subject;
        j["settings"] = Json::parse(fit_settings_text(s.settings));
        for (const auto& [name, p] : s.base_points) j["base_points"][name] = place_json(p);
        j["base_curves"] = Json::object();
        for (const auto& [name, line] : s.base_curves) {
            for (const SurfacePoint& p : line) j["base_curves"][name].push_back(place_json(p));
        }
        j["asked"] = point_set_name(s.asked);
        j["subjects"] = Json::array();
        for (const Subject& subject : s.subjects) j["subjects"].push_back(pack_subject(subject));
        j["inbox"] = s.inbox;
        pack_bank(s, j, [this](std::string bytes) { return keep(std::move(bytes)); });
        return j;
    }

   private:
    std::string keep(std::string bytes) {
        std::string id = blob_id(bytes);
        blobs.try_emplace(id, std::move(bytes));
        return id;
    }
    Json pack_subject(const Subject& subject) {
        Json j = {{"name", subject.name}, {"sources", Json::array()}, {"fits", Json::array()}, {"photo_sets", Json::array()}};
        for (const PhotoSet& set : subject.photo_sets) {
            Json photos = Json::array();
            for (const Image& image : *set.photos) photos.push_back({{"name", image.name}, {"mime", image.mime}, {"bytes", keep({image.bytes.begin(), image.bytes.end()})}});
            Json marks = Json::array();
            for (const PhotoMarks& m : set.marks) marks.push_back(m.width > 0 ? Json::parse(photo_marks_text(m)) : Json());
            j["photo_sets"].push_back({{"name", set.name}, {"photos", photos}, {"marks", marks}});
            if (set.settings) j["photo_sets"].back()["settings"] = Json::parse(photo_fit_settings_text(*set.settings));
        }
        for (const Source& s : subject.sources) {
            Json source = {{"name", s.name}, {"path", s.path}, {"mesh", keep(mesh_to_blob(*s.mesh))}, {"landmarks", Json::parse(landmarks_text(s.landmarks))}, {"notes", s.notes}};
            if (s.unit) source["unit"] = unit_name(*s.unit);
            source["shown_unit"] = unit_name(s.shown_unit), source["up"] = up_axis_name(s.up);
            source["unit_reason"] = s.unit_reason, source["up_reason"] = s.up_reason;
            source["upright"] = similarity_json(s.upright);
            if (s.ignored) source["ignored"] = keep(array_blob(*s.ignored));
            source["recipe"] = Json::parse(recipe_text(s.recipe));
            source["recipe_said"] = s.recipe_said, source["stamp"] = s.stamp;
            j["sources"].push_back(source);
        }
        for (const FitRecord& f : subject.fits) {
            j["fits"].push_back({{"name", f.name}, {"source", f.source}, {"positions", keep(array_blob(*f.positions))},
                                 {"distances", keep(array_blob(*f.distances))}, {"source_to_kit", similarity_json(f.source_to_kit)},
                                 {"size_ratio", f.size_ratio}, {"settings", Json::parse(fit_settings_text(f.settings))},
                                 {"figures", Json::parse(figures_text(f.figures))}, {"notes", f.notes}});
            Json& fit = j["fits"].back();
            if (f.pose) fit["pose"] = {{"turns", keep(array_blob(f.pose->turns))}, {"stretch", keep(array_blob(f.pose->stretch))}, {"move", {f.pose->move.x(), f.pose->move.y(), f.pose->move.z()}}};
            if (f.landmarks) fit["landmarks"] = Json::parse(landmarks_text(*f.landmarks));
            if (f.ignored) fit["ignored"] = keep(array_blob(*f.ignored));
            pack_photo_fit(f, fit, [this](std::string bytes) { return keep(std::move(bytes)); });
            if (!f.touch || !f.fitted) continue;
            fit["fitted"] = keep(array_blob(*f.fitted));
            fit["touch"] = {{"vertices", keep(array_blob(f.touch->vertex))}, {"moves", keep(array_blob(f.touch->move))}, {"amount", f.touch->amount}, {"on", f.touch->on}, {"figures_old", f.figures_old}};
        }
        j["chosen_fit"] = subject.chosen_fit;
        return j;
    }
};

class Unpacker {
   public:
    Unpacker(Database& db, std::string path) : db_(db), path_(std::move(path)) {}

    Result<ProjectState> unpack(const Json& j, std::shared_ptr<const BaseKit> kit);

   private:
    Error damaged(const std::string& why) const { return {ErrorCode::BadFile, "The project '" + path_ + "' is damaged: " + why}; }
    bool blob(const std::string& id, std::string& out) {
        Statement s(db_, "SELECT data FROM blob WHERE id=?");
        s.text(1, id);
        if (s.step() != SQLITE_ROW) return false;
        out = s.column(0);
        return blob_id(out) == id;
    }
    Status sources(const Json& j, Subject& out);
    Status tidied(const Json& j, Source& out);
    Status photos(const Json& j, Subject& out);
    Status fits(const Json& j, std::size_t vertices, Subject& out);
    Status touch(const Json& j, std::size_t vertices, FitRecord& f);
    Status marks_used(const Json& j, const Subject& subject, FitRecord& f);

    Database& db_;
    std::string path_;
    double crown_ = 0;   // of the kit, mm
    std::size_t joints_ = 0;
};

// How a source stands and what was done to it.
Status Unpacker::tidied(const Json& j, Source& s) {
    if (!j.contains("upright")) {   // written before sources could be tidied
        const FrameGuess guess = guess_frame(*s.mesh, s.name, {});
        s.shown_unit = s.unit.value_or(guess.unit), s.up = guess.up, s.unit_reason = guess.unit_reason, s.up_reason = guess.up_reason;
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
        if (!blob(j["ignored"], bytes) || !array_from(bytes, *mask) || mask->size() != s.mesh->positions.size()) return damaged("the ignored areas of '" + s.name + "' do not match its mesh.");
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
            if (!blob(p.at("bytes"), bytes)) return damaged("a photograph of '" + j.at("name").get<std::string>() + "' is missing.");
            images->push_back({p.at("name"), p.at("mime"), {bytes.begin(), bytes.end()}});
        }
        out.photo_sets.push_back({j.at("name"), images});
        const Json marks = j.value("marks", Json::array());
        for (const Json& m : marks) {
            out.photo_sets.back().marks.emplace_back();
            if (m.is_null()) continue;
            auto read = parse_photo_marks(m.dump(), path_);
            if (!read) return read.error();
            out.photo_sets.back().marks.back() = std::move(*read);
        }
        if (j.contains("settings")) {
            auto settings = parse_photo_fit_settings(j["settings"].dump(), path_);
            if (!settings) return settings.error();
            out.photo_sets.back().settings = std::move(*settings);
        }
    }
    return Done{};
}

Status Unpacker::sources(const Json& list, Subject& out) {
    for (const Json& j : list) {
        Source s;
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
    ok = ok && blob(t.at("moves"), bytes) && array_from(bytes, layer->move) && layer->move.size() == layer->vertex.size();
    if (!ok || std::any_of(layer->vertex.begin(), layer->vertex.end(), [&](Index v) { return v >= vertices; })) return damaged("the touch-up of '" + f.name + "' does not match the kit.");
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
    if (!blob(j["ignored"], bytes) || !array_from(bytes, *mask)) return damaged("the ignored areas of '" + f.name + "' are missing.");
    f.ignored = mask;
    for (const Source& source : subject.sources) {
        if (source.name == f.source && source.ignored && *source.ignored == *mask) f.ignored = source.ignored;   // unchanged since
    }
    return Done{};
}

Status Unpacker::fits(const Json& list, std::size_t vertices, Subject& out) {
    for (const Json& j : list) {
        FitRecord f;
        f.name = j.at("name"), f.source = j.at("source");
        std::string bytes;
        auto positions = std::make_shared<Points>();
        auto distances = std::make_shared<std::vector<float>>();
        const bool ok = blob(j.at("positions"), bytes) && array_from(bytes, *positions) && blob(j.at("distances"), bytes) && array_from(bytes, *distances);
        if (!ok || positions->size() != vertices || distances->size() != vertices) return damaged("the fit '" + f.name + "' does not match the kit.");
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
            const bool whole = blob(p.at("turns"), turns) && array_from(turns, pose.turns) && blob(p.at("stretch"), stretch) && array_from(stretch, pose.stretch);
            if (!whole || pose.turns.size() != joints_ || (!pose.stretch.empty() && pose.stretch.size() != joints_)) return damaged("the pose of '" + f.name + "' does not match the kit's joints.");
            for (int k = 0; k < 3; ++k) pose.move[k] = p.at("move").at(static_cast<std::size_t>(k));
            f.pose = std::move(pose);
        }
        if (auto ok = marks_used(j, out, f); !ok) return ok;
        if (auto ok = unpack_photo_fit(j, path_, vertices, [this](const std::string& id, std::string& bytes) { return blob(id, bytes); }, f); !ok) return ok;
        if (j.contains("touch")) {
            if (auto ok = touch(j, vertices, f); !ok) return ok;
        }
        out.fits.push_back(std::move(f));
    }
    return Done{};
}

Result<ProjectState> Unpacker::unpack(const Json& j, std::shared_ptr<const BaseKit> kit) {
    ProjectState out = new_project(std::move(kit));
    const std::size_t vertices = out.kit->mesh.positions.size();
    crown_ = bounding_box(out.kit->mesh.positions).high.y();
    joints_ = out.kit->joints.size();
    try {
        if (j.at("version") != 1) return damaged("it has a version that this program does not know.");
        if (j.at("topology") != out.kit->topology_key) return Error{ErrorCode::BadInput, "The project '" + path_ + "' was made with another base mesh than the kit in '" + out.kit->folder + "'."};
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
                if (!place_on_base(p, out.base_curves[name].back())) return damaged("a guide curve of the base lies on no vertex.");
            }
        }
        for (const PointSet set : kPointSets) {
            if (j.value("asked", "head") == point_set_name(set)) out.asked = set;
        }
        for (const Json& s : j.at("subjects")) {
            Subject subject;
            subject.name = s.at("name");
            if (auto ok = sources(s.at("sources"), subject); !ok) return ok.error();
            if (auto ok = fits(s.at("fits"), vertices, subject); !ok) return ok.error();
            subject.chosen_fit = s.value("chosen_fit", -1);
            if (auto ok = photos(s.value("photo_sets", Json::array()), subject); !ok) return ok.error();
            out.subjects.push_back(std::move(subject));
        }
        out.inbox = j.value("inbox", "");
        if (auto ok = unpack_bank(j, path_, [this](const std::string& id, std::string& bytes) { return blob(id, bytes); }, out); !ok) return ok.error();
    } catch (const Json::exception& e) {
        return damaged(e.what());
    }
    return out;
}

Status write_blobs(Database& db, const std::map<std::string, std::string>& blobs) {
    for (const auto& [id, bytes] : blobs) {
        Statement known(db, "SELECT 1 FROM blob WHERE id=?");
        known.text(1, id);
        if (known.step() == SQLITE_ROW) continue;
        Statement insert(db, "INSERT INTO blob(id, data) VALUES(?, ?)");
        insert.text(1, id);
        insert.blob(2, bytes);
        if (insert.step() != SQLITE_DONE) return db.fail("write");
    }
    return Done{};
}

void collect_ids(const Json& j, std::set<std::string>& out) {
    if (j.is_string()) out.insert(j.get<std::string>());
    if (j.is_structured()) {
        for (const Json& child : j) collect_ids(child, out);
    }
}

// Blobs that no state asks for any more.
Status sweep(Database& db) {
    std::set<std::string> wanted;
    Statement states(db, "SELECT state FROM snapshot");
    while (states.step() == SQLITE_ROW) collect_ids(Json::parse(states.column(0), nullptr, false), wanted);
    std::vector<std::string> unwanted;
    Statement all(db, "SELECT id FROM blob");
    while (all.step() == SQLITE_ROW) {
        if (std::string id = all.column(0); !wanted.contains(id)) unwanted.push_back(id);
    }
    for (const std::string& id : unwanted) {
        Statement drop(db, "DELETE FROM blob WHERE id=?");
        drop.text(1, id);
        if (drop.step() != SQLITE_DONE) return db.fail("write");
    }
    return Done{};
}

Status write_state(Database& db, const ProjectState& state, const std::string& path, SaveSlot slot) {
    Packer packer;
    const Json json = packer.pack(state, fs::path(path).parent_path().string().empty() ? "." : fs::path(path).parent_path().string());
    if (auto ok = write_blobs(db, packer.blobs); !ok) return ok;
    // saving makes the autosaved state obsolete
    if (slot == SaveSlot::Saved) {
        if (auto ok = db.run("DELETE FROM snapshot WHERE slot='autosave'"); !ok) return ok;
    }
    Statement put(db, "INSERT OR REPLACE INTO snapshot(slot, state, number) VALUES(?, ?, (SELECT IFNULL(MAX(number), 0) + 1 FROM snapshot))");
    put.text(1, kSlotNames[static_cast<int>(slot)]);
    put.text(2, json.dump(-1, ' ', false, Json::error_handler_t::replace));
    if (put.step() != SQLITE_DONE) return db.fail("write");
    return sweep(db);
}

}  // namespace

Status save_project(const std::string& path, const ProjectState& state, SaveSlot slot) {
    Database db;
    if (auto ok = db.open(path, true); !ok) return ok;
    const std::string setup = "PRAGMA journal_mode=DELETE; PRAGMA synchronous=FULL; PRAGMA application_id=" + std::to_string(kApplicationId) +
                              "; CREATE TABLE IF NOT EXISTS snapshot(slot TEXT PRIMARY KEY, state TEXT NOT NULL, number INTEGER NOT NULL);"
                              "CREATE TABLE IF NOT EXISTS blob(id TEXT PRIMARY KEY, data BLOB NOT NULL);";
    if (auto ok = db.run(setup); !ok) return ok;
    if (auto ok = db.run("BEGIN IMMEDIATE"); !ok) return ok;
    auto written = write_state(db, state, path, slot);
    if (written) written = db.run("COMMIT");
    if (!written) (void)db.run("ROLLBACK");
    return written;
}

Result<LoadedProject> load_project(const std::string& path, SaveSlot slot, const std::string& kit_folder) {
    Database db;
    if (!fs::is_regular_file(path)) return Error{ErrorCode::Io, "There is no project file '" + path + "'."};
    // read-write, so that a journal left by a killed save is rolled back; read-only media still open
    if (!db.open(path, true)) {
        if (auto ok = db.open(path, false); !ok) return ok.error();
    }
    std::map<std::string, std::pair<std::string, long>> found;
    {
        Statement states(db, "SELECT slot, state, number FROM snapshot");
        int code;
        while ((code = states.step()) == SQLITE_ROW) found[states.column(0)] = {states.column(1), std::stol("0" + states.column(2))};
        if (code != SQLITE_DONE) return Error{ErrorCode::BadFile, "Cannot open '" + path + "': it is no Veldstone project, or it is damaged."};
    }
    const std::string wanted = kSlotNames[static_cast<int>(slot)];
    if (!found.contains(wanted)) {
        if (found.empty()) return Error{ErrorCode::BadFile, "The project '" + path + "' holds no state; it was never saved completely."};
        if (slot == SaveSlot::Autosave) return Error{ErrorCode::BadFile, "The project '" + path + "' holds no autosaved state."};
    }
    const auto& chosen = found.contains(wanted) ? found[wanted] : found.begin()->second;
    const Json json = Json::parse(chosen.first, nullptr, false);
    if (!json.is_object()) return Error{ErrorCode::BadFile, "The project '" + path + "' is damaged: its state is no JSON."};
    std::string folder = kit_folder;
    if (folder.empty()) {
        const fs::path beside = fs::path(path).parent_path() / json.value("kit_relative", "");
        folder = fs::exists(beside / "figure.json") ? beside.lexically_normal().string() : json.value("kit", "");
    }
    auto kit = read_base_kit(folder);
    if (!kit) return Error{kit.error().code, kit.error().message + " The project '" + path + "' needs it; choose the kit's folder when opening."};
    auto state = Unpacker(db, path).unpack(json, std::make_shared<BaseKit>(std::move(*kit)));
    if (!state) return state.error();
    LoadedProject out{std::move(*state), false, {}};
    out.autosave_is_newer = slot == SaveSlot::Saved && found.contains("autosave") && found.contains("saved");
    return out;
}

Status drop_autosave(const std::string& path) {
    Database db;
    if (auto ok = db.open(path, true); !ok) return ok;
    return db.run("DELETE FROM snapshot WHERE slot='autosave'");
}

}  // namespace veld
