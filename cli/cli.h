#pragma once
// What the subcommands share: where results go, and how a run ends.
// Exit codes: 0 done, 1 refused with a reason, 2 wrong use.
#include <CLI/CLI.hpp>
#include <nlohmann/json.hpp>

#include "core/base/progress.h"
#include "core/base/result.h"

namespace veld::cli {

using Json = nlohmann::ordered_json;

struct Output {
    bool json = false;
    // One result: JSON on stdout with --json, else the text.
    void result(const Json& json_form, const std::string& text) const;
    // A refusal: reason on stderr (and as {"error":...} on stdout with --json); returns 1.
    int refuse(const Error& error) const;
};

// Progress on stderr when it is a terminal; Ctrl-C cancels.
Progress terminal_progress();

void add_inspect(CLI::App& app, const Output& output, int& exit_code);
void add_detect(CLI::App& app, const Output& output, int& exit_code);
void add_tidy(CLI::App& app, const Output& output, int& exit_code);
void add_wrap(CLI::App& app, const Output& output, int& exit_code);
void add_compare(CLI::App& app, const Output& output, int& exit_code);
void add_morph(CLI::App& app, const Output& output, int& exit_code);
void add_pose(CLI::App& app, const Output& output, int& exit_code);
void add_expressions(CLI::App& app, const Output& output, int& exit_code);
void add_prove(CLI::App& app, const Output& output, int& exit_code);
void add_rig(CLI::App& app, const Output& output, int& exit_code);
void add_return_check(CLI::App& app, const Output& output, int& exit_code);
void add_photo_head(CLI::App& app, const Output& output, int& exit_code);
void add_skin(CLI::App& app, const Output& output, int& exit_code);
void add_skin_layers(CLI::App& skin, const Output& output, int& exit_code);
void add_send(CLI::App& app, const Output& output, int& exit_code);
void add_kit(CLI::App& app, const Output& output, int& exit_code);
void add_kit_editing(CLI::App& kit, const Output& output, int& exit_code);  // of add_kit
void add_project_fit(CLI::App& project, const Output& output, int& exit_code);
void add_project(CLI::App& app, const Output& output, int& exit_code);

// An example under each subcommand's help; after all have been added.
void add_examples(CLI::App& app);

}  // namespace veld::cli
