#pragma once
// The project file's database: SQLite behind two small classes, with errors fit for a person.
#include <cstdint>
#include <string>

#include "core/base/result.h"

struct sqlite3;
struct sqlite3_stmt;

namespace veld {

class Database {
 public:
    Database() = default;
    Database(const Database&) = delete;
    Database& operator=(const Database&) = delete;
    ~Database();

    // create: read and write, made when it is not there; else read only.
    Status open(const std::string& path, bool create);
    Status run(const std::string& sql);
    // What the last call failed with, in words. verb: "write", "open".
    Error fail(const std::string& verb) const;
    sqlite3* handle() const { return db_; }

 private:
    sqlite3* db_ = nullptr;
    std::string path_;
};

// One prepared statement; parameters and columns are counted as SQLite does (from 1 and from 0).
class Statement {
 public:
    Statement(Database& db, const char* sql);
    Statement(const Statement&) = delete;
    Statement& operator=(const Statement&) = delete;
    ~Statement();

    void text(int at, const std::string& value);
    void number(int at, std::int64_t value);
    void blob(int at, const std::string& value);  // must live until the step
    bool row();                                   // steps; true: there is a row to be read
    bool done();                                  // steps; true: it ran to its end
    bool failed() const { return failed_; }       // the last step did neither
    std::string column(int at);
    std::int64_t number_column(int at);

 private:
    int step();
    sqlite3_stmt* s_ = nullptr;
    bool ok_ = false, failed_ = false;
};

// What a heavy array is known by: its size and a 128-bit hash of its bytes.
std::string blob_id(const std::string& bytes);

}  // namespace veld
