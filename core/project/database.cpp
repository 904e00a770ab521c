#include "core/project/database.h"

#include <sqlite3.h>

#include <algorithm>
#include <cstdio>
#include <cstring>

namespace veld {
namespace {
constexpr int kWaitForOthersMs = 5000;
}

Database::~Database() { sqlite3_close(db_); }

Status Database::open(const std::string& path, bool create) {
    sqlite3_close(db_);
    db_ = nullptr;
    path_ = path;
    const int flags = create ? SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE : SQLITE_OPEN_READONLY;
    if (sqlite3_open_v2(path.c_str(), &db_, flags, nullptr) != SQLITE_OK) return fail(create ? "write" : "open");
    sqlite3_busy_timeout(db_, kWaitForOthersMs);
    return Done{};
}

Error Database::fail(const std::string& verb) const {
    const int code = sqlite3_errcode(db_);
    std::string why = sqlite3_errmsg(db_);
    if (code == SQLITE_FULL)
        why = "the disk is full. Free some space and save again; the file still holds the last complete state";
    if (code == SQLITE_IOERR)
        why =
            "the disk cannot be read or written (full or failing). Save to another place; the file still holds the "
            "last complete state";
    if (code == SQLITE_READONLY || code == SQLITE_CANTOPEN || code == SQLITE_PERM)
        why = "it is not there, or the folder is read-only. Choose another place";
    if (code == SQLITE_NOTADB || code == SQLITE_CORRUPT) why = "it is no Veldstone project, or it is damaged";
    if (code == SQLITE_BUSY || code == SQLITE_LOCKED) why = "another program has it open";
    return {code == SQLITE_NOTADB || code == SQLITE_CORRUPT ? ErrorCode::BadFile : ErrorCode::Io,
            "Cannot " + verb + " the project '" + path_ + "': " + why + "."};
}

Status Database::run(const std::string& sql) {
    return sqlite3_exec(db_, sql.c_str(), nullptr, nullptr, nullptr) == SQLITE_OK ? Status(Done{})
                                                                                  : Status(fail("write"));
}

Statement::Statement(Database& db, const char* sql) {
    ok_ = sqlite3_prepare_v2(db.handle(), sql, -1, &s_, nullptr) == SQLITE_OK;
}
Statement::~Statement() { sqlite3_finalize(s_); }

void Statement::text(int at, const std::string& v) {
    sqlite3_bind_text(s_, at, v.data(), static_cast<int>(v.size()), SQLITE_TRANSIENT);
}
void Statement::number(int at, std::int64_t v) { sqlite3_bind_int64(s_, at, v); }
void Statement::blob(int at, const std::string& v) { sqlite3_bind_blob64(s_, at, v.data(), v.size(), SQLITE_STATIC); }

int Statement::step() {
    const int code = ok_ ? sqlite3_step(s_) : SQLITE_ERROR;
    failed_ = code != SQLITE_ROW && code != SQLITE_DONE;
    return code;
}
bool Statement::row() { return step() == SQLITE_ROW; }
bool Statement::done() { return step() == SQLITE_DONE; }

std::string Statement::column(int at) {
    const void* p = sqlite3_column_blob(s_, at);
    return p ? std::string(static_cast<const char*>(p), static_cast<std::size_t>(sqlite3_column_bytes(s_, at))) : "";
}
std::int64_t Statement::number_column(int at) { return sqlite3_column_int64(s_, at); }

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
    std::snprintf(text, sizeof text, "%zx-%016llx%016llx", bytes.size(), static_cast<unsigned long long>(a),
                  static_cast<unsigned long long>(b));
    return text;
}

}  // namespace veld
