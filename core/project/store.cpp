#include "core/project/store.h"

#include <filesystem>
#include <set>

#include "core/kit/base_kit.h"
#include "core/project/database.h"
#include "core/project/state_json.h"

namespace veld {
namespace {

namespace fs = std::filesystem;
constexpr int kApplicationId = 0x56454C44;  // "VELD", in the file's header
constexpr const char* kSlotNames[] = {"saved", "autosave"};

Status write_blobs(Database& db, const std::map<std::string, std::string>& blobs) {
    for (const auto& [id, bytes] : blobs) {
        Statement known(db, "SELECT 1 FROM blob WHERE id=?");
        known.text(1, id);
        if (known.row()) continue;
        Statement insert(db, "INSERT INTO blob(id, data) VALUES(?, ?)");
        insert.text(1, id);
        insert.blob(2, bytes);
        if (!insert.done()) return db.fail("write");
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
    while (states.row()) collect_ids(Json::parse(states.column(0), nullptr, false), wanted);
    std::vector<std::string> unwanted;
    Statement all(db, "SELECT id FROM blob");
    while (all.row()) {
        if (std::string id = all.column(0); !wanted.contains(id)) unwanted.push_back(id);
    }
    for (const std::string& id : unwanted) {
        Statement drop(db, "DELETE FROM blob WHERE id=?");
        drop.text(1, id);
        if (!drop.done()) return db.fail("write");
    }
    return Done{};
}

// Who wrote what is in a slot, and when in the order of that writer's requests. Files of before this was kept say
// nothing.
SaveMark mark_in(Database& db, SaveSlot slot) {
    Statement s(db, "SELECT document, request FROM written WHERE slot=?");
    s.text(1, kSlotNames[static_cast<int>(slot)]);
    return s.row() ? SaveMark{{id_value(s.column(0))}, static_cast<std::uint64_t>(s.number_column(1))} : SaveMark{};
}

// Both are of one window, and `a` was asked for before `b`.
bool older_of_the_same(const SaveMark& a, const SaveMark& b) {
    return a.document && a.document == b.document && a.request < b.request;
}

Status write_state(Database& db, const PackedProject& packed, SaveSlot slot, const SaveMark& mark) {
    // a save and an autosave of one window may arrive in any order: the one that was asked for last stays
    const SaveSlot other = slot == SaveSlot::Saved ? SaveSlot::Autosave : SaveSlot::Saved;
    const bool other_is_newer = older_of_the_same(mark, mark_in(db, other));
    if (slot == SaveSlot::Autosave && other_is_newer) return Done{};
    if (auto ok = write_blobs(db, packed.blobs); !ok) return ok;
    // saving makes the autosaved state obsolete
    if (slot == SaveSlot::Saved && !other_is_newer) {
        if (auto ok = db.run("DELETE FROM snapshot WHERE slot='autosave'; DELETE FROM written WHERE slot='autosave'");
            !ok)
            return ok;
    }
    Statement put(db,
                  "INSERT OR REPLACE INTO snapshot(slot, state, number) VALUES(?, ?, (SELECT IFNULL(MAX(number), 0) + "
                  "1 FROM snapshot))");
    put.text(1, kSlotNames[static_cast<int>(slot)]);
    put.text(2, packed.state);
    if (!put.done()) return db.fail("write");
    Statement said(db, "INSERT OR REPLACE INTO written(slot, document, request) VALUES(?, ?, ?)");
    said.text(1, kSlotNames[static_cast<int>(slot)]);
    said.text(2, id_text(mark.document.value));
    said.number(3, static_cast<std::int64_t>(mark.request));
    if (!said.done()) return db.fail("write");
    return sweep(db);
}

struct Snapshot {
    std::string state;
    std::int64_t number = 0;
    SaveMark mark;
};

// By slot name; fails when the file is no project.
Result<std::map<std::string, Snapshot>> snapshots(Database& db, const std::string& path) {
    std::map<std::string, Snapshot> out;
    Statement states(db, "SELECT slot, state, number FROM snapshot");
    while (states.row()) out[states.column(0)] = {states.column(1), states.number_column(2), {}};
    if (states.failed())
        return Error{ErrorCode::BadFile, "Cannot open '" + path + "': it is no Veldstone project, or it is damaged."};
    for (const SaveSlot slot : {SaveSlot::Saved, SaveSlot::Autosave}) {
        if (const auto at = out.find(kSlotNames[static_cast<int>(slot)]); at != out.end())
            at->second.mark = mark_in(db, slot);
    }
    return out;
}

bool autosave_is_newer(const std::map<std::string, Snapshot>& found) {
    const auto saved = found.find(kSlotNames[0]), autosaved = found.find(kSlotNames[1]);
    if (saved == found.end() || autosaved == found.end()) return false;
    const SaveMark &a = saved->second.mark, &b = autosaved->second.mark;
    if (a.document && a.document == b.document) return older_of_the_same(a, b);
    return autosaved->second.number > saved->second.number;
}

}  // namespace

PackedProject pack_project(const ProjectState& state, const std::string& path) {
    PackedProject out;
    const std::string folder = fs::path(path).parent_path().string();
    const Json json = pack_state(state, folder.empty() ? "." : folder, out.blobs);
    out.state = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return out;
}

Status write_packed(const std::string& path, const PackedProject& packed, SaveSlot slot, const SaveMark& mark) {
    Database db;
    if (auto ok = db.open(path, true); !ok) return ok;
    const std::string setup =
        "PRAGMA journal_mode=DELETE; PRAGMA synchronous=FULL; PRAGMA application_id=" +
        std::to_string(kApplicationId) +
        "; CREATE TABLE IF NOT EXISTS snapshot(slot TEXT PRIMARY KEY, state TEXT NOT NULL, number INTEGER NOT NULL);"
        "CREATE TABLE IF NOT EXISTS blob(id TEXT PRIMARY KEY, data BLOB NOT NULL);"
        "CREATE TABLE IF NOT EXISTS written(slot TEXT PRIMARY KEY, document TEXT NOT NULL, request INTEGER NOT NULL);";
    if (auto ok = db.run(setup); !ok) return ok;
    if (auto ok = db.run("BEGIN IMMEDIATE"); !ok) return ok;
    auto written = write_state(db, packed, slot, mark);
    if (written) written = db.run("COMMIT");
    if (!written) (void)db.run("ROLLBACK");
    return written;
}

Status save_project(const std::string& path, const ProjectState& state, SaveSlot slot, const SaveMark& mark) {
    return write_packed(path, pack_project(state, path), slot, mark);
}

Result<LoadedProject> load_project(const std::string& path, SaveSlot slot, const std::string& kit_folder) {
    Database db;
    if (!fs::is_regular_file(path)) return Error{ErrorCode::Io, "There is no project file '" + path + "'."};
    // read-write, so that a journal left by a killed save is rolled back; read-only media still open
    if (!db.open(path, true)) {
        if (auto ok = db.open(path, false); !ok) return ok.error();
    }
    const auto found = snapshots(db, path);
    if (!found) return found.error();
    const auto wanted = found->find(kSlotNames[static_cast<int>(slot)]);
    if (wanted == found->end()) {
        if (found->empty())
            return Error{ErrorCode::BadFile,
                         "The project '" + path + "' holds no state; it was never saved completely."};
        if (slot == SaveSlot::Autosave)
            return Error{ErrorCode::BadFile, "The project '" + path + "' holds no autosaved state."};
    }
    const Snapshot& selected = wanted != found->end() ? wanted->second : found->begin()->second;
    const Json json = Json::parse(selected.state, nullptr, false);
    if (!json.is_object())
        return Error{ErrorCode::BadFile, "The project '" + path + "' is damaged: its state is no JSON."};
    std::string folder = kit_folder;
    if (folder.empty()) {
        const fs::path beside = fs::path(path).parent_path() / json.value("kit_relative", "");
        folder = fs::exists(beside / "figure.json") ? beside.lexically_normal().string() : json.value("kit", "");
    }
    auto kit = read_base_kit(folder);
    if (!kit)
        return Error{ErrorCode::KitMissing, kit.error().message + " The project '" + path +
                                                "' needs it; select the kit's folder when opening."};
    const auto blob = [&db](const std::string& id, std::string& bytes) {
        Statement s(db, "SELECT data FROM blob WHERE id=?");
        s.text(1, id);
        if (!s.row()) return false;
        bytes = s.column(0);
        return blob_id(bytes) == id;
    };
    auto state = unpack_state(json, std::make_shared<BaseKit>(std::move(*kit)), BlobReader(blob, path));
    if (!state) return state.error();
    LoadedProject out{std::move(*state), false, {}};
    out.autosave_is_newer = slot == SaveSlot::Saved && autosave_is_newer(*found);
    return out;
}

Status drop_autosave(const std::string& path) {
    Database db;
    if (auto ok = db.open(path, true); !ok) return ok;
    return db.run("DELETE FROM snapshot WHERE slot='autosave'");
}

}  // namespace veld
