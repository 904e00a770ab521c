#include "core/io/general_import.h"

#include <fcntl.h>
#include <poll.h>
#include <signal.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/mesh_blob.h"

extern char** environ;

namespace veld {
namespace {

namespace fs = std::filesystem;
using Clock = std::chrono::steady_clock;

// What people send now and then; kept short, so that no text or archive is taken for a mesh.
constexpr const char* kExtensions[] = {".fbx", ".dae", ".3ds", ".lwo", ".off", ".x3d", ".ac", ".dxf", ".ms3d", ".x"};
constexpr int kLookEveryMs = 50;
constexpr std::size_t kMemoryFloor = std::size_t{512} << 20, kMemoryPerByte = 80,
                      kMemoryCeiling = std::size_t{12} << 30;
constexpr double kSecondsFloor = 10, kSecondsPerMegabyte = 1.5;

std::string importer_path() {
    if (const char* set = std::getenv("VELDSTONE_IMPORTER")) return set;
    std::error_code failed;
    return (fs::read_symlink("/proc/self/exe", failed).parent_path() / "veldstone-importer").string();
}

// A child with its standard output on a pipe; killed and waited for at the end at the latest.
class Child {
 public:
    ~Child() {
        if (pid_ > 0) stop();
        if (out_ >= 0) ::close(out_);
    }
    bool start(const std::string& program, const std::vector<std::string>& arguments) {
        int ends[2];
        if (::pipe2(ends, O_CLOEXEC) != 0) return false;
        posix_spawn_file_actions_t actions;
        posix_spawn_file_actions_init(&actions);
        posix_spawn_file_actions_adddup2(&actions, ends[1], 1);
        posix_spawn_file_actions_addopen(&actions, 2, "/dev/null", O_WRONLY, 0);
        std::vector<char*> argv{const_cast<char*>(program.c_str())};
        for (const std::string& a : arguments) argv.push_back(const_cast<char*>(a.c_str()));
        argv.push_back(nullptr);
        const int failed = ::posix_spawn(&pid_, program.c_str(), &actions, nullptr, argv.data(), environ);
        posix_spawn_file_actions_destroy(&actions);
        ::close(ends[1]);
        out_ = ends[0];
        if (failed) pid_ = -1;
        return !failed;
    }
    // false: the child has closed its end
    bool read_some(std::string& into) {
        pollfd ready{out_, POLLIN, 0};
        if (::poll(&ready, 1, kLookEveryMs) <= 0) return true;
        char buffer[1 << 16];
        const ssize_t n = ::read(out_, buffer, sizeof buffer);
        if (n > 0) into.append(buffer, static_cast<std::size_t>(n));
        return n > 0 || (n < 0 && errno == EINTR);
    }
    std::size_t resident_bytes() const {
        std::size_t pages[2] = {0, 0};
        if (FILE* f = std::fopen(("/proc/" + std::to_string(pid_) + "/statm").c_str(), "r")) {
            if (std::fscanf(f, "%zu %zu", &pages[0], &pages[1]) != 2) pages[1] = 0;
            std::fclose(f);
        }
        return pages[1] * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
    }
    void stop() {
        ::kill(pid_, SIGKILL);
        wait();
    }
    // the status that waitpid gives
    int wait() {
        int status = 0;
        while (::waitpid(pid_, &status, 0) < 0 && errno == EINTR) {
        }
        pid_ = -1;
        return status;
    }

 private:
    pid_t pid_ = -1;
    int out_ = -1;
};

Error too_much(const std::string& path, std::size_t size, const std::string& what) {
    return {ErrorCode::Limit, "'" + path + "' (" + std::to_string(size) + " bytes) takes more " + what +
                                  " to read than a file of its size should: it is damaged, or promises more than it "
                                  "holds. Export it again as OBJ, PLY or GLB."};
}

}  // namespace

bool general_import_reads(const std::string& extension) {
    return std::any_of(std::begin(kExtensions), std::end(kExtensions), [&](const char* e) { return extension == e; });
}

std::string import_answer(const MeshFile& file) {
    return Json{{"notes", file.notes}}.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n" +
           mesh_to_blob(file.mesh);
}

std::string import_answer(const Error& error) {
    return Json{{"error", error.message}, {"limit", error.code == ErrorCode::Limit}}.dump(
               -1, ' ', false, Json::error_handler_t::replace) +
           "\n";
}

Result<MeshFile> read_import_answer(std::string_view answer, const std::string& path) {
    const std::size_t line = answer.find('\n');
    const Json said = Json::parse(answer.substr(0, line), nullptr, false);
    if (line == std::string_view::npos || !said.is_object())
        return Error{ErrorCode::BadFile,
                     "'" + path + "' cannot be read: the importer broke down on it. Export it as OBJ or GLB."};
    if (said.contains("error"))
        return Error{said.value("limit", false) ? ErrorCode::Limit : ErrorCode::BadFile,
                     said["error"].get<std::string>()};
    auto mesh = mesh_from_blob(answer.substr(line + 1));
    if (!mesh)
        return Error{ErrorCode::BadFile, "'" + path + "' holds no mesh that can be used. Export it as OBJ or GLB."};
    MeshFile out;
    out.mesh = std::move(*mesh);
    out.notes = said.value("notes", std::vector<std::string>());
    return out;
}

Result<MeshFile> general_import(const std::string& path, const Progress& progress, const ImportLimits& limits) {
    std::error_code failed;
    const std::size_t size = fs::is_regular_file(path, failed) ? fs::file_size(path, failed) : 0;
    if (failed || size == 0) return Error{ErrorCode::Io, "'" + path + "' is not there, or is empty."};
    const std::size_t memory =
        limits.memory_bytes ? limits.memory_bytes : std::min(kMemoryCeiling, kMemoryFloor + kMemoryPerByte * size);
    const double seconds =
        limits.seconds > 0 ? limits.seconds : kSecondsFloor + kSecondsPerMegabyte * static_cast<double>(size) / 1e6;
    Child child;
    const std::string program = importer_path();
    if (!fs::exists(program, failed) || !child.start(program, {path, std::to_string(memory)})) {
        return Error{ErrorCode::Io, "The importer '" + program + "' cannot be started, and '" + path +
                                        "' needs it. Install Veldstone again, or export the file as OBJ, PLY or GLB."};
    }
    std::string answer;
    const auto began = Clock::now();
    while (child.read_some(answer)) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was read."};
        if (std::chrono::duration<double>(Clock::now() - began).count() > seconds) return too_much(path, size, "time");
        if (child.resident_bytes() + answer.size() > memory) return too_much(path, size, "memory");
    }
    const int status = child.wait();
    // out of its address space the library ends as it likes
    if (answer.empty() && WIFSIGNALED(status) && WTERMSIG(status) == SIGXCPU) return too_much(path, size, "time");
    return read_import_answer(answer, path);
}

}  // namespace veld
