#include "core/project/skins.h"

#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"

namespace veld {

Result<FitBaking> baking_of(const ProjectState& state, SubjectId id) {
    const Subject* subject = find_subject(state, id);
    if (!subject) return Error{ErrorCode::Gone, "The subject is no longer there."};
    const FitRecord* fit = subject->fit();
    if (!fit)
        return Error{ErrorCode::BadInput,
                     "'" + subject->name + "' has no fit to bake through. Fit the base to a source first."};
    return baking_of_fit(state, *fit);
}

Result<FitBaking> baking_of_fit(const ProjectState& state, const FitRecord& fit) {
    if (!fit.source_id)
        return Error{ErrorCode::BadInput, "'" + fit.name +
                                              "' was not made from a scan or sculpt. Make a fit of one current. "
                                              "Photographs show no relief; their colours are a layer of a skin ('skin "
                                              "layers --add')."};
    const Source* source = find_source(state, fit.source_id);
    if (!source || !source->mesh)
        return Error{ErrorCode::Gone, "The source of '" + fit.name + "' is no longer in the project."};
    return FitBaking{state.kit, fit, *source};
}

Result<BakeReport> bake_fit(const FitBaking& what, int level, const BakeSettings& settings,
                            const std::function<Status(BakedTile&&)>& take, const Progress& progress) {
    const auto base = bake_surface(*what.kit, *what.fit.positions, level);
    if (!base) return base.error();
    const Mesh& mesh = *what.source.mesh;
    VertexMask left_out(mesh.positions.size(), 0);
    const auto add = [&](const std::shared_ptr<const VertexMask>& mask) {
        for (std::size_t v = 0; mask && v < left_out.size() && v < mask->size(); ++v) left_out[v] |= (*mask)[v];
    };
    add(what.source.ignored);
    if (what.leave_out_not_skin) add(what.source.not_skin);
    const SourceSurface surface = prepare_source(mesh, what.fit.source_to_kit, &left_out, 0.02, true);
    const Triangulation fans = triangulate(mesh);
    return bake(*base, what.kit->mesh, {&surface, &mesh, &fans, what.fit.source_to_kit.scale}, settings, take,
                progress);
}

Result<BakeReport> bake_relief(const FitBaking& what, int level, BakeSettings settings, bool skin_only,
                               const std::function<Status(BakedTile&&)>& take, const Progress& progress) {
    std::erase(settings.maps, SkinMap::Colour);
    if (skin_only && (!what.source.mesh->colours.empty() || !what.source.mesh->images.empty())) {
        // colours are told apart without their light; they do not go out
        settings.maps.push_back(SkinMap::Colour);
        settings.colours_tell = true, settings.light_out = 1;
    }
    auto report = bake_fit(
        what, level, settings,
        [&](BakedTile&& tile) {
            tile.maps.erase(SkinMap::Colour);
            return take(std::move(tile));
        },
        progress);
    if (report) report->darkest = report->lightest = 0;  // no light went out of what is given
    return report;
}

}  // namespace veld
