#include "core/tidy/tools.h"

#include <algorithm>
#include <cmath>

#include "core/tidy/cut.h"
#include "core/tidy/repair.h"
#include "core/tidy/resample.h"
#include "core/tidy/smooth.h"
#include "core/tidy/straighten.h"
#include "core/tidy/weld.h"

namespace veld {
namespace {

Error refused(const TidyStep& step, ErrorCode code, const std::string& why) {
    return {code, std::string(tool_info(step.tool).label) + ": " + why};
}
Error stopped() { return {ErrorCode::Cancelled, "Stopped; nothing was changed."}; }

// What a run of a step needs at hand.
struct Job {
    const TidyState& state;
    const TidyStep& step;
    const BaseKit* kit;
    const Progress& progress;
    FaceMask faces;  // selected; empty: no selection in the step

    const Mesh& mesh() const { return *state.mesh; }
    double number(const char* name) const { return number_of(step, name); }
    // mm -> the mesh's own unit
    double length(const char* name) const { return number(name) / state.to_upright.scale; }
    std::vector<double> weights(int rings) const {
        return selection_weights(mesh(), state.to_upright, step.selection, faces, rings);
    }
};

Result<Changed> repair(const Job& job) {
    Changed all = weld(job.mesh(), 0, job.progress);
    const auto then = [&](Changed next) {
        std::vector<Index> origin;
        if (next.origin.empty())
            next.origin = all.origin;
        else if (!all.origin.empty()) {
            for (Index& v : next.origin) v = v == kNone ? kNone : all.origin[v];
        }
        if (next.count > 0)
            next.said = (all.count > 0 ? all.said + " " : "") + next.said;
        else
            next.said = all.said;
        next.count += all.count;
        all = std::move(next);
    };
    if (all.count == 0) all.said.clear();
    if (job.progress.is_cancelled()) return stopped();
    then(remove_broken_faces(all.mesh, job.progress));
    job.progress.say(0.4, "Repairing");
    if (job.progress.is_cancelled()) return stopped();
    then(split_non_manifold(all.mesh, job.progress));
    job.progress.say(0.7, "Repairing");
    then(turn_outward(all.mesh, job.progress));
    if (all.count == 0) all.said = "Nothing to repair.";
    return all;
}

// In the mesh's own coordinates.
Plane plane_of(const TidyState& state, const TidyStep& step) {
    const Similarity back = state.to_upright.inverse();
    return Plane::through(back(Vec3(number_of(step, "x"), number_of(step, "y"), number_of(step, "z"))),
                          back.rotation * Vec3(number_of(step, "nx"), number_of(step, "ny"), number_of(step, "nz")));
}

ComponentLimits limits_of(const TidyState& state, const TidyStep& step) {
    return {number_of(step, "keep") == 0, number_of(step, "share") / 100,
            number_of(step, "size") / state.to_upright.scale};
}

Result<Changed> remove_selected(const Job& job) {
    FaceMask keep = job.faces;
    for (std::uint8_t& k : keep) k = !k;
    const std::size_t gone = count_selected(job.faces);
    if (gone == job.faces.size()) return Error{ErrorCode::BadInput, "everything is selected; nothing would be left."};
    Changed out = keep_faces(job.mesh(), keep);
    out.said = counted(gone, "face was", "faces were") + " deleted.";
    return out;
}

Result<Changed> change_mesh(const Job& job) {
    const Mesh& mesh = job.mesh();
    switch (job.step.tool) {
        case Tool::Repair:
            return repair(job);
        case Tool::Weld:
            return weld(mesh, job.length("distance"), job.progress);
        case Tool::Components:
            return remove_small_components(mesh, limits_of(job.state, job.step), job.progress);
        case Tool::Cut:
            return cut_by_plane(mesh, plane_of(job.state, job.step), job.progress);
        case Tool::Delete:
            return remove_selected(job);
        case Tool::Spikes:
            return remove_spikes(mesh, job.number("factor"),
                                 job.faces.empty() ? VertexMask() : vertices_of(mesh, job.faces), job.progress);
        case Tool::Fill:
            return fill_holes(
                mesh, {job.length("largest"), job.number("form") == 0 ? FillForm::Smooth : FillForm::Flat, job.faces},
                job.progress);
        case Tool::Smooth:
            return smooth_keeping_volume(mesh, job.weights(3),
                                         {static_cast<int>(job.number("rounds")), job.number("strength") / 100, true},
                                         job.progress);
        case Tool::Flatten:
            return flatten_bumps(mesh, job.weights(0), job.number("strength") / 100, job.progress);
        case Tool::Reduce:
            return reduce_triangles(mesh, static_cast<std::size_t>(job.number("triangles")), job.progress);
        case Tool::Remesh:
            return remesh_evenly(mesh, job.length("edge"), job.progress);
        case Tool::Flip:
            return flip_faces(mesh, job.faces);
        case Tool::Outward:
            return turn_outward(mesh, job.progress);
        case Tool::Normals:
            return recompute_normals(mesh);
        default:
            return Error{ErrorCode::BadInput, "is no tool for the mesh."};
    }
}

Result<StepDone> ignore(const Job& job) {
    StepDone out{job.state, "", true};
    auto mask = std::make_shared<VertexMask>(job.state.ignored ? *job.state.ignored
                                                               : VertexMask(job.mesh().positions.size(), 0));
    const std::uint8_t value = job.number("match") == 0;
    const VertexMask touched = vertices_of(job.mesh(), job.faces);
    std::size_t count = 0;
    for (std::size_t v = 0; v < mask->size(); ++v) {
        if (touched[v] && (*mask)[v] != value) (*mask)[v] = value, ++count;
    }
    const bool any = std::find(mask->begin(), mask->end(), 1) != mask->end();
    out.changed = count > 0;
    out.state.ignored = any ? mask : nullptr;
    out.said =
        counted(count, "vertex", "vertices") + (value ? " more will not be matched." : " will be matched again.");
    return out;
}

Vec3 vector_of(const Job& job, const char* x, const char* y, const char* z) {
    return {job.number(x), job.number(y), job.number(z)};
}

Result<StepDone> place(const Job& job) {
    StepDone out{job.state, "", true};
    const Similarity& now = job.state.to_upright;
    const Similarity back = now.inverse();  // picked places are kept in the frame before the step
    Result<Similarity> next = now;
    switch (job.step.tool) {
        case Tool::Straighten: {
            if (!job.kit)
                return Error{ErrorCode::BadInput, "needs a base kit to know what upright is (command line: --kit)."};
            const auto found = straighten(job.mesh(), *job.kit, now, job.progress);
            if (!found) return found.error();
            next = found->to_upright;
            out.said = found->said;
            break;
        }
        case Tool::FacePoints:
            if (!job.kit)
                return Error{ErrorCode::BadInput, "needs a base kit to know how a face stands (command line: --kit)."};
            next = straighten_by_face(*job.kit, now,
                                      {back(vector_of(job, "rx", "ry", "rz")), back(vector_of(job, "lx", "ly", "lz")),
                                       back(vector_of(job, "nx", "ny", "nz"))});
            out.said = "Straightened by both eyes and the nose.";
            break;
        case Tool::FloorPoints:
            next = level_by_floor(now, back(vector_of(job, "ax", "ay", "az")), back(vector_of(job, "bx", "by", "bz")));
            out.said = "Levelled by two points of the floor.";
            break;
        case Tool::Turn: {
            Box box;
            for (const Vec3& p : job.mesh().positions) box.add(now(p));
            next = turned(now, box.centre(), vector_of(job, "x", "y", "z"));
            out.said = "Turned.";
            break;
        }
        case Tool::Move:
            next = moved(now, vector_of(job, "x", "y", "z"));
            out.said = "Moved.";
            break;
        default:
            next = on_the_floor(job.mesh(), now);
            out.said = "Set on the floor, its middle over the origin.";
    }
    if (!next) return next.error();
    out.state.to_upright = *next;
    return out;
}

Status check_numbers(const TidyStep& step) {
    const ToolInfo& info = tool_info(step.tool);
    for (const auto& [name, value] : step.numbers) {
        const auto known = std::find_if(info.parameters.begin(), info.parameters.end(),
                                        [&](const ToolParameter& p) { return name == p.name; });
        if (known == info.parameters.end())
            return refused(step, ErrorCode::BadInput, "it has no number called '" + name + "'.");
        if (!(value >= known->low && value <= known->high)) {
            char text[200];
            std::snprintf(text, sizeof text, "'%s' is %g; it must lie between %g and %g.", known->name, value,
                          known->low, known->high);
            return refused(step, ErrorCode::BadInput, text);
        }
    }
    return Done{};
}

}  // namespace

const ToolInfo& tool_info(Tool tool) {
    for (const ToolInfo& info : tool_table()) {
        if (info.tool == tool) return info;
    }
    return tool_table().front();
}

const ToolInfo* tool_named(const std::string& name) {
    const std::string now = name == "mend" ? "repair" : name == "pieces" ? "components" : name;
    for (const ToolInfo& info : tool_table()) {
        if (now == info.name) return &info;
    }
    return nullptr;
}

bool places(Tool t) {
    return t == Tool::Straighten || t == Tool::FacePoints || t == Tool::FloorPoints || t == Tool::Turn ||
           t == Tool::Move || t == Tool::Floor;
}

FaceMask faces_taken_away(const TidyState& state, const TidyStep& step) {
    if (step.tool == Tool::Components) return small_components(*state.mesh, limits_of(state, step));
    if (step.tool == Tool::Cut) return faces_behind(*state.mesh, plane_of(state, step));
    return {};
}

double number_of(const TidyStep& step, const char* name) {
    if (const auto known = step.numbers.find(name); known != step.numbers.end()) return known->second;
    for (const ToolParameter& p : tool_info(step.tool).parameters) {
        if (std::string(name) == p.name) return p.initial;
    }
    return 0;
}

Result<StepDone> run_step(const TidyState& state, const TidyStep& step, const BaseKit* kit, const Progress& progress) {
    if (auto ok = check_numbers(step); !ok) return ok.error();
    Job job{state, step, kit, progress, {}};
    if (!step.selection.empty()) {
        job.faces = select_faces(*state.mesh, state.to_upright, step.selection, kit, progress);
        if (job.faces.size() != state.mesh->face_count()) return stopped();
    }
    const bool selected = count_selected(job.faces) > 0;
    if (tool_info(step.tool).selection == NeedsSelection::Yes && !selected)
        return refused(step, ErrorCode::BadInput, "nothing is selected. Select an area first.");
    if (tool_info(step.tool).selection == NeedsSelection::Optional && !step.selection.empty() && !selected)
        return refused(step, ErrorCode::BadInput, "the selection holds nothing on this mesh.");
    if (places(step.tool) || step.tool == Tool::Ignore) {
        auto done = step.tool == Tool::Ignore ? ignore(job) : place(job);
        if (!done)
            return done.error().code == ErrorCode::Cancelled ? done.error()
                                                             : refused(step, done.error().code, done.error().message);
        return done;
    }
    auto change = change_mesh(job);
    if (!change)
        return change.error().code == ErrorCode::Cancelled
                   ? change.error()
                   : refused(step, change.error().code, change.error().message);
    if (progress.is_cancelled()) return stopped();
    if (change->mesh.face_count() == 0)
        return refused(step, ErrorCode::DegenerateInput, "nothing of the mesh would be left.");
    StepDone out{state, change->said, change->count > 0};
    if (!out.changed) return out;
    if (state.ignored) out.state.ignored = std::make_shared<VertexMask>(carried(*state.ignored, *change));
    out.state.mesh = std::make_shared<Mesh>(std::move(change->mesh));
    return out;
}

Result<RecipeDone> run_recipe(TidyState state, const std::vector<TidyStep>& steps, const BaseKit* kit,
                              const Progress& progress) {
    RecipeDone out{std::move(state), {}};
    for (std::size_t i = 0; i < steps.size(); ++i) {
        Progress part = progress;
        part.report = [&](double f, const std::string& stage) {
            progress.say((static_cast<double>(i) + std::clamp(f, 0.0, 1.0)) / static_cast<double>(steps.size()),
                         stage);
        };
        auto done = run_step(out.state, steps[i], kit, part);
        if (!done)
            return Error{done.error().code,
                         (done.error().code == ErrorCode::Cancelled ? "" : "Step " + std::to_string(i + 1) + ", ") +
                             done.error().message};
        out.state = std::move(done->state);
        out.said.push_back(std::string(tool_info(steps[i].tool).label) + ": " + done->said);
    }
    return out;
}

}  // namespace veld
