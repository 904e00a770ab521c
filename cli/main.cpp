#include <unistd.h>

#include <atomic>
#include <csignal>
#include <cstdio>
#include <iostream>

#include "cli/cli.h"

namespace veld::cli {
namespace {
std::atomic<bool> interrupted{false};
const char* code_name(ErrorCode code) {
    switch (code) {
        case ErrorCode::BadFile:
            return "bad_file";
        case ErrorCode::Unsupported:
            return "unsupported";
        case ErrorCode::BadInput:
            return "bad_input";
        case ErrorCode::DegenerateInput:
            return "degenerate_input";
        case ErrorCode::Io:
            return "io";
        case ErrorCode::Cancelled:
            return "cancelled";
        case ErrorCode::NotFound:
            return "not_found";
        case ErrorCode::KitMissing:
            return "kit_missing";
        case ErrorCode::SidesSwapped:
            return "sides_swapped";
        case ErrorCode::Gone:
            return "gone";
        case ErrorCode::Limit:
            return "limit";
        case ErrorCode::Undecided:
            return "undecided";
    }
    return "error";
}
}  // namespace

void Output::result(const Json& json_form, const std::string& text) const {
    std::cout << (json ? json_form.dump(2, ' ', false, Json::error_handler_t::replace) + "\n" : text);
}

int Output::refuse(const Error& error) const {
    std::cerr << error.message << "\n";
    if (json) {
        const Json out = {{"error", {{"code", code_name(error.code)}, {"message", error.message}}}};
        std::cout << out.dump(2, ' ', false, Json::error_handler_t::replace) << "\n";
    }
    return 1;
}

Progress terminal_progress() {
    Progress progress;
    std::signal(SIGINT, [](int) { interrupted = true; });
    progress.cancelled = [] { return interrupted.load(); };
    if (isatty(STDERR_FILENO)) {
        progress.report = [](double fraction, const std::string& stage) {
            std::fprintf(stderr, "\r\033[K%3.0f %%  %s%s", 100 * fraction, stage.c_str(), fraction >= 1 ? "\n" : "");
        };
    }
    return progress;
}

}  // namespace veld::cli

int main(int argc, char** argv) {
    using namespace veld::cli;
    CLI::App app("Veldstone on the command line: checks meshes, wraps a base mesh onto scans, makes morph targets.");
    app.require_subcommand(1);
    app.fallthrough();
    Output output;
    int exit_code = 0;
    app.set_version_flag("--version", "veldstone " VELDSTONE_VERSION);
    app.add_flag("--json", output.json, "Results and errors as JSON on standard output");
    add_inspect(app, output, exit_code);
    add_tidy(app, output, exit_code);
    add_detect(app, output, exit_code);
    add_compare(app, output, exit_code);
    add_wrap(app, output, exit_code);
    add_morph(app, output, exit_code);
    add_kit(app, output, exit_code);
    add_project(app, output, exit_code);
    add_photo_head(app, output, exit_code);
    add_send(app, output, exit_code);
    add_skin(app, output, exit_code);
    add_rig(app, output, exit_code);
    add_pose(app, output, exit_code);
    add_expressions(app, output, exit_code);
    add_prove(app, output, exit_code);
    add_return_check(app, output, exit_code);
    add_examples(app);
    try {
        app.parse(argc, argv);
    } catch (const CLI::Success& e) {
        return app.exit(e);  // --help, --version
    } catch (const CLI::ParseError& e) {
        app.exit(e);
        return 2;
    } catch (const std::bad_alloc&) {
        return output.refuse({veld::ErrorCode::BadInput, "Not enough memory for this file."});
    }
    return exit_code;
}
