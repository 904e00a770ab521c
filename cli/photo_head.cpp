// veldstone-cli photo-head: a head on the base mesh from photographs; photo-blend: two such people as one.
#include <algorithm>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/own_order.h"
#include "core/morph/morph_file.h"
#include "core/photo/by_hand.h"
#include "core/photo/look_at_photos.h"
#include "core/skin/blend_skins.h"
#include "core/skin/photo_colours.h"

namespace veld::cli {
namespace {

struct PhotoHeadOptions {
    std::string kit, out, report, skin, settings;
    std::vector<std::string> photos, marks, heads;
    std::vector<double> focal;
    std::vector<int> face;
    bool from_data = false, one_lens = false, parallel = false;
    int skin_size = 2048;
    double eyes_mm = 0;
};

Result<std::vector<Image>> read_images(const std::vector<std::string>& paths) {
    std::vector<Image> out;
    for (const std::string& path : paths) {
        auto bytes = read_file(path);
        if (!bytes) return bytes.error();
        const auto view = bytes->view();
        out.push_back({file_name(path), {}, {view.begin(), view.end()}});
    }
    return out;
}

Result<PhotoHeadSettings> settings_of(const PhotoHeadOptions& o) {
    PhotoHeadSettings out;
    if (!o.settings.empty()) {
        auto bytes = read_file(o.settings);
        if (!bytes) return bytes.error();
        auto read = parse_photo_head_settings(bytes->view(), "'" + o.settings + "'");
        if (!read) return read.error();
        out = std::move(*read);
    }
    out.one_lens |= o.one_lens;
    if (o.eyes_mm > 0) out.eyes_mm = o.eyes_mm;
    out.lenses.resize(std::max(out.lenses.size(), o.photos.size()));
    for (std::size_t i = 0; i < o.photos.size(); ++i) {
        PhotoLens& lens = out.lenses[i];
        if (o.from_data) lens.from = PhotoLens::From::Data;
        if (o.parallel) lens.parallel = true;
        if (i < o.focal.size() && o.focal[i] > 0) lens.from = PhotoLens::From::Typed, lens.focal_35mm = o.focal[i];
    }
    return out;
}

Json camera_json(const PhotoCamera& c) {
    Json turn = Json::array();
    for (int i = 0; i < 9; ++i) turn.push_back(c.turn(i / 3, i % 3));
    const HeadTurn head = head_turn(c);
    return {{"width", c.width},       {"height", c.height},
            {"focal_px", c.focal},    {"focal_35mm", c.focal_35mm()},
            {"parallel", c.parallel}, {"centre", {c.centre.x(), c.centre.y()}},
            {"turn", turn},           {"move", {c.move.x(), c.move.y(), c.move.z()}},
            {"yaw", head.yaw},        {"pitch", head.pitch},
            {"roll", head.roll}};
}

Json photo_json(const PhotoReport& r, const PhotoFigures& f) {
    Json remarks = Json::array();
    for (const PhotoRemark& m : r.remarks)
        remarks.push_back({{"about", m.about},
                           {"grade", photo_grade_name(m.grade)},
                           {"says", m.says},
                           {"costs", m.costs},
                           {"better", m.better}});
    Json j = {{"name", r.name}, {"grade", photo_grade_name(r.grade)}, {"remarks", remarks}, {"eyes_px", r.eyes_px},
              {"blur", r.blur}, {"focal_35mm_said", r.focal_35mm}};
    if (!f.camera) return j;
    j["camera"] = camera_json(*f.camera), j["distance_mm"] = f.distance_mm;
    j["landmarks"] = f.landmarks, j["landmark_rms_mm"] = f.landmark_rms_mm, j["landmark_max_mm"] = f.landmark_max_mm,
    j["landmark_share_of_eyes"] = f.landmark_share;
    j["curve_rms_mm"] = f.curve_rms_mm, j["outline_points"] = f.outline_points, j["outline_rms_mm"] = f.outline_rms_mm,
    j["landmark_mm"] = f.landmark_mm;
    return j;
}

// The tile of which the photographs show most: the head's.
Status write_skin(const BaseKit& kit, const PhotoHead& fit, const std::vector<LookedAt>& looked,
                  const PhotoHeadOptions& o, Json& json, std::string& text) {
    std::vector<std::optional<PhotoCamera>> cameras;
    for (const PhotoFigures& f : fit.photos) cameras.push_back(f.camera);
    BakeSettings settings;
    settings.size = o.skin_size, settings.maps = {SkinMap::Colour};
    settings.light_out = 1, settings.colours_tell = settings.fill_mirrored = true;
    std::ptrdiff_t most = 0;
    BakedTile head;
    const auto take = [&](BakedTile&& tile) -> Status {
        const auto seen = std::count_if(tile.found.begin(), tile.found.end(), [](std::uint8_t f) {
            return static_cast<Found>(f) == Found::Along || static_cast<Found>(f) == Found::Closest;
        });
        if (seen > most) most = seen, head = std::move(tile);
        return Done{};
    };
    const auto report =
        bake_photos(kit, fit.positions, skin_photos(looked, cameras), settings, take, terminal_progress());
    if (!report) return report.error();
    if (most == 0)
        return Error{ErrorCode::BadInput,
                     "No photograph shows the head's skin; no skin was written. Look at their "
                     "grades, or mark them by hand."};
    const auto png = encode_png(map_pixels(head.maps.at(SkinMap::Colour)));
    if (auto ok = write_file(o.skin, std::string(png.begin(), png.end())); !ok) return ok;
    const ReachedShares shares = where_it_reaches(*report);
    const double base = 1 - shares.seen - shares.mirrored;
    json["skin"] = {{"tile", head.tile.name},
                    {"from_photos", shares.seen},
                    {"mirrored", shares.mirrored},
                    {"from_base", base},
                    {"notes", report->notes}};
    char line[160];
    std::snprintf(line, sizeof line, "skin: %.0f %% from photographs, %.0f %% mirrored, %.0f %% from the base\n",
                  100 * shares.seen, 100 * shares.mirrored, 100 * base);
    text += line;
    return Done{};
}

int run(const PhotoHeadOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    auto images = read_images(o.photos);
    if (!images) return output.refuse(images.error());
    if (std::max({o.marks.size(), o.focal.size(), o.face.size()}) > o.photos.size())
        return output.refuse({ErrorCode::BadInput,
                              "There are more --marks, --focal or --face than photographs. Give one for each, in the "
                              "photographs' order."});
    auto settings = settings_of(o);
    if (!settings) return output.refuse(settings.error());
    std::vector<PhotoMarks> marks(images->size());
    for (std::size_t i = 0; i < o.marks.size() && i < marks.size(); ++i) {
        if (o.marks[i] == "-") continue;
        auto bytes = read_file(o.marks[i]);
        if (!bytes) return output.refuse(bytes.error());
        auto read = parse_photo_marks(bytes->view(), o.marks[i]);
        if (!read) return output.refuse(read.error());
        marks[i] = std::move(*read);
    }
    std::vector<Morph> heads;
    for (const std::string& path : o.heads) {
        auto read = read_morph(path, *kit);
        if (!read) return output.refuse(read.error());
        heads.push_back(std::move(*read));
    }
    std::vector<const Morph*> known;
    for (const Morph& m : heads) known.push_back(&m), settings->heads.push_back(m.name);
    ShapeSpaceOptions space_options;
    space_options.neck_band_mm = settings->neck_band_mm;
    const auto deltas = whole_deltas(*kit, known);
    if (!deltas) return output.refuse(deltas.error());
    const auto space = make_shape_space(*kit, *deltas, space_options);
    if (!space) return output.refuse(space.error());
    LookOptions look;
    look.space = &*space;
    for (const int f : o.face) look.face.push_back(f - 1);
    auto looked = look_at_photos(*kit, *images, marks, look, terminal_progress());
    if (!looked) return output.refuse(looked.error());
    for (const LookedAt& l : *looked) {
        if (l.which_face)
            return output.refuse({ErrorCode::BadInput, "'" + l.photo.name + "' shows " +
                                                           std::to_string(l.found->faces.size()) +
                                                           " faces of nearly one size. Say which with --face (1 is "
                                                           "the largest; one number for each photograph)."});
    }
    PhotoHeadInput in;
    in.kit = &*kit, in.space = &*space, in.photos = views_of(*looked), in.settings = *settings;
    const auto fit = fit_photos(in, terminal_progress());
    if (!fit) return output.refuse(fit.error());
    if (auto ok = export_shape_obj(*kit, fit->positions, "Base mesh from photographs; in the kit's frame", o.out); !ok)
        return output.refuse(ok.error());
    Json json = {{"photos", Json::array()},
                 {"figures", Json::parse(figures_text(fit->figures))},
                 {"notes", fit->notes},
                 {"seconds", fit->seconds},
                 {"settings", Json::parse(photo_head_settings_text(*settings))}};
    for (const auto& [region, share] : fit->region_seen)
        json["seen"][region] = {{"by_none", share[0]}, {"by_one", share[1]}, {"by_more", share[2]}};
    std::string text;
    for (std::size_t i = 0; i < fit->photos.size(); ++i) {
        const PhotoFigures& f = fit->photos[i];
        json["photos"].push_back(photo_json((*looked)[i].report, f));
        char line[256];
        if (f.camera)
            std::snprintf(
                line, sizeof line,
                "%s (%s): %.0f mm lens, %.0f cm away, turned %.0f degrees; landmarks %.2f mm rms, outline %.2f mm\n",
                f.name.c_str(), photo_grade_name((*looked)[i].report.grade), f.camera->focal_35mm(),
                f.distance_mm / 10, head_turn(*f.camera).yaw, f.landmark_rms_mm, f.outline_rms_mm);
        else
            std::snprintf(line, sizeof line, "%s: left out\n", f.name.c_str());
        text += line;
        for (const PhotoRemark& m : (*looked)[i].report.remarks) {
            if (m.grade != PhotoGrade::Good) text += "  " + m.says + ": " + m.costs + ". " + m.better + "\n";
        }
    }
    for (const std::string& note : fit->notes) text += note + "\n";
    if (!o.skin.empty()) {
        if (auto ok = write_skin(*kit, *fit, *looked, o, json, text); !ok) return output.refuse(ok.error());
    }
    if (!o.report.empty()) {
        if (auto ok = write_file(o.report, json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"); !ok)
            return output.refuse(ok.error());
    }
    output.result(json, text);
    return 0;
}

struct BlendOptions {
    std::string kit, a, b, out, skin_a, skin_b, skin;
    double share = 0.5;
};

int blend(const BlendOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    Points shapes[2];
    for (int k = 0; k < 2; ++k) {
        const std::string& path = k == 0 ? o.a : o.b;
        auto shape = read_base_shape(*kit, path);
        if (!shape) return output.refuse(shape.error());
        shapes[k] = std::move(*shape);
    }
    const Points blended = blend_people(*kit, shapes[0], shapes[1], o.share);
    if (auto ok = export_shape_obj(*kit, blended, "Two people blended; in the kit's frame", o.out); !ok)
        return output.refuse(ok.error());
    Json json = {{"written", o.out}, {"share", o.share}};
    if (!o.skin.empty()) {
        Result<Pixels> skins[2]{Error{}, Error{}};
        for (int k = 0; k < 2; ++k) {
            auto images = read_images({k == 0 ? o.skin_a : o.skin_b});
            if (!images) return output.refuse(images.error());
            skins[k] = decode_image(images->front());
            if (!skins[k]) return output.refuse(skins[k].error());
        }
        const auto both = blend_skins(*skins[0], *skins[1], o.share);
        if (!both) return output.refuse(both.error());
        const auto png = encode_png(*both);
        if (auto ok = write_file(o.skin, std::string(png.begin(), png.end())); !ok) return output.refuse(ok.error());
        json["skin"] = o.skin;
    }
    output.result(json, "written to '" + o.out + "'\n");
    return 0;
}

}  // namespace

void add_photo_head(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("photo-head", "Make a head on the kit's base mesh from photographs");
    auto o = std::make_shared<PhotoHeadOptions>();
    command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    command->add_option("--photo", o->photos, "Photograph (JPEG, PNG, TIFF, HEIC); again for each")->required();
    command->add_option("--marks", o->marks,
                        "Marks of the photographs (as 'detect' writes them), in their order; - leaves one to be "
                        "found. What the network finds joins them");
    command->add_option("--out", o->out, "Where the head is written (OBJ, order of the base)")->required();
    command->add_option("--report", o->report, "Write cameras, figures and the photographs' grades to this JSON file");
    command->add_option("--skin", o->skin, "Write the photographs as a skin (PNG of the head's tile) here");
    command->add_option("--skin-size", o->skin_size, "Texels of its side")->check(CLI::Range(64, 8192));
    command->add_option("--focal", o->focal,
                        "Focal lengths on 35 mm film, in the photographs' order; 0 leaves one as its file says");
    command
        ->add_option("--eyes-mm", o->eyes_mm,
                     "Distance between the pupils, when it was measured: photographs do not tell how large a head is")
        ->check(CLI::Range(20.0, 200.0));
    command->add_option("--face", o->face, "Which face of each photograph, 1 is the largest")
        ->check(CLI::Range(1, 99));
    command->add_option("--heads", o->heads,
                        "Morph files that show how heads differ (with 'morph make'); steadies what is not seen");
    command->add_option("--settings", o->settings, "Settings from this JSON file");
    command->add_flag("--lens-from-data", o->from_data, "Do not believe what the files say of their lens");
    command->add_flag("--one-lens", o->one_lens, "All photographs were taken through the same lens");
    command->add_flag("--parallel", o->parallel, "No perspective (a very long lens)");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });

    auto* both = app.add_subcommand("photo-blend", "Blend two people's heads, and their skins, into one");
    auto b = std::make_shared<BlendOptions>();
    both->add_option("A", b->a, "First head (OBJ of the base)")->required();
    both->add_option("B", b->b, "Second head")->required();
    both->add_option("--kit", b->kit, "Folder of the base kit")->required();
    both->add_option("--share", b->share, "0 is the first, 1 the second")->check(CLI::Range(0.0, 1.0));
    both->add_option("--out", b->out, "Where the head is written (OBJ)")->required();
    auto* skin_a = both->add_option("--skin-a", b->skin_a, "The first one's skin");
    auto* skin_b = both->add_option("--skin-b", b->skin_b, "The second one's skin");
    both->add_option("--skin", b->skin, "Where the blended skin is written (PNG)")->needs(skin_a)->needs(skin_b);
    both->callback([b, &output, &exit_code] { exit_code = blend(*b, output); });
}

}  // namespace veld::cli
