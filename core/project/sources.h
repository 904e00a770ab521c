#pragma once
// From a file to a source of a subject, and through the tidy tools.
#include "core/base/result.h"
#include "core/project/state.h"

namespace veld {

struct GatheredMesh;
struct Progress;
struct RecipeDone;
struct StepDone;
struct TidyState;

// Unit and axes guessed with their reasons, standing roughly upright beside the kit.
Source make_source(GatheredMesh&& gathered, const BaseKit& kit);

// The user knows better: another unit or up axis. The source stands roughly upright again, turned by
// nothing else; placing steps of its recipe are taken out.
void set_frame(Source& source, std::optional<Unit> unit, UpAxis up, const BaseKit& kit);

// Photographs read as they are; fails with the first that is no picture.
Result<PhotoSet> read_photos(const std::string& name, const std::vector<std::string>& files);

TidyState tidy_state(const Source& source);
// The step's result becomes the source's; the step joins its recipe.
void take_step(Source& source, const TidyStep& step, StepDone&& done);

void take_recipe(Source& source, const std::vector<TidyStep>& steps, RecipeDone&& done);

// When and how large the file was when it was read; empty when it cannot be seen.
std::string file_stamp(const std::string& path);
// The file was replaced since: offer to read it again and redo the recipe.
bool file_changed(const Source& source);

// The file read again (or another scan) with the recipe of `source` run on it; landmarks, unit and
// name stay. Fails as reading and run_recipe do.
Result<Source> redo_recipe(const Source& source, const BaseKit& kit, const Progress& progress);

}  // namespace veld
