#include "core/project/sources.h"

#include <filesystem>

#include "core/base/file.h"
#include "core/io/gather.h"
#include "core/io/image.h"
#include "core/tidy/tools.h"

namespace veld {
namespace {

double crown(const BaseKit& kit) { return bounding_box(kit.mesh.positions).high.y(); }

}  // namespace

Source make_source(GatheredMesh&& gathered, const BaseKit& kit) {
    Source out;
    out.name = gathered.name, out.path = gathered.path;
    out.notes = std::move(gathered.file.notes);
    const FrameGuess guess = guess_frame(gathered.file.mesh, gathered.name, {});
    const std::string kind = lower_extension(gathered.name);
    if (kind == ".glb" || kind == ".gltf") out.unit = Unit::Metre;
    out.shown_unit = guess.unit, out.up = guess.up;
    out.unit_reason = guess.unit_reason, out.up_reason = guess.up_reason;
    out.upright = rough_upright(gathered.file.mesh, guess.unit, guess.up, crown(kit));
    out.mesh = std::make_shared<Mesh>(std::move(gathered.file.mesh));
    out.stamp = file_stamp(out.path);
    return out;
}

void set_frame(Source& source, std::optional<Unit> unit, UpAxis up, const BaseKit& kit) {
    const FrameGuess guess = guess_frame(*source.mesh, source.name, source.landmarks);
    source.unit = unit;
    source.shown_unit = unit.value_or(guess.unit);
    source.unit_reason = unit ? "set by you" : guess.unit_reason;
    source.up_reason = up == guess.up ? guess.up_reason : "set by you";
    source.up = up;
    source.upright = rough_upright(*source.mesh, source.shown_unit, up, crown(kit));
    for (std::size_t i = source.recipe.size(); i-- > 0;) {
        if (!places(source.recipe[i].tool)) continue;
        source.recipe.erase(source.recipe.begin() + static_cast<std::ptrdiff_t>(i));
        source.recipe_said.erase(source.recipe_said.begin() + static_cast<std::ptrdiff_t>(i));
    }
}

Result<PhotoSet> read_photos(const std::string& name, const std::vector<std::string>& files) {
    auto photos = std::make_shared<std::vector<Image>>();
    for (const std::string& path : files) {
        auto bytes = read_file(path);
        if (!bytes) return bytes.error();
        Image image{file_name(path),
                    lower_extension(path) == ".png" ? "image/png" : "image/jpeg",
                    {bytes->view().begin(), bytes->view().end()}};
        if (auto pixels = decode_image(image); !pixels) return pixels.error();
        photos->push_back(std::move(image));
    }
    return PhotoSet{name, photos};
}

TidyState tidy_state(const Source& source) { return {source.mesh, source.upright, source.ignored}; }

void take_step(Source& source, const TidyStep& step, StepDone&& done) {
    if (source.mesh != done.state.mesh) source.not_skin = nullptr;  // its vertices were those of the mesh before
    source.mesh = std::move(done.state.mesh);
    source.upright = done.state.to_upright;
    source.ignored = std::move(done.state.ignored);
    source.recipe.push_back(step);
    source.recipe_said.push_back(std::move(done.said));
}

void take_recipe(Source& source, const std::vector<TidyStep>& steps, RecipeDone&& done) {
    if (source.mesh != done.state.mesh) source.not_skin = nullptr;  // its vertices were those of the mesh before
    source.mesh = std::move(done.state.mesh);
    source.upright = done.state.to_upright;
    source.ignored = std::move(done.state.ignored);
    source.recipe.insert(source.recipe.end(), steps.begin(), steps.end());
    source.recipe_said.insert(source.recipe_said.end(), done.said.begin(), done.said.end());
    source.selection.clear();
}

std::string file_stamp(const std::string& path) {
    namespace fs = std::filesystem;
    std::error_code failed;
    const auto size = fs::is_regular_file(path, failed) ? fs::file_size(path, failed) : 0;
    const auto when = fs::last_write_time(path, failed);
    if (failed || size == 0) return "";
    return std::to_string(size) + "-" + std::to_string(when.time_since_epoch().count());
}

bool file_changed(const Source& source) {
    const std::string now = file_stamp(source.path);
    return !source.stamp.empty() && !now.empty() && now != source.stamp;
}

Result<Source> redo_recipe(const Source& source, const BaseKit& kit, const Progress& progress) {
    Gathered gathered = gather(source.path, progress);
    GatheredMesh* found = nullptr;
    for (GatheredMesh& m : gathered.meshes) {
        // names get a number when they meet others; the file inside an archive keeps its own
        if (!found || source.name.starts_with(m.name)) found = &m;
    }
    if (!found)
        return gathered.errors.empty() ? Error{ErrorCode::Io, "'" + source.path + "' holds no mesh any more."}
                                       : gathered.errors.front();
    Source out = make_source(std::move(*found), kit);
    if (source.unit != out.unit || source.up != out.up) set_frame(out, source.unit, source.up, kit);
    out.id = source.id, out.name = source.name, out.landmarks = source.landmarks;
    auto done = run_recipe(tidy_state(out), source.recipe, &kit, progress);
    if (!done) return done.error();
    out.recipe.clear(), out.recipe_said.clear();
    take_recipe(out, source.recipe, std::move(*done));
    return out;
}

}  // namespace veld
