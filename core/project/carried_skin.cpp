#include "core/project/carried_skin.h"

#include <algorithm>

#include "core/base/part_of.h"
#include "core/fit/source_surface.h"
#include "core/kit_making/lay_base.h"
#include "core/project/layered_skins.h"
#include "core/project/skin_out.h"
#include "core/project/store.h"
#include "core/skin/bake_out.h"

namespace veld {
namespace {

constexpr double kDressed = 0.1, kLaid = 0.6;  // of the whole's time

// One mesh with one layout of its UVs: tiles mean the same.
bool same_layout(const BaseKit& a, const BaseKit& b) {
    return a.topology_key == b.topology_key && a.mesh.uvs == b.mesh.uvs && a.mesh.corner_uv == b.mesh.corner_uv;
}

// The old base's skin alone, in the new base's rest.
Mesh skin_of(const BaseKit& from, Mesh dressed, const Points& laid, VertexMask& left_out) {
    dressed.positions = laid;
    dressed.normals.clear(), dressed.corner_normal.clear();
    left_out.assign(dressed.positions.size(), 1);
    for (const Index v : from.part("skin")->vertices) left_out[v] = 0;
    return dressed;
}

}  // namespace

Result<CarriedSkin> carry_skin(const BaseKit& from, const LayeredSkin* skin, const std::string& name,
                               const BaseKit& to, int size, const Progress& progress) {
    const auto base = bake_surface(to, to.mesh.positions);
    if (!base) return base.error();
    progress.say(0, "Dressing the other base");
    Mesh dressed = from.mesh;
    if (skin) {
        auto kit = dressed_kit(from, *skin, part_of(progress, 0, kDressed));
        if (!kit) return kit.error();
        dressed = std::move(kit->mesh);
    } else if (dressed.images.empty()) {
        return Error{ErrorCode::BadInput, "'" + name + "' has no pictures on its base: there is no skin to carry."};
    }
    CarriedSkin out;
    if (skin && same_layout(from, to)) {  // texel by texel
        auto worn = worn_layer(to, *skin, name, progress);
        if (!worn) return worn.error();
        out.layer = std::move(*worn), out.exact = to.mesh.positions.size(), out.seen = 1;
        return out;
    }
    auto laid = lay_base(from, to, part_of(progress, kDressed, kLaid));
    if (!laid) return laid.error();
    out.notes = laid->laid.notes;
    out.exact = laid->same.size() - static_cast<std::size_t>(std::count(laid->same.begin(), laid->same.end(), kNone));
    VertexMask left_out;
    const Mesh source = skin_of(from, std::move(dressed), laid->laid.positions, left_out);
    const SourceSurface surface = prepare_source(source, {}, &left_out, 0, true);
    const Triangulation fans = triangulate(source);
    BakeSettings settings;
    settings.size = size, settings.maps = {SkinMap::Colour};
    out.layer.from = LayerFrom::Worn, out.layer.name = name;
    const auto take = [&](BakedTile&& baked) -> Status {
        if (std::all_of(baked.found.begin(), baked.found.end(),
                        [](std::uint8_t f) { return static_cast<Found>(f) == Found::Nothing; }))
            return Done{};
        out.layer.tiles[baked.tile.name].picture = std::make_shared<Image>(
            Image{"picture.png", "image/png", encode_png(map_pixels(baked.maps.at(SkinMap::Colour)))});
        return Done{};
    };
    const auto report =
        bake(*base, to.mesh, {&surface, &source, &fans, 1}, settings, take, part_of(progress, kLaid, 1));
    if (!report) return report.error();
    out.seen = report->seen;
    out.notes.insert(out.notes.end(), report->notes.begin(), report->notes.end());
    out.layer.notes = out.notes;
    return out;
}

Result<CarriedSkin> carry_skin_from_project(const std::string& path, const std::string& subject,
                                            const std::string& skin, const BaseKit& to, int size,
                                            const Progress& progress) {
    progress.say(0, "Reading the project");
    const auto project = load_project(path);
    if (!project) return project.error();
    const ProjectState& state = project->state;
    for (const Subject& one : state.subjects) {
        if (subject.empty() ? &one != state.current() : one.name != subject) continue;
        for (const auto& each : one.skins) {
            if (skin.empty() ? each != one.skin() : each->name != skin) continue;
            return carry_skin(*state.kit, each.get(), one.name + ", " + each->name, to, size, progress);
        }
        return Error{ErrorCode::BadInput, skin.empty()
                                              ? "'" + one.name + "' has no skin in '" + path + "'."
                                              : "'" + one.name + "' has no skin '" + skin + "' in '" + path + "'."};
    }
    return Error{ErrorCode::BadInput, subject.empty() ? "'" + path + "' has no subject yet."
                                                      : "'" + path + "' has no subject '" + subject + "'."};
}

Result<std::vector<std::pair<std::string, std::string>>> skins_in_project(const std::string& path) {
    const auto project = load_project(path);
    if (!project) return project.error();
    std::vector<std::pair<std::string, std::string>> out;
    for (const Subject& one : project->state.subjects) {
        for (const auto& skin : one.skins) out.emplace_back(one.name, skin->name);
    }
    return out;
}

}  // namespace veld
