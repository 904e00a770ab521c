// veldstone-cli skin: a source's skin and relief as maps on the base's tiles.
#include <cmath>
#include <filesystem>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/base/units.h"
#include "core/fit/source_surface.h"
#include "core/io/mesh_file.h"
#include "core/linalg/fit_similarity.h"
#include "core/project/skins.h"
#include "core/project/store.h"
#include "core/skin/bake_out.h"

namespace veld::cli {
namespace {

struct BakeOptions {
    std::string kit, fit, source, project, subject, out, name, pattern = kMapPattern, format = "png8",
                                                               heights = "tiff32";
    std::vector<std::string> maps{"colour", "normal"};
    BakeSettings settings;
    int level = 0;
    bool not_skin_too = false;
};

// The fit lies where the source lies; this brings both into the kit's frame.
Result<Similarity> frame_of(const BaseKit& kit, const Mesh& fit, const std::string& path) {
    if (fit.vertex_count() != kit.mesh.vertex_count())
        return Error{ErrorCode::BadInput, "'" + path + "' has " + std::to_string(fit.vertex_count()) +
                                              " vertices and the base " + std::to_string(kit.mesh.vertex_count()) +
                                              ": it is no fit of this base. 'wrap --frame source' writes one."};
    SimilarityOptions options;
    options.outlier_mm = 0;
    const auto rough = fit_similarity(fit.positions, kit.mesh.positions, options);
    if (!rough) return rough.error();
    // How large a person is belongs to the shape: of the scale only the file's unit is taken out.
    Unit unit = Unit::Millimetre;
    const auto off = [&](Unit u) { return std::abs(std::log(rough->scale / millimetres(u))); };
    for (const Unit u : kAllUnits) {
        if (off(u) < off(unit)) unit = u;
    }
    const double scale = millimetres(unit);
    Points in_mm;
    for (const Vec3& p : fit.positions) in_mm.push_back(scale * p);
    options.allow_scale = false;
    const auto placed = fit_similarity(in_mm, kit.mesh.positions, options);
    if (!placed) return placed.error();
    return Similarity{scale, placed->rotation, placed->translation};
}

Json report_json(const BakeReport& report) {
    Json out = {{"seen", report.seen},
                {"missed", report.missed},
                {"wrong_sheet", report.wrong},
                {"from_other_side", report.mirrored}};
    if (report.other_colour > 0) out["other_colour"] = report.other_colour;
    for (const RegionTone& t : report.tones) out["tones"][t.region] = {t.off[0], t.off[1], t.off[2]};
    for (const RegionReach& r : report.reaches)
        out["reach"][r.region] = {
            {"median_mm", r.median_mm}, {"far_mm", r.far_mm}, {"reach_mm", r.reach_mm}, {"shown", r.shown}};
    for (const RegionBaked& r : report.regions)
        out["regions"][r.region] = {
            {"texels", r.texels}, {"missed", r.missed}, {"wrong_sheet", r.wrong}, {"from_other_side", r.mirrored}};
    if (report.darkest > 0) out["light"] = {{"darkest", report.darkest}, {"lightest", report.lightest}};
    if (report.lamp) {
        out["light"]["shadow"] = report.shadow;
        out["light"]["lamp"] = {report.lamp->x(), report.lamp->y(), report.lamp->z()};
    }
    if (report.shine > 0) out["light"]["shine"] = report.shine;
    out["notes"] = report.notes;
    return out;
}

using Take = std::function<Status(BakedTile&&)>;
// Each bakes with what is left of the options.
struct Baker {
    std::vector<UvTile> tiles;
    std::string name;
    std::function<Result<BakeReport>(const BakeSettings&, const Take&)> run;
};

Result<Baker> baker_of_files(const BakeOptions& o) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return kit.error();
    auto fit = read_mesh(o.fit);
    if (!fit) return fit.error();
    auto source = read_mesh(o.source);
    if (!source) return source.error();
    const auto to_kit = frame_of(*kit, fit->mesh, o.fit);
    if (!to_kit) return to_kit.error();
    Points shape;
    for (const Vec3& p : fit->mesh.positions) shape.push_back((*to_kit)(p));
    auto base = bake_surface(*kit, shape, o.level);
    if (!base) return base.error();
    Baker out{base->tiles, std::filesystem::path(o.fit).stem().string(), {}};
    auto kit_mesh = std::make_shared<const Mesh>(std::move(kit->mesh));
    auto mesh = std::make_shared<const Mesh>(std::move(source->mesh));
    auto surface = std::make_shared<const BakeSurface>(std::move(*base));
    out.run = [=, placed = *to_kit](const BakeSettings& settings, const Take& take) {
        const SourceSurface high = prepare_source(*mesh, placed, nullptr, 0.02, true);
        const Triangulation fans = triangulate(*mesh);
        return bake(*surface, *kit_mesh, {&high, mesh.get(), &fans, placed.scale}, settings, take,
                    terminal_progress());
    };
    return out;
}

Result<Baker> baker_of_project(const BakeOptions& o) {
    const auto project = load_project(o.project);
    if (!project) return project.error();
    const ProjectState& state = project->state;
    const auto subject = std::find_if(state.subjects.begin(), state.subjects.end(),
                                      [&](const Subject& s) { return o.subject.empty() || s.name == o.subject; });
    if (subject == state.subjects.end())
        return Error{ErrorCode::BadInput, "'" + o.project + "' has no subject '" + o.subject + "'."};
    auto baking = baking_of(state, subject->id);
    if (!baking) return baking.error();
    baking->leave_out_not_skin = !o.not_skin_too;
    const auto base = bake_surface(*state.kit, *baking->fit.positions, o.level);
    if (!base) return base.error();
    Baker out{base->tiles, subject->name, {}};
    out.run = [what = *baking, level = o.level](const BakeSettings& settings, const Take& take) {
        return bake_fit(what, level, settings, take, terminal_progress());
    };
    return out;
}

int run_bake(const BakeOptions& o, const Output& output) {
    BakeSettings settings = o.settings;
    settings.maps.clear();
    for (const std::string& name : o.maps) settings.maps.push_back(*skin_map_from_name(name));
    if (o.project.empty() && (o.kit.empty() || o.source.empty() || o.fit.empty()))
        return output.refuse({ErrorCode::BadInput, "Give --kit, --source and --fit, or a --project."});
    const auto baker = o.project.empty() ? baker_of_files(o) : baker_of_project(o);
    if (!baker) return output.refuse(baker.error());
    MapWriter writer({o.out, o.name.empty() ? baker->name : o.name, o.pattern, *map_format_from_name(o.format),
                      *map_format_from_name(o.heights)},
                     baker->tiles);
    if (auto ok = writer.prepare(); !ok) return output.refuse(ok.error());
    const auto report = baker->run(settings, [&](BakedTile&& tile) { return writer.write(tile); });
    if (!report) return output.refuse(writer.stopped(report.error()));
    if (auto ok = writer.write_about(*report); !ok) return output.refuse(ok.error());
    Json json = report_json(*report);
    json["files"] = writer.written();
    char line[200];
    std::snprintf(line, sizeof line, "seen on the source: %.1f %%, missed: %.1f %%, on a wrong sheet: %.2f %%\n",
                  100 * report->seen, 100 * report->missed, 100 * report->wrong);
    std::string text = line;
    for (const std::string& path : writer.written()) text += "  " + path + "\n";
    for (const std::string& note : report->notes) text += note + "\n";
    output.result(json, text);
    return 0;
}

std::vector<std::string> map_names() {
    std::vector<std::string> out;
    for (const SkinMap map : kAllSkinMaps) out.emplace_back(skin_map_name(map));
    return out;
}

}  // namespace

void add_skin(CLI::App& app, const Output& output, int& exit_code) {
    auto* skin = app.add_subcommand("skin", "Maps of a skin on the base's tiles");
    skin->require_subcommand(1);
    auto* bake = skin->add_subcommand("bake", "Bake a source's colours and relief onto the base's tiles");
    auto o = std::make_shared<BakeOptions>();
    auto* project = bake->add_option("--project", o->project, "Bake through the current fit of a project's subject");
    bake->add_option("--subject", o->subject, "Whose; else the first one's")->needs(project);
    bake->add_flag("--not-skin-too", o->not_skin_too,
                   "Hair, caps and the like too, though they are known to be no skin")
        ->needs(project);
    bake->add_option("--kit", o->kit, "Folder of the base kit")->excludes(project);
    bake->add_option("--source", o->source, "Scan or sculpt to bake from, with its textures")->excludes(project);
    bake->add_option("--fit", o->fit, "The base fitted to it, where the source lies ('wrap --frame source')")
        ->excludes(project);
    bake->add_option("--out", o->out, "Folder for the maps")->required();
    bake->add_option("--map", o->maps, "What to bake")->check(CLI::IsMember(map_names()));
    bake->add_option("--name", o->name, "What {name} stands for; else the fit's file name");
    bake->add_option("--pattern", o->pattern, "Names of the files, with {name}, {map}, {tile} and {udim}");
    bake->add_option("--size", o->settings.size, "Texels a side, 16 to 16384");
    bake->add_option("--samples", o->settings.samples, "Samples a side of each texel, 1 to 8");
    bake->add_option("--padding", o->settings.padding, "Texels beyond islands' borders");
    bake->add_option("--tile", o->settings.tiles, "Only these tiles");
    bake->add_option("--level", o->level, "Bake for the base subdivided so often")->check(CLI::Range(0, 3));
    bake->add_option("--reach", o->settings.reach_mm, "How far to look, mm; without: by the fit, for each region")
        ->check(CLI::PositiveNumber);
    bake->add_option("--light-out", o->settings.light_out,
                     "How much of the light that the source was taken in, cast shadows too, goes out, 0 to 1");
    bake->add_option("--shine-out", o->settings.shine_out, "How much of the highlights goes out, 0 to 1");
    bake->add_flag("--parts", o->settings.parts, "Eyes, teeth, tongue and lashes from the source too");
    const auto formats = CLI::IsMember({"png8", "png16", "tiff8", "tiff16", "tiff32", "exr16", "exr32"});
    bake->add_option("--format", o->format, "Of the maps")->check(formats);
    bake->add_option("--heights", o->heights,
                     "Of the displacement; in png and 8 or 16 bit tiff it is scaled, and the range written beside it")
        ->check(formats);
    bake->add_option("--tone", o->settings.tone,
                     "How far the colours are brought to the tone of the base's own, 0 to 1");
    bake->add_flag("--by-colour", o->settings.colours_tell, "What is no skin by its colours is left out too");
    bake->add_flag("--mirror-fill", o->settings.fill_mirrored, "What is missed comes from the other side first");
    bake->callback([o, &output, &exit_code] { exit_code = run_bake(*o, output); });
    add_skin_layers(*skin, output, exit_code);
}

}  // namespace veld::cli
