// What a project keeps, record by record: packed as JSON and blobs, and read again.
#include <catch2/catch.hpp>

#include "core/landmark/photo_marks.h"
#include "core/mesh/mesh.h"
#include "core/morph/morph.h"
#include "core/project/records/photo_record.h"
#include "core/project/state_json.h"
#include "core/rig/pose.h"
#include "core/skin/layers.h"
#include "core/touchup/layer.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

Source full_source() {
    Source s;
    s.name = "cube", s.path = "/scans/cube.obj";
    s.mesh = std::make_shared<Mesh>(decorated_cube());
    s.unit = Unit::Inch;
    s.landmarks.points["pronasale"] = Vec3(1, 2, 3);
    s.landmarks.trust["pronasale"].expected_mm = 1.5;
    s.notes = {"a note"};
    s.shown_unit = Unit::Inch, s.up = UpAxis::PlusZ, s.unit_reason = "said by the user", s.up_reason = "guessed";
    s.upright.scale = 25.4, s.upright.translation = Vec3(0, 1500, 0);
    s.ignored = std::make_shared<VertexMask>(s.mesh->positions.size(), 1);
    s.not_skin = std::make_shared<VertexMask>(s.mesh->positions.size(), 0);
    s.recipe = {{Tool::Smooth, {{"strength", 0.25}}, {}}};
    s.recipe_said = {"Smoothed."};
    s.stamp = "12:34";
    return s;
}

PhotoSet full_photo_set() {
    PhotoSet out{"portraits", std::make_shared<std::vector<Image>>(std::vector<Image>{
                                  {"front.jpg", "image/jpeg", {1, 2, 3}}, {"side.jpg", "image/jpeg", {4, 5}}})};
    out.marks.resize(2);
    out.marks[1].width = 64, out.marks[1].height = 48;
    out.marks[1].points["pronasale"] = Vec2(20.5, 30.25);
    PhotoHeadSettings settings;
    settings.eyes_mm = 61.5;
    settings.lenses.resize(2);
    out.settings = std::make_shared<const PhotoHeadSettings>(settings);
    return out;
}

FitRecord full_fit(const Source& source) {
    const BaseKit& kit = *demo_kit();
    FitRecord f;
    f.name = "head fit", f.source = source.name, f.source_id = source.id;
    f.fitted = std::make_shared<Points>(kit.mesh.positions);
    auto touched = std::make_shared<Points>(kit.mesh.positions);
    auto layer = std::make_shared<TouchLayer>();
    layer->vertex = {3, 9}, layer->move = {Vec3(0, 0, 1), Vec3(0.5, 0, 0)}, layer->amount = 0.5;
    (*touched)[3].z() += 0.5, (*touched)[9].x() += 0.25;
    f.positions = touched, f.touch = layer, f.figures_old = true;
    f.distances = std::make_shared<std::vector<float>>(kit.mesh.positions.size(), 0.5f);
    f.source_to_kit.scale = 25.4, f.size_ratio = 0.97;
    f.settings.smooth_end_mm = 3;
    f.figures.coverage = 0.5;
    f.notes = {"look at the ear"};
    f.pose = rest_pose(kit.joints);
    f.pose->move = Vec3(0, 12, 0), f.pose->lids = {0.5, 1};
    f.guessed = std::make_shared<std::vector<float>>(kit.mesh.positions.size(), 2.5f);
    f.landmarks = source.landmarks;
    f.ignored = source.ignored;
    auto photo = std::make_shared<PhotoRecord>();
    photo->settings.one_lens = true;
    photo->photos.resize(1);
    photo->photos[0].name = "front.jpg", photo->photos[0].camera = PhotoCamera{};
    photo->z = {0.25, -1};
    photo->solved = std::make_shared<Points>(kit.mesh.positions);
    photo->hand = {{{"nose", HandMove::Forward, 2.5}}, {0}};
    photo->seen_by.assign(kit.mesh.positions.size(), 2);
    f.photo = photo;
    return f;
}

ProjectState full_state() {
    ProjectState s = new_project(demo_kit());
    const Source source = full_source();
    FitRecord first = full_fit(source), second = first;
    second.name = "head fit 2", second.id = FitId::make();
    s.subjects.push_back({"Ottoline", {source}, {first, second}, {full_photo_set()}});
    s.subjects.back().current_fit = 0;
    Points shape = demo_kit()->mesh.positions;
    shape[100] += Vec3(0, 5, 0);
    s.bank.push_back({std::make_shared<Morph>(*make_morph(*demo_kit(), shape, "one")), 0.5, true, false, true});
    s.mix_a = MixSetting{{{"one", 0.75}}, {}};
    SentFile sent;
    sent.file = "/exchange/base.obj", sent.stamp = "56:78", sent.topology = demo_kit()->topology_key;
    sent.shape = std::make_shared<Points>(shape);
    s.sent = {sent};
    return s;
}

Result<ProjectState> read_again(const Json& json, const std::map<std::string, std::string>& blobs) {
    const auto bytes = [&](const std::string& id, std::string& out) {
        const auto at = blobs.find(id);
        if (at != blobs.end()) out = at->second;
        return at != blobs.end();
    };
    return unpack_state(json, demo_kit(), BlobReader(bytes, "here.veldstone"));
}

}  // namespace

TEST_CASE("Records: what is packed is read again, to the last bit") {
    const ProjectState before = full_state();
    std::map<std::string, std::string> blobs;
    const Json json = pack_state(before, "/tmp", blobs);
    const auto read = read_again(json, blobs);
    REQUIRE(read);
    const Subject &a = before.subjects[0], &b = read->subjects[0];
    CHECK(b.id == a.id);
    CHECK(b.current_fit == 0);

    const Source &s = a.sources[0], &t = b.sources[0];
    CHECK(t.id == s.id);
    CHECK(t.mesh->positions == s.mesh->positions);
    CHECK(t.landmarks == s.landmarks);
    CHECK(*t.ignored == *s.ignored);
    CHECK(*t.not_skin == *s.not_skin);
    CHECK(t.recipe == s.recipe);
    CHECK(t.upright == s.upright);
    CHECK((t.unit == s.unit && t.up == s.up && t.up_reason == s.up_reason && t.stamp == s.stamp));

    const PhotoSet &p = a.photo_sets[0], &q = b.photo_sets[0];
    CHECK(q.id == p.id);
    REQUIRE(q.photos->size() == 2);
    CHECK(q.photos->back().bytes == p.photos->back().bytes);
    CHECK(q.marks == p.marks);
    CHECK(*q.settings == *p.settings);

    const FitRecord &f = a.fits[0], &g = b.fits[0];
    CHECK((g.id == f.id && g.source_id == f.source_id));
    CHECK(*g.positions == *f.positions);
    CHECK(*g.fitted == *f.fitted);
    CHECK(*g.touch == *f.touch);
    CHECK(g.pose == f.pose);
    CHECK(*g.guessed == *f.guessed);
    CHECK(g.settings == f.settings);
    CHECK(g.figures.coverage == f.figures.coverage);
    CHECK(g.ignored == t.ignored);  // shared again: the source has not changed since
    CHECK(g.photo->settings == f.photo->settings);
    CHECK(g.photo->z == f.photo->z);
    CHECK(g.photo->hand == f.photo->hand);
    CHECK(g.photo->photos[0].camera == f.photo->photos[0].camera);
    CHECK(g.photo->seen_by == f.photo->seen_by);

    CHECK(*read->bank[0].morph == *before.bank[0].morph);
    CHECK((read->bank[0].muted && !read->bank[0].solo && read->bank[0].favourite));
    CHECK(read->mix_a == before.mix_a);
    CHECK(*read->sent[0].shape == *before.sent[0].shape);
    // and packed again it is the same text
    std::map<std::string, std::string> again;
    CHECK(pack_state(*read, "/tmp", again) == json);
    CHECK(again == blobs);
}

TEST_CASE("Records: arrays that are missing or cut short are said, whichever it is") {
    std::map<std::string, std::string> blobs;
    const Json json = pack_state(full_state(), "/tmp", blobs);
    REQUIRE(blobs.size() > 12);
    for (const auto& [id, whole] : blobs) {
        auto some = blobs;
        some.erase(id);
        const auto missing = read_again(json, some);
        REQUIRE_FALSE(missing);
        CHECK(missing.error().code == ErrorCode::BadFile);
        CHECK(missing.error().message.find("here.veldstone") != std::string::npos);
        some[id] = whole.substr(0, whole.size() - 1);
        const auto cut = read_again(json, some);  // an encoded picture may be cut: nobody looks into it here
        if (!cut) CHECK(cut.error().code == ErrorCode::BadFile);
        if (whole.size() > 16) CHECK_FALSE(cut);
    }
}

TEST_CASE("Records: projects of earlier programs are read on") {
    std::map<std::string, std::string> blobs;
    Json json = pack_state(full_state(), "/tmp", blobs);
    Json& subject = json["subjects"][0];
    SECTION("the current fit under its earlier name") {
        subject["chosen_fit"] = 0;
        subject.erase("current_fit");
        const auto read = read_again(json, blobs);
        REQUIRE(read);
        CHECK(read->subjects[0].current_fit == 0);
    }
    SECTION("a picture that a fit wore is a skin of one layer now") {
        const std::vector<std::uint8_t> png = encode_png({16, 16, std::vector<std::uint8_t>(16 * 16 * 4, 90)});
        blobs["skin"] = {png.begin(), png.end()};
        subject["fits"][1]["skin"] = {{"name", "skin.png"}, {"mime", "image/png"}, {"bytes", "skin"},
                                      {"kit_image", 0},     {"from_photos", 0.5},  {"mirrored", 0.25},
                                      {"from_base", 0.25}};
        subject["current_fit"] = 1;
        const auto read = read_again(json, blobs);
        REQUIRE(read);
        const Subject& now = read->subjects[0];
        REQUIRE(now.skins.size() == 1);
        CHECK(now.skin()->name == "head fit 2");
        CHECK(now.skin()->size == 16);
        REQUIRE(now.skin()->layers.size() == 1);
        REQUIRE(now.skin()->layers[0].tiles.size() == 1);
        CHECK(now.skin()->layers[0].tiles.begin()->second.picture->bytes == png);
        blobs.erase("skin");
        CHECK(read_again(json, blobs).error().code == ErrorCode::BadFile);
    }
    SECTION("without ids: each gets one, and a fit finds its source by name") {
        subject.erase("id");
        for (const char* list : {"sources", "fits", "photo_sets"}) {
            for (Json& one : subject[list]) one.erase("id");
        }
        for (Json& fit : subject["fits"]) fit.erase("source_id"), fit.erase("photo");
        const auto read = read_again(json, blobs);
        REQUIRE(read);
        CHECK(read->subjects[0].fits[0].source_id == read->subjects[0].sources[0].id);
        CHECK(read->subjects[0].fits[0].id != read->subjects[0].fits[1].id);
    }
    SECTION("two objects of one id are a damage") {
        subject["fits"][1]["id"] = subject["fits"][0]["id"];
        const auto read = read_again(json, blobs);
        REQUIRE_FALSE(read);
        CHECK(read.error().code == ErrorCode::BadFile);
    }
    SECTION("JSON that is no project throws nothing") {
        for (const char* key : {"version", "topology", "settings", "subjects", "bank", "base_points"}) {
            Json bad = json;
            bad[key] = "nonsense";
            CHECK_FALSE(read_again(bad, blobs));
            bad.erase(key);
            CHECK_FALSE(read_again(bad, blobs));
        }
    }
}
