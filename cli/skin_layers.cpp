// veldstone-cli skin layers, clean, match: the skins that a project keeps.
#include <algorithm>
#include <cstdio>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/project/carried_skin.h"
#include "core/project/layered_skins.h"
#include "core/project/skin_out.h"
#include "core/project/store.h"
#include "core/skin/reference_tone.h"

namespace veld::cli {
namespace {

struct LayersOptions {
    std::string project, subject, skin, layer, out, glb, pattern = kMapPattern, format = "png8", heights = "tiff32";
    std::vector<std::string> maps{"colour"};
    bool add = false, again = false, stages = false, all_skins = false;
    int size = 0, level = 0;
    // layers from elsewhere, and where one is shown
    std::string wear, bring, bring_subject, bring_skin, bring_kit, only_in, kit_out;
    bool wear_mix = false;
    // a stage: to work on, or to make
    std::string stage, expression, stage_fit;
    // of clean and match
    double light_out = 1, shine_out = 0, amount = 1;
    std::string half = "both";
    bool not_skin_too = false, no_brows = false, no_mirror = false, own_grain = false;
    std::string like, like_colour, like_picture;
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

bool is_baked(const SkinLayer& layer) { return is_baked(layer.from); }

Json layers_json(const ProjectState& state, const LayeredSkin& skin) {
    Json out = {{"skin", skin.name}, {"size", skin.size}, {"layers", Json::array()}};
    for (const SkinStage& s : skin.stages) {
        const FitRecord* fit = s.fit ? find_fit(state, s.fit) : nullptr;
        out["stages"].push_back({{"name", s.name}, {"expression", s.expression}, {"relief_of", fit ? fit->name : ""}});
    }
    for (const SkinLayer& l : skin.layers) {
        Json one = {{"name", l.name},
                    {"from", layer_from_name(l.from)},
                    {"shown", l.shown},
                    {"amount", l.amount},
                    {"blend", layer_blend_name(l.blend)}};
        if (!l.stage.empty()) one["stage"] = l.stage;
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
    SkinOut what = skin_out_of(state, of.subject, skin);
    what.maps.clear(), what.level = o.level, what.stages = o.stages, what.all_skins = o.all_skins;
    for (const std::string& name : o.maps) what.maps.push_back(*skin_map_from_name(name));
    if (!o.out.empty()) {
        what.files = {o.out, what.files.name, o.pattern, *map_format_from_name(o.format),
                      *map_format_from_name(o.heights)};
        const auto files = write_skin_maps(what, terminal_progress());
        if (!files) return files.error();
        json["files"] = *files;
        for (const std::string& path : *files) text += "  " + path + "\n";
    }
    if (!o.glb.empty()) {
        if (auto ok = write_skin_glb(what, state.amounts(), o.glb, terminal_progress()); !ok) return ok;
        json["glb"] = o.glb;
        text += "  " + o.glb + "\n";
    }
    if (!o.kit_out.empty()) {
        if (auto ok = write_dressed_kit(*state.kit, *skin, o.kit_out, terminal_progress()); !ok) return ok;
        json["kit"] = o.kit_out;
        text += "  " + o.kit_out + "\n";
    }
    return Done{};
}

// The skin of "SUBJECT" (its current one) or "SUBJECT, SKIN".
std::shared_ptr<const LayeredSkin> skin_called(const ProjectState& state, const std::string& name) {
    for (const Subject& subject : state.subjects) {
        if (subject.name == name) return subject.skin();
        for (const auto& skin : subject.skins) {
            if (subject.name + ", " + skin->name == name) return skin;
        }
    }
    return nullptr;
}

Error no_skin_called(const std::string& name) {
    return {ErrorCode::BadInput, "There is no skin '" + name + "' in the project: say a subject, or 'SUBJECT, SKIN'."};
}

// The stage that is worked on; one that is not there is made.
Status take_stage(const LayersOptions& o, const ProjectState& state, const Chosen& of, LayeredSkin& skin) {
    if (o.stage.empty()) {
        if (!o.expression.empty() || !o.stage_fit.empty())
            return Error{ErrorCode::BadInput, "Say with --stage which stage is meant."};
        return Done{};
    }
    if (!skin.stage(o.stage)) skin.stages.push_back({o.stage, {}, {}});
    for (SkinStage& stage : skin.stages) {
        if (stage.name != o.stage) continue;
        if (!o.expression.empty()) {
            if (!state.kit->expressions.contains(o.expression))
                return Error{ErrorCode::BadInput, "The kit has no expression '" + o.expression + "'."};
            stage.expression = o.expression;
        }
        if (o.stage_fit.empty()) continue;
        const Subject* subject = find_subject(state, of.subject);
        const auto fit = std::find_if(subject->fits.begin(), subject->fits.end(),
                                      [&](const FitRecord& f) { return f.name == o.stage_fit; });
        if (fit == subject->fits.end())
            return Error{ErrorCode::BadInput, "'" + subject->name + "' has no fit '" + o.stage_fit + "'."};
        stage.fit = fit->id;
    }
    return Done{};
}

// Layers from elsewhere, on top.
Status put_on(const LayersOptions& o, const ProjectState& state, LayeredSkin& skin) {
    const auto put = [&](Result<SkinLayer> layer) -> Status {
        if (!layer) return layer.error();
        layer->stage = o.stage;
        skin.layers.push_back(std::move(*layer));
        return Done{};
    };
    const auto carried = [&](Result<CarriedSkin> made) -> Result<SkinLayer> {
        if (!made) return made.error();
        return std::move(made->layer);
    };
    Status ok = Done{};
    if (!o.wear.empty()) {
        const auto from = skin_called(state, o.wear);
        if (!from) return no_skin_called(o.wear);
        ok = put(worn_layer(*state.kit, *from, o.wear, terminal_progress()));
    }
    if (ok && o.wear_mix)
        ok = put(mixed_skin(*state.kit, skins_in_mix(state), "The mix", skin.size, terminal_progress()));
    if (ok && !o.bring.empty())
        ok = put(carried(carry_skin_from_project(o.bring, o.bring_subject, o.bring_skin, *state.kit, skin.size,
                                                 terminal_progress())));
    if (ok && !o.bring_kit.empty()) {
        const auto kit = read_base_kit(o.bring_kit);
        if (!kit) return kit.error();
        ok = put(
            carried(carry_skin(*kit, nullptr, file_name(o.bring_kit), *state.kit, skin.size, terminal_progress())));
    }
    if (!ok || o.only_in.empty()) return ok;
    SkinLayer* layer = nullptr;
    for (SkinLayer& l : skin.layers) {
        if (o.layer.empty() || l.name == o.layer) layer = &l;  // the topmost
    }
    if (!layer) return Error{ErrorCode::BadInput, "'" + skin.name + "' has no layer to show in a region."};
    return show_only_in(*state.kit, o.only_in == "all" ? std::string() : o.only_in, skin.size, *layer);
}

// change: what is done to the skin before it is baked; nothing: it is only looked at, unless --add or --again is said.
int run(const LayersOptions& o, const Output& output,
        const std::function<Status(const ProjectState&, LayeredSkin&)>& change) {
    auto project = load_project(o.project);
    if (!project) return output.refuse(project.error());
    ProjectState& state = project->state;
    auto of = chosen(o, state);
    if (!of) return output.refuse(of.error());
    LayeredSkin skin = of->skin ? *of->skin : LayeredSkin{.name = "Skin", .size = 2048, .layers = {}, .stages = {}};
    const bool resized = o.size > 0 && o.size != skin.size;
    const bool more = !o.wear.empty() || o.wear_mix || !o.bring.empty() || !o.bring_kit.empty() || !o.only_in.empty();
    const bool changes = o.add || o.again || resized || change || more || !o.stage.empty();
    if (!of->skin && !o.add && !more)
        return output.refuse({ErrorCode::BadInput, "'" + find_subject(state, of->subject)->name +
                                                       "' has no skin yet. 'skin layers --add' bakes one of its "
                                                       "current fit."});
    if (resized) {
        skin.size = o.size;
        for (SkinLayer& layer : skin.layers) layer.baked_for.clear();
    }
    if (auto ok = take_stage(o, state, *of, skin); !ok) return output.refuse(ok.error());
    if (auto ok = put_on(o, state, skin); !ok) return output.refuse(ok.error());
    if (o.add) {
        auto layer = layer_of_fit(state, of->subject);
        if (!layer) return output.refuse(layer.error());
        layer->stage = o.stage;
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

Result<ToneLike> tone_like_of(const LayersOptions& o, const ProjectState& state) {
    const auto bad = [](const std::string& why) { return Error{ErrorCode::BadInput, why}; };
    if (!o.like.empty() + !o.like_colour.empty() + !o.like_picture.empty() > 1)
        return bad("Say one of --like, --like-colour and --like-picture.");
    ToneLike out;
    if (!o.like.empty()) {
        const auto skin = skin_called(state, o.like);
        if (!skin) return no_skin_called(o.like);
        out.skin = skin->id;
    }
    if (!o.like_colour.empty()) {
        unsigned r = 0, g = 0, b = 0;
        char more = 0;
        if (o.like_colour.size() != 7 || std::sscanf(o.like_colour.c_str(), "#%2x%2x%2x%c", &r, &g, &b, &more) != 3)
            return bad("'" + o.like_colour + "' is no colour; write it as #c9967f.");
        out.colour =
            Colour{static_cast<std::uint8_t>(r), static_cast<std::uint8_t>(g), static_cast<std::uint8_t>(b), 255};
    }
    if (!o.like_picture.empty()) {
        const auto bytes = read_file(o.like_picture);
        if (!bytes) return bytes.error();
        const std::string_view view = bytes->view();
        const auto tone = reference_tone(*state.kit, Image{file_name(o.like_picture), {}, {view.begin(), view.end()}},
                                         terminal_progress());
        if (!tone) return tone.error();
        out.colour = *tone;
    }
    return out;
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
    layers->add_option(
        "--glb", o->glb,
        "Write the base wearing the skin, with the project's morphs; normals and occlusion in it with --map");
    layers->add_option("--wear", o->wear, "Put another subject's skin on top: SUBJECT, or 'SUBJECT, SKIN'");
    layers->add_flag("--wear-mix", o->wear_mix,
                     "Put the skins of those on top whose shapes the bank mixes, as it does");
    layers->add_option("--bring", o->bring, "Put a skin of another project on top, of whatever base that has");
    layers->add_option("--bring-subject", o->bring_subject, "Whose; else its current subject's");
    layers->add_option("--bring-skin", o->bring_skin, "Which of their skins; else the current one");
    layers->add_option("--bring-kit", o->bring_kit, "Put on top what the base in this kit's folder wears");
    layers->add_option("--only-in", o->only_in, "Show the topmost layer (or --layer) in this region; 'all' again");
    layers->add_option("--layer", o->layer, "Which layer --only-in means");
    layers->add_option("--stage", o->stage, "The stage that what is added belongs to; made where it is not there");
    layers->add_option("--expression", o->expression, "Of the kit, that the stage belongs to");
    layers->add_option("--stage-fit", o->stage_fit, "The subject's fit of that expression's scan, for its relief");
    layers->add_flag("--stages", o->stages, "Write the stages' maps too; in a GLB they are variants");
    layers->add_flag("--all-skins", o->all_skins, "The same for the subject's other skins: their colours");
    layers->add_option("--kit-out", o->kit_out, "Write the kit with the skin in place of its own pictures");
    layers->callback([o, &output, &exit_code] { exit_code = run(*o, output, nullptr); });

    auto c = std::make_shared<LayersOptions>();
    auto* clean = skin.add_subcommand("clean", "Bake a skin's layers again without light, hair and caps");
    add_common(clean, c);
    clean->add_option("--layer", c->layer, "Only this layer");
    clean
        ->add_option("--light-out", c->light_out,
                     "How much of the light, cast shadows too, goes out, 0 to 1; 1 when it is not said")
        ->check(CLI::Range(0.0, 1.0));
    clean->add_option("--shine-out", c->shine_out, "How much of the highlights goes out, 0 to 1")
        ->check(CLI::Range(0.0, 1.0));
    clean->add_flag("--not-skin-too", c->not_skin_too, "Leave hair, caps and the like in");
    clean->add_flag("--no-brows", c->no_brows, "Take brows and beard out too");
    clean->add_flag("--no-mirror", c->no_mirror, "Fill from the base's skin only, not from the other side");
    clean->add_flag("--own-grain", c->own_grain, "What is filled gets the person's own grain");
    clean->add_option("--half", c->half, "Take only this half, the person's own, and fill the other from it")
        ->check(CLI::IsMember({"both", "left", "right"}));
    clean->callback([c, &output, &exit_code] {
        exit_code = run(*c, output, with_recipe(*c, [c](LayerRecipe& r) {
            r.light_out = c->light_out, r.shine_out = c->shine_out;
            r.leave_out_not_skin = !c->not_skin_too, r.keep_brows = !c->no_brows;
            r.fill_mirrored = !c->no_mirror, r.own_grain = c->own_grain;
            for (const SkinHalf half : kSkinHalves) {
                if (c->half == skin_half_name(half)) r.half = half;
            }
        }));
    });

    auto m = std::make_shared<LayersOptions>();
    auto* match = skin.add_subcommand(
        "match", "Bring a skin's layers to the tone of the base's own, or of another, region by region");
    add_common(match, m);
    match->add_option("--layer", m->layer, "Only this layer");
    match->add_option("--amount", m->amount, "How far, 0 to 1; 1 when it is not said")->check(CLI::Range(0.0, 1.0));
    match->add_option("--like", m->like, "Another skin of the project: SUBJECT, or 'SUBJECT, SKIN'");
    match->add_option("--like-colour", m->like_colour, "What the face is to look like on the average, as #rrggbb");
    match->add_option("--like-picture", m->like_picture, "The same from the face in a picture");
    match->callback([m, &output, &exit_code] {
        exit_code = run(*m, output, [m](const ProjectState& state, LayeredSkin& skin) -> Status {
            const auto like = tone_like_of(*m, state);
            if (!like) return like.error();
            return with_recipe(*m, [&](LayerRecipe& r) { r.tone = m->amount, r.tone_like = *like; })(state, skin);
        });
    });
}

}  // namespace veld::cli
