// veldstone-cli skin layers, clean, match: the skins that a project keeps.
#include "cli/cli.h"
#include "core/exchange/export.h"
#include "core/project/layered_skins.h"
#include "core/project/skin_out.h"
#include "core/project/store.h"

namespace veld::cli {
namespace {

struct LayersOptions {
    std::string project, subject, skin, layer, out, glb, pattern = kMapPattern, format = "png8", heights = "tiff32";
    std::vector<std::string> maps{"colour"};
    bool add = false, again = false;
    int size = 0, level = 0;
    // of clean and match
    double light_out = 1, amount = 1;
    std::string half = "both";
    bool not_skin_too = false, no_brows = false, no_mirror = false;
};

// The subject's skin that is meant, in a state that is being changed.
struct Chosen {
    SubjectId subject;
    std::shared_ptr<const LayeredSkin> skin;  // null: it has none yet
};

Result<Chosen> chosen(const LayersOptions& o, ProjectState& state) {
    const auto bad = [](const std::string& why) { return Error{ErrorCode::BadInput, why}; };
    for (std::size_t i = 0; i < state.subjects.size(); ++i) {
        Subject& subject = state.subjects[i];
        if (o.subject.empty() ? static_cast<int>(i) != state.subject : subject.name != o.subject) continue;
        if (o.skin.empty()) return Chosen{subject.id, subject.skin()};
        for (std::size_t k = 0; k < subject.skins.size(); ++k) {
            if (subject.skins[k]->name != o.skin) continue;
            subject.current_skin = static_cast<int>(k);
            return Chosen{subject.id, subject.skins[k]};
        }
        return bad("'" + subject.name + "' has no skin '" + o.skin + "'.");
    }
    return bad(o.subject.empty() ? "'" + o.project + "' has no subject yet."
                                 : "'" + o.project + "' has no subject '" + o.subject + "'.");
}

bool is_baked(const SkinLayer& layer) { return layer.from == LayerFrom::Scan || layer.from == LayerFrom::Photos; }

Json layers_json(const ProjectState& state, const LayeredSkin& skin) {
    Json out = {{"skin", skin.name}, {"size", skin.size}, {"layers", Json::array()}};
    for (const SkinLayer& l : skin.layers) {
        Json one = {{"name", l.name},
                    {"from", layer_from_name(l.from)},
                    {"shown", l.shown},
                    {"amount", l.amount},
                    {"blend", layer_blend_name(l.blend)}};
        if (is_baked(l)) {
            one["old"] = is_old(state, l);
            one["seen"] = l.seen, one["from_other_side"] = l.mirrored;
            one["recipe"] = Json::parse(layer_recipe_text(l.recipe));
            one["notes"] = l.notes;
            for (const LayerRegion& r : l.regions)
                one["regions"][r.region] = {{"seen", r.seen},
                                            {"from_other_side", r.mirrored},
                                            {"wrong_sheet", r.wrong},
                                            {"reach_mm", r.reach_mm},
                                            {"better_half", skin_half_name(r.better)}};
        }
        for (const auto& [name, tile] : l.tiles) one["tiles"].push_back(name);
        out["layers"].push_back(one);
    }
    return out;
}

std::string layers_text(const ProjectState& state, const LayeredSkin& skin) {
    std::string out = skin.name + ", " + std::to_string(skin.size) + " texels\n";
    for (auto l = skin.layers.rbegin(); l != skin.layers.rend(); ++l) {
        char line[200] = "";
        if (is_baked(*l))
            std::snprintf(line, sizeof line, ": seen %.1f %%, from the other side %.1f %%%s", 100 * l->seen,
                          100 * l->mirrored, is_old(state, *l) ? ", to be baked again" : "");
        out += "  " + l->name + " (" + layer_from_name(l->from) + ")" + line + "\n";
        for (const std::string& note : l->notes) out += "    " + note + "\n";
    }
    return out;
}

// Those of the skin's baked layers that `which` wants, baked as their recipes say.
Status bake_into(const ProjectState& state, LayeredSkin& skin, const std::function<bool(const SkinLayer&)>& which) {
    for (SkinLayer& layer : skin.layers) {
        if (!is_baked(layer) || !which(layer)) continue;
        const auto work = layer_baking(state, layer, skin.size);
        if (!work) return work.error();
        auto baked = bake_layer(*work, terminal_progress());
        if (!baked) return baked.error();
        layer = std::move(baked->layer);
    }
    return Done{};
}

Status write_out(const LayersOptions& o, const ProjectState& state, const Chosen& of,
                 const std::shared_ptr<const LayeredSkin>& skin, Json& json, std::string& text) {
    if (!o.out.empty()) {
        SkinOut what{state.kit, skin, {}, {}, o.level, {}};
        for (const std::string& name : o.maps) what.maps.push_back(*skin_map_from_name(name));
        if (auto relief = baking_of(state, of.subject)) what.relief = std::move(*relief);
        what.files = {o.out, find_subject(state, of.subject)->name + "_" + skin->name, o.pattern,
                      *map_format_from_name(o.format), *map_format_from_name(o.heights)};
        const auto files = write_skin_maps(what, terminal_progress());
        if (!files) return files.error();
        json["files"] = *files;
        for (const std::string& path : *files) text += "  " + path + "\n";
    }
    if (!o.glb.empty()) {
        auto kit = dressed_kit(*state.kit, *skin, terminal_progress());
        if (!kit) return kit.error();
        if (auto ok = export_glb(*kit, state.amounts(), o.glb); !ok) return ok;
        json["glb"] = o.glb;
        text += "  " + o.glb + "\n";
    }
    return Done{};
}

// change: what is done to the skin before it is baked; nothing: it is only looked at, unless --add or --again is said.
int run(const LayersOptions& o, const Output& output,
        const std::function<Status(const ProjectState&, LayeredSkin&)>& change) {
    auto project = load_project(o.project);
    if (!project) return output.refuse(project.error());
    ProjectState& state = project->state;
    auto of = chosen(o, state);
    if (!of) return output.refuse(of.error());
    LayeredSkin skin = of->skin ? *of->skin : LayeredSkin{.name = "Skin", .size = 2048, .layers = {}};
    const bool resized = o.size > 0 && o.size != skin.size;
    const bool changes = o.add || o.again || resized || change;
    if (!of->skin && !o.add)
        return output.refuse({ErrorCode::BadInput, "'" + find_subject(state, of->subject)->name +
                                                       "' has no skin yet. 'skin layers --add' bakes one of its "
                                                       "current fit."});
    if (resized) {
        skin.size = o.size;
        for (SkinLayer& layer : skin.layers) layer.baked_for.clear();
    }
    if (o.add) {
        auto layer = layer_of_fit(state, of->subject);
        if (!layer) return output.refuse(layer.error());
        skin.layers.push_back(std::move(*layer));
    }
    if (change) {
        if (auto ok = change(state, skin); !ok) return output.refuse(ok.error());
    }
    if (changes) {
        const auto wanted = [&](const SkinLayer& l) { return is_old(state, l); };
        if (auto ok = bake_into(state, skin, wanted); !ok) return output.refuse(ok.error());
        if (of->skin)
            put_skin(state, std::make_shared<const LayeredSkin>(skin));
        else
            add_skin(state, of->subject, skin);
        if (auto ok = save_project(o.project, state); !ok) return output.refuse(ok.error());
    }
    Json json = layers_json(state, skin);
    std::string text = layers_text(state, skin);
    if (auto ok = write_out(o, state, *of, std::make_shared<const LayeredSkin>(skin), json, text); !ok)
        return output.refuse(ok.error());
    output.result(json, text);
    return 0;
}

// Another recipe for the layers that are meant; they are to be baked again.
std::function<Status(const ProjectState&, LayeredSkin&)> with_recipe(const LayersOptions& o,
                                                                     std::function<void(LayerRecipe&)> change) {
    return [layer = o.layer, change = std::move(change)](const ProjectState&, LayeredSkin& skin) -> Status {
        int met = 0;
        for (SkinLayer& l : skin.layers) {
            if (!is_baked(l) || (!layer.empty() && l.name != layer)) continue;
            change(l.recipe);
            l.baked_for.clear();
            ++met;
        }
        if (met == 0)
            return Error{ErrorCode::BadInput, layer.empty()
                                                  ? "'" + skin.name + "' has no baked layer."
                                                  : "'" + skin.name + "' has no baked layer '" + layer + "'."};
        return Done{};
    };
}

void add_common(CLI::App* command, const std::shared_ptr<LayersOptions>& o) {
    command->add_option("FILE", o->project, "Project file")->required();
    command->add_option("--subject", o->subject, "Whose skin; else the current one's");
    command->add_option("--skin", o->skin, "Which of its skins; else the current one");
}

}  // namespace

void add_skin_layers(CLI::App& skin, const Output& output, int& exit_code) {
    std::vector<std::string> maps;
    for (const SkinMap map : kAllSkinMaps) maps.emplace_back(skin_map_name(map));
    auto o = std::make_shared<LayersOptions>();
    auto* layers = skin.add_subcommand("layers", "List, bake and write the skin that a project keeps for a subject");
    add_common(layers, o);
    layers->add_flag("--add", o->add, "Bake a layer of the subject's current fit");
    layers->add_flag("--again", o->again, "Bake those layers again whose fit has changed");
    layers->add_option("--size", o->size, "Texels a side; at another size its layers are baked anew")
        ->check(CLI::Range(kLeastTexels, kMostTexels));
    layers->add_option("--out", o->out, "Folder to write its maps into");
    layers->add_option("--map", o->maps, "Which maps to write")->check(CLI::IsMember(maps));
    layers->add_option("--level", o->level, "Subdivisions of the base that relief is for")->check(CLI::Range(0, 3));
    layers->add_option("--pattern", o->pattern, "Names of the files, with {name}, {map}, {tile} and {udim}");
    const auto formats = CLI::IsMember({"png8", "png16", "tiff8", "tiff16", "tiff32", "exr16", "exr32"});
    layers->add_option("--format", o->format, "Of the maps")->check(formats);
    layers->add_option("--heights", o->heights, "Of the displacement")->check(formats);
    layers->add_option("--glb", o->glb, "Write the base wearing the skin, with the project's morphs");
    layers->callback([o, &output, &exit_code] { exit_code = run(*o, output, nullptr); });

    auto c = std::make_shared<LayersOptions>();
    auto* clean = skin.add_subcommand("clean", "Bake a skin's layers again without light, hair and caps");
    add_common(clean, c);
    clean->add_option("--layer", c->layer, "Only this layer");
    clean->add_option("--light-out", c->light_out, "How much of the light goes out, 0 to 1; 1 when it is not said")
        ->check(CLI::Range(0.0, 1.0));
    clean->add_flag("--not-skin-too", c->not_skin_too, "Leave hair, caps and the like in");
    clean->add_flag("--no-brows", c->no_brows, "Take brows and beard out too");
    clean->add_flag("--no-mirror", c->no_mirror, "Fill from the base's skin only, not from the other side");
    clean->add_option("--half", c->half, "Take only this half, the person's own, and fill the other from it")
        ->check(CLI::IsMember({"both", "left", "right"}));
    clean->callback([c, &output, &exit_code] {
        exit_code = run(*c, output, with_recipe(*c, [c](LayerRecipe& r) {
            r.light_out = c->light_out, r.leave_out_not_skin = !c->not_skin_too, r.keep_brows = !c->no_brows;
            r.fill_mirrored = !c->no_mirror;
            for (const SkinHalf half : kSkinHalves) {
                if (c->half == skin_half_name(half)) r.half = half;
            }
        }));
    });

    auto m = std::make_shared<LayersOptions>();
    auto* match =
        skin.add_subcommand("match", "Bring a skin's layers to the tone of the base's own, region by region");
    add_common(match, m);
    match->add_option("--layer", m->layer, "Only this layer");
    match->add_option("--amount", m->amount, "How far, 0 to 1; 1 when it is not said")->check(CLI::Range(0.0, 1.0));
    match->callback([m, &output, &exit_code] {
        exit_code = run(*m, output, with_recipe(*m, [m](LayerRecipe& r) { r.tone = m->amount; }));
    });
}

}  // namespace veld::cli
