#pragma once
// What test_cli, test_cli_returns, test_cli_photos, test_cli_projects share.
#include <catch2/catch.hpp>

#include <sys/wait.h>
#include <unistd.h>
#include <csignal>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

#include "core/base/file.h"
#include "core/io/image.h"
#include "core/io/mesh_file.h"
#include "core/landmark/landmarks.h"
#include "core/landmark/photo_marks.h"
#include "core/project/store.h"
#include "tests/support/demo_kit.h"

using namespace veld;
using Json = nlohmann::json;

namespace {

struct Run {
    int code = -1;
    std::string out;
    Json json() const { return Json::parse(out, nullptr, false); }
};

inline Run cli(const std::string& arguments) {
    const std::string command = std::string(VELDSTONE_BUILD) + "/bin/veldstone-cli " + arguments + " 2>/dev/null";
    FILE* pipe = ::popen(command.c_str(), "r");
    Run run;
    char buffer[4096];
    while (const std::size_t n = std::fread(buffer, 1, sizeof buffer, pipe)) run.out.append(buffer, n);
    const int status = ::pclose(pipe);
    run.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return run;
}

[[maybe_unused]] const std::string kKit = demo("kit");
[[maybe_unused]] const std::string kScan = demo("subjects/ottoline/ottoline_scan.glb");
[[maybe_unused]] const std::string kMarks = demo("subjects/ottoline/ottoline_landmarks.json");

// The command line has begun and has its handler; a sanitized one takes its time. Before that the child is a copy of
// this program, which catches interrupts as well.
inline bool catches_interrupts(pid_t child) {
    const std::string of = "/proc/" + std::to_string(child);
    for (int i = 0; i < 600; ++i) {
        std::error_code gone;
        const bool begun = std::filesystem::read_symlink(of + "/exe", gone).filename() == "veldstone-cli";
        std::ifstream status(of + "/status");
        for (std::string line; begun && std::getline(status, line);) {
            if (!line.starts_with("SigCgt:")) continue;
            if (std::stoull(line.substr(7), nullptr, 16) >> (SIGINT - 1) & 1u) return true;
        }
        ::usleep(50000);
    }
    return false;
}

}  // namespace
