#pragma once
// A folder that is gone after the test.
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>
#include <csignal>
#include <filesystem>
#include <fstream>
#include <string>

namespace veld {

class Scratch {
 public:
    Scratch() {
        static int count = 0;
        path_ = std::filesystem::temp_directory_path() /
                ("veldstone-test-" + std::to_string(::getpid()) + "-" + std::to_string(count++));
        std::filesystem::remove_all(path_);  // what an earlier process of the same number may have left
        std::filesystem::create_directories(path_);
    }
    ~Scratch() {
        std::error_code ignored;
        std::filesystem::remove_all(path_, ignored);
    }
    std::string operator/(const std::string& name) const { return (path_ / name).string(); }
    std::string folder() const { return path_.string(); }
    std::string write(const std::string& name, const std::string& bytes) const {
        std::ofstream(path_ / name, std::ios::binary) << bytes;
        return *this / name;
    }
    std::string read(const std::string& name) const {
        std::ifstream in(path_ / name, std::ios::binary);
        return {std::istreambuf_iterator<char>(in), {}};
    }

 private:
    std::filesystem::path path_;
};

// Runs in a child process that cannot write files over `bytes`: the nearest thing to a full disk.
template <class Work>
int with_file_limit(rlim_t bytes, Work work) {
    const pid_t child = ::fork();
    if (child == 0) {
        const rlimit limit{bytes, bytes};
        ::setrlimit(RLIMIT_FSIZE, &limit);
        ::signal(SIGXFSZ, SIG_IGN);
        ::_exit(work());
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

inline std::string demo(const std::string& path) { return std::string(VELDSTONE_SOURCE) + "/demo/" + path; }

}  // namespace veld
