// veldstone-cli tidy: a recipe of clean-up steps on a scan.
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/io/gather.h"
#include "core/io/mesh_write.h"
#include "core/kit/base_kit.h"
#include "core/tidy/recipe.h"

namespace veld::cli {
namespace {

struct TidyOptions {
    std::string recipe, in, out, kit, unit = "auto", up = "auto", frame = "source", ignored;
    std::vector<std::string> steps;
    bool tools = false;
};

int show_tools(const Output& output) {
    Json json = Json::array();
    std::string text;
    for (const ToolInfo& tool : tool_table()) {
        Json j = {{"name", tool.name},
                  {"label", tool.label},
                  {"what", tool.what},
                  {"selection", tool.selection == NeedsSelection::Yes        ? "needed"
                                : tool.selection == NeedsSelection::Optional ? "may be"
                                                                             : "none"},
                  {"numbers", Json::array()}};
        text += std::string(tool.name) + ": " + tool.what + "\n";
        for (const ToolParameter& p : tool.parameters) {
            j["numbers"].push_back(
                {{"name", p.name}, {"initial", p.initial}, {"low", p.low}, {"high", p.high}, {"unit", p.suffix}});
            char line[200];
            std::snprintf(line, sizeof line, "    %s = %g%s (%g to %g)\n", p.name, p.initial, p.suffix, p.low, p.high);
            text += line;
        }
        json.push_back(j);
    }
    output.result(json, text);
    return 0;
}

// "weld:distance=0.1": a step without selection, for one-off use
Result<TidyStep> step_from_text(const std::string& text) {
    const auto colon = text.find(':');
    std::string json =
        "{\"format\":\"veldstone-tidy\",\"version\":1,\"steps\":[{\"tool\":\"" + text.substr(0, colon) + "\"";
    for (std::size_t at = colon; at != std::string::npos;) {
        const std::size_t next = text.find(',', at + 1);
        const std::string item = text.substr(at + 1, next == std::string::npos ? next : next - at - 1);
        const auto equal = item.find('=');
        if (equal == std::string::npos)
            return Error{ErrorCode::BadInput, "'" + text + "': a number is written name=value."};
        json += ",\"" + item.substr(0, equal) + "\":" + item.substr(equal + 1);
        at = next;
    }
    auto steps = parse_recipe(json + "}]}", text);
    if (!steps) return steps.error();
    return steps->front();
}

Result<std::vector<TidyStep>> steps_of(const TidyOptions& o) {
    std::vector<TidyStep> out;
    if (!o.recipe.empty()) {
        auto bytes = read_file(o.recipe);
        if (!bytes) return bytes.error();
        auto steps = parse_recipe(bytes->view(), o.recipe);
        if (!steps) return steps.error();
        out = std::move(*steps);
    }
    for (const std::string& text : o.steps) {
        auto step = step_from_text(text);
        if (!step) return step.error();
        out.push_back(std::move(*step));
    }
    if (out.empty()) return Error{ErrorCode::BadInput, "There is nothing to do: give a --recipe, or a --step."};
    return out;
}

int run(const TidyOptions& o, const Output& output) {
    if (o.tools) return show_tools(output);
    const auto steps = steps_of(o);
    if (!steps) return output.refuse(steps.error());
    std::unique_ptr<BaseKit> kit;
    if (!o.kit.empty()) {
        auto read = read_base_kit(o.kit);
        if (!read) return output.refuse(read.error());
        kit = std::make_unique<BaseKit>(std::move(*read));
    }
    const Progress progress = terminal_progress();
    Gathered gathered = gather(o.in, progress);
    if (gathered.meshes.empty()) return output.refuse(gathered.errors.front());
    if (gathered.meshes.size() > 1)
        return output.refuse({ErrorCode::BadInput, "'" + o.in + "' holds " + std::to_string(gathered.meshes.size()) +
                                                       " meshes; give one of them."});
    GatheredMesh& source = gathered.meshes.front();
    const FrameGuess guess = guess_frame(source.file.mesh, source.name, {});
    const Unit unit = o.unit == "auto" ? guess.unit : *unit_from_name(o.unit);
    const UpAxis up = o.up == "auto" ? guess.up : *up_axis_from_name(o.up);
    TidyState state;
    state.to_upright =
        rough_upright(source.file.mesh, unit, up, kit ? bounding_box(kit->mesh.positions).high.y() : kUsualCrownMm);
    state.mesh = std::make_shared<Mesh>(std::move(source.file.mesh));
    auto done = run_recipe(std::move(state), *steps, kit.get(), progress);
    if (!done) return output.refuse(done.error());
    const TidyState& after = done->state;
    double metres = millimetres(unit) / 1000;
    Mesh turned;
    const Mesh* write = after.mesh.get();
    if (o.frame == "upright") {
        turned = upright_copy(*after.mesh, after.to_upright);
        write = &turned;
        metres = 0.001;
    }
    if (auto ok = write_mesh(o.out, *write, metres); !ok) return output.refuse(ok.error());
    Json json = {{"in", o.in},
                 {"out", o.out},
                 {"unit", unit_name(unit)},
                 {"unit_reason", o.unit == "auto" ? guess.unit_reason : "given"},
                 {"up", up_axis_name(up)},
                 {"frame", o.frame},
                 {"steps", done->said},
                 {"vertices", after.mesh->vertex_count()},
                 {"faces", after.mesh->face_count()}};
    const Similarity& t = after.to_upright;
    for (int r = 0; r < 3; ++r)
        json["to_upright"].push_back(
            {t.scale * t.rotation(r, 0), t.scale * t.rotation(r, 1), t.scale * t.rotation(r, 2), t.translation[r]});
    std::vector<std::string> notes = source.file.notes;
    for (const Error& e : gathered.errors) notes.push_back(e.message);  // of files beside the one that was read
    json["notes"] = notes;
    std::size_t ignored = 0;
    Json list = Json::array();
    for (Index v = 0; after.ignored && v < after.ignored->size(); ++v) {
        if ((*after.ignored)[v]) ++ignored, list.push_back(v);
    }
    json["ignored_vertices"] = ignored;
    if (!o.ignored.empty()) {
        if (auto ok = write_file(
                o.ignored, Json({{"format", "veldstone-ignored"}, {"version", 1}, {"vertices", list}}).dump() + "\n");
            !ok)
            return output.refuse(ok.error());
    }
    std::string text;
    for (const std::string& line : notes) text += line + "\n";
    for (const std::string& line : done->said) text += line + "\n";
    output.result(json, text + "written: " + o.out + "\n");
    return 0;
}

}  // namespace

void add_tidy(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("tidy", "Clean a scan by a recipe: weld, straighten, cut, fill, smooth, ...");
    auto o = std::make_shared<TidyOptions>();
    auto* in = command->add_option("IN", o->in, "Scan: OBJ, PLY, STL, GLB, glTF, a folder or zip with one of them");
    auto* out =
        command->add_option("OUT", o->out, "Where the clean scan is written: OBJ (with textures), PLY, STL, GLB");
    command->add_option("--recipe", o->recipe, "Steps to run (window: Tidy, Save steps)");
    command->add_option("--step", o->steps, "One more step, such as weld:distance=0.1 or repair")
        ->allow_extra_args(false);
    command->add_option("--kit", o->kit, "Folder of the base kit; needed to straighten and to suggest areas");
    command->add_option("--unit", o->unit, "Unit of the scan")
        ->check(CLI::IsMember({"auto", "mm", "cm", "m", "in", "dm", "ft"}));
    command->add_option("--up", o->up, "Axis of the scan that points up")
        ->check(CLI::IsMember({"auto", "+X", "-X", "+Y", "-Y", "+Z", "-Z"}));
    command->add_option("--frame", o->frame, "source: as it came in; upright: mm, Y up, facing +Z")
        ->check(CLI::IsMember({"source", "upright"}));
    command->add_option("--ignored", o->ignored, "Write the vertices that are never matched to this JSON file");
    auto* tools = command->add_flag("--tools", o->tools, "List the tools and their numbers");
    command->callback([o, in, out, tools, &output, &exit_code] {
        if (tools->count() == 0 && (in->count() == 0 || out->count() == 0)) throw CLI::RequiredError("IN and OUT");
        exit_code = run(*o, output);
    });
}

}  // namespace veld::cli
