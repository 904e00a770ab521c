#pragma once
// Every clean-up tool by name, with its parameters: one table behind the window's panel, the command
// line and the recipe file.
//
// A step is a tool, its numbers and the selection it acts on; a recipe is a list of steps. Lengths are
// mm in the upright frame, so a recipe made on one scan runs on another.
#include <memory>

#include "core/base/similarity.h"
#include "core/tidy/fill_holes.h"
#include "core/tidy/orient.h"
#include "core/tidy/selection.h"
#include "core/tidy/step.h"

namespace veld {

struct ToolParameter {
    const char* name;    // in files
    const char* label;   // in the window
    const char* suffix;  // unit
    double initial, low, high;
    int decimals;
    const char* tip;
    const char* choices;  // "a|b": a choice, the number is its place; null: a number
};

enum class NeedsSelection { No, Optional, Yes };

struct ToolInfo {
    Tool tool;
    const char* name;   // in files and on the command line
    const char* label;  // in the window
    const char* what;   // one sentence
    NeedsSelection selection;
    std::vector<ToolParameter> parameters;
};
const std::vector<ToolInfo>& tool_table();
const ToolInfo& tool_info(Tool tool);
const ToolInfo* tool_named(const std::string& name);  // also by the names of older recipes; null: none

// Straighten, Turn, Move, ...: changes how the source stands, not its mesh.
bool places(Tool tool);
double number_of(const TidyStep& step, const char* name);

// What the tools work on.
struct TidyState {
    std::shared_ptr<const Mesh> mesh;
    Similarity to_upright;                      // mesh -> upright mm
    std::shared_ptr<const VertexMask> ignored;  // null: nothing; never matched by a fit
};

struct StepDone {
    TidyState state;
    std::string said;
    bool changed = true;  // false: nothing to do
};

// Fails with BadInput (unknown numbers, missing selection, missing kit), DegenerateInput or Cancelled;
// the message names the tool. kit: needed by Straighten and FacePoints only, may be null.
Result<StepDone> run_step(const TidyState& state, const TidyStep& step, const BaseKit* kit,
                          const Progress& progress = {});

// Faces that Components or Cut would take away with these numbers, to light them up beforehand; empty for
// other tools.
FaceMask faces_taken_away(const TidyState& state, const TidyStep& step);

// All steps in order; stops at the first that fails and says which. said: one line per step.
struct RecipeDone {
    TidyState state;
    std::vector<std::string> said;
};
Result<RecipeDone> run_recipe(TidyState state, const std::vector<TidyStep>& steps, const BaseKit* kit,
                              const Progress& progress = {});

}  // namespace veld
