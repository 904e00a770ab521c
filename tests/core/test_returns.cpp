// Meshes that come back from other programs: order, parts, frame, subdivision, leftovers.
#include <catch2/catch.hpp>

#include "tests/core/returns_support.h"

TEST_CASE("Returns: each of the demo's sculpts becomes the right shape, or a clear answer") {
    const BaseKit& kit = *demo_kit();
    const Mesh clean = returned("warden_clean");
    const auto check = [&](const std::string& name, bool subtract = false) {
        ReturnOptions options;
        options.subtract_leftovers = subtract;
        auto out = check_return(kit, returned(name), options, {});
        REQUIRE(out);
        return std::move(*out);
    };
    SECTION("clean") {
        const auto c = check("warden_clean");
        CHECK(c.relative);
        CHECK(c.steps.empty());
        CHECK(worst_to(c, clean) == 0);
    }
    SECTION("reordered") {
        const auto c = check("warden_reordered");
        CHECK(says(c, "base's order"));
        CHECK(worst_to(c, clean) < 1e-6);
        CHECK(std::count(c.returned.begin(), c.returned.end(), 1) ==
              static_cast<std::ptrdiff_t>(clean.positions.size()));
    }
    SECTION("scaled, Z up and moved") {
        const auto c = check("warden_scaled_zup");
        CHECK(says(c, "+Z was up"));
        CHECK(says(c, "Scaled by 100"));
        CHECK(says(c, "Moved by"));
        CHECK(worst_to(c, clean) < 0.1);  // how it was moved is known by feet and floor only
    }
    SECTION("subdivided head") {
        const auto c = check("warden_subdivided");
        CHECK(says(c, "one subdivision of the head's skin"));
        CHECK(worst_to(c, clean) < 0.002);  // the file has four decimals
        CHECK(says(c, "Missing: eye_l"));
    }
    SECTION("without lashes, head only") {
        const auto lashes = check("warden_no_lashes");
        CHECK(says(lashes, "Missing: lash_l, lash_r"));
        CHECK(worst_to(lashes, clean) < 1e-6);
        const auto head = check("warden_head_only");
        CHECK(says(head, "In part: skin"));
        CHECK(worst_to(head, clean) < 1e-6);
    }
    SECTION("with a smile left inside") {
        const auto said = check("warden_leftover");
        REQUIRE(said.leftovers.size() == 1);
        CHECK(said.leftovers[0].name == "smile");
        CHECK(said.leftovers[0].amount == Approx(0.6).margin(0.01));
        CHECK(worst_to(said, returned("warden_leftover")) == 0);  // only said
        CHECK(worst_to(check("warden_leftover", true), clean) < 0.05);
    }
    SECTION("tall: nothing is wrong with it") {
        const auto c = check("tall_carrier");
        CHECK(c.relative);
        CHECK(c.steps.empty());
    }
    SECTION("no relative") {
        const auto c = check("unrelated");
        CHECK_FALSE(c.relative);
        REQUIRE(c.steps.size() == 1);
        CHECK(c.steps[0].why.find("source") != std::string::npos);
    }
}

TEST_CASE("Returns: scrambled order is restored for every vertex, whatever was sculpted") {
    const BaseKit& kit = *demo_kit();
    for (unsigned seed = 1; seed <= 4; ++seed) {
        std::vector<Index> was;
        Mesh mesh = shuffled(kit.mesh, seed, was);
        std::mt19937 random(seed);
        std::normal_distribution<double> noise(0, 0.3);
        for (Vec3& p : mesh.positions)
            p += Vec3(noise(random), noise(random), noise(random)) + 0.02 * Vec3(p.y(), 0, p.x());
        std::vector<std::vector<Index>> parts;
        for (const KitPart& p : kit.parts) parts.push_back(p.vertices);
        const auto found = find_correspondence(kit.mesh, mesh, parts);
        REQUIRE(found);
        CHECK(found->faces_confirmed == 1);
        REQUIRE(found->first_of == was);
    }
}

TEST_CASE("Returns: fifty random meshes are put back in order, by UVs and without them") {
    for (unsigned seed = 1; seed <= 50; ++seed) {
        const Mesh mesh = random_sheet(seed);
        std::vector<Index> was;
        Mesh mixed = shuffled(mesh, seed + 100, was);
        INFO("seed " << seed);
        const auto by_uvs = find_correspondence(mesh, mixed, {});
        REQUIRE(by_uvs);
        CHECK(by_uvs->by == FoundBy::Uvs);
        REQUIRE(by_uvs->first_of == was);
        mixed.uvs.clear(), mixed.corner_uv.clear();
        for (Vec3& p : mixed.positions) p += Vec3(50, 3 * std::sin(p.x()), 0);  // places say nothing
        const auto by_faces = find_correspondence(mesh, mixed, {});
        REQUIRE(by_faces);
        CHECK(by_faces->by == FoundBy::Faces);
        REQUIRE(by_faces->first_of == was);
    }
}

TEST_CASE("Returns: the kit without UVs, shuffled, is put back but for pieces that look the same all around") {
    const BaseKit& kit = *demo_kit();
    std::vector<Index> was;
    Mesh mesh = shuffled(kit.mesh, 9, was);
    mesh.uvs.clear(), mesh.corner_uv.clear();
    for (Vec3& p : mesh.positions) p += 0.01 * Vec3(p.y(), 0, p.x());
    const auto found = find_correspondence(kit.mesh, mesh, {});
    REQUIRE(found);
    CHECK(found->by == FoundBy::Faces);
    CHECK(found->matched == mesh.vertex_count());
    std::size_t wrong = 0;
    for (Index v = 0; v < was.size(); ++v)
        wrong +=
            found->first_of[v] != was[v] && !std::binary_search(found->ambiguous.begin(), found->ambiguous.end(), v);
    CHECK(wrong == 0);
    // split by groups: a vertex doubled for every face that it lies on the rim of
    Mesh split = mesh;
    for (Index f = 0; f < split.face_count(); f += 50) {
        for (Index c = split.face_start[f]; c < split.face_start[f + 1]; ++c) {
            split.positions.push_back(split.positions[split.corner_vertex[c]]);
            split.corner_vertex[c] = split.vertex_count() - 1;
        }
    }
    const auto joined = find_correspondence(kit.mesh, split, {});
    REQUIRE(joined);
    CHECK(joined->by == FoundBy::Faces);
    CHECK(joined->matched == split.vertex_count());
    // turned faces are told, and do not hinder
    Mesh turned = mesh;
    for (Index f = 0; f < turned.face_count(); ++f)
        std::reverse(turned.corner_vertex.begin() + turned.face_start[f],
                     turned.corner_vertex.begin() + turned.face_start[f + 1]);
    const auto inside_out = find_correspondence(kit.mesh, turned, {});
    REQUIRE(inside_out);
    CHECK(inside_out->matched == mesh.vertex_count());
    CHECK(inside_out->faces_turned > 0.99);
}

TEST_CASE("Returns: triangulated without UVs, the vertices are found where they lie") {
    const BaseKit& kit = *demo_kit();
    Mesh mesh;
    for (const Vec3& p : kit.mesh.positions) mesh.positions.insert(mesh.positions.begin(), p);  // backwards
    const auto last = static_cast<Index>(mesh.positions.size() - 1);
    for (const Triangle& t : kit.triangulation.triangles) {
        for (const Index v : t) mesh.corner_vertex.push_back(last - v);
        mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    }
    mesh.positions[last - 500] += Vec3(0, 0.1, 0);
    const auto c = check_return(kit, mesh, {}, {});
    REQUIRE(c);
    REQUIRE(c->relative);
    CHECK(says(*c, "base's order"));
    CHECK(c->positions[500].y() == Approx(kit.mesh.positions[500].y() + 0.1).margin(1e-9));
}

TEST_CASE("Returns: what was sent comes back, whatever the stand-in did to it") {
    const BaseKit& kit = *demo_kit();
    Scratch scratch;
    const Morph smile = *make_morph(kit, kit.expressions.at("smile"), "smile");
    SendOptions options;
    options.unit = Unit::Centimetre, options.up = UpAxis::PlusZ;
    const auto go = [&](const std::vector<std::string>& harm, const std::string& ending,
                        const std::vector<MorphAmount>& on, Points& truth) {
        const std::string path = scratch / ("base" + ending);
        auto sent = send_out(kit, options, on, path);
        REQUIRE(sent);
        auto file = read_mesh(path);
        REQUIRE(file);
        const Points before = file->mesh.positions;
        REQUIRE(sculpt(file->mesh, "nose", 3, 1));
        // the truth in the base's frame, vertex by vertex of what went out whole
        truth = kit.mesh.positions;
        const double unit = millimetres(sent->options.unit);
        const Mat3 turn = rotation_to_y_up(sent->options.up);
        if (options.scope == SendScope::Whole && options.parts_off.empty() && options.level == 0 && ending == ".obj") {
            for (Index v = 0; v < truth.size(); ++v) truth[v] += unit * (turn * (file->mesh.positions[v] - before[v]));
        }
        for (const std::string& name : harm) REQUIRE(damage(file->mesh, name, 3));
        ReturnOptions given;
        given.sent = &*sent;
        auto checked = check_return(kit, file->mesh, given, {});
        REQUIRE(checked);
        REQUIRE(checked->relative);
        return std::move(*checked);
    };
    Points truth;
    for (const char* harm :
         {"", "reorder", "split", "inside-out", "lose-part", "groups-lost", "turn", "metres", "mirror"}) {
        INFO(harm);
        const auto c = go(*harm ? std::vector<std::string>{harm} : std::vector<std::string>{}, ".obj", {}, truth);
        double worst = 0;
        for (Index v = 0; v < truth.size(); ++v) {
            if (c.returned[v]) worst = std::max(worst, (c.positions[v] - truth[v]).norm());
        }
        CHECK(worst < 1.1e-3);  // less than the noise that is set back
    }
    SECTION("exactly, when nothing is set back") {
        auto sent = send_out(kit, options, {}, scratch / "exact.obj");
        auto file = read_mesh(scratch / "exact.obj");
        const Points before = file->mesh.positions;
        REQUIRE(sculpt(file->mesh, "jaw", 1, 1));
        ReturnOptions given;
        given.sent = &*sent, given.noise_mm = 0;
        const auto c = check_return(kit, file->mesh, given, {});
        REQUIRE(c);
        for (Index v = 0; v < before.size(); ++v)
            REQUIRE((c->positions[v] - kit.mesh.positions[v] -
                     10 * (rotation_to_y_up(UpAxis::PlusZ) * (file->mesh.positions[v] - before[v])))
                        .norm() < 1e-6);
    }
    SECTION("morphs that were on are taken out, and a morph that it was meant for takes the sculpt up") {
        const auto c = go({"reorder"}, ".obj", {{&smile, 0.5}}, truth);
        CHECK(says(c, "Taken out: 0.5 of 'smile'"));
        CHECK(c.leftovers.empty());
        double worst = 0;
        for (Index v = 0; v < truth.size(); ++v) worst = std::max(worst, (c.positions[v] - truth[v]).norm());
        CHECK(worst < 1.1e-3);
        SentFile sent;
        sent.morphs = {{"smile", 0.5}};
        ReturnOptions given;
        given.sent = &sent;
        const auto updated = updated_morph(kit, smile, c, given);
        REQUIRE(updated);
        // at the amount that it went out with, the new one shows what came back
        const Points shown = mix_morphs(kit.mesh.positions, {{&*updated, 0.5}}),
                     went = mix_morphs(kit.mesh.positions, {{&smile, 0.5}});
        for (Index v = 0; v < truth.size(); ++v)
            REQUIRE((shown[v] - (went[v] + c.positions[v] - kit.mesh.positions[v])).norm() < 1e-3);
    }
    SECTION("in a pose, and subdivided, and as GLB") {
        options.pose = rest_pose(kit.joints);
        for (std::size_t j = 0; j < kit.joints.size(); ++j) {
            if (kit.joints[j].name == "upper_arm_l")
                options.pose->turns[j] = Eigen::AngleAxisd(0.6, Vec3::UnitZ()).toRotationMatrix();
        }
        const auto posed = go({}, ".obj", {}, truth);
        CHECK(says(posed, "Pose taken out"));
        for (const Index v : kit.region("hand_l")) REQUIRE((posed.positions[v] - kit.mesh.positions[v]).norm() < 0.02);
        options.pose.reset();
        const auto glb = go({"groups-lost"}, ".glb", {}, truth);
        CHECK(says(glb, "joined"));
        for (const Index v : kit.region("foot_l")) REQUIRE((glb.positions[v] - kit.mesh.positions[v]).norm() < 1e-3);
        options.level = 1, options.scope = SendScope::Head;
        const auto fine = go({}, ".obj", {}, truth);
        CHECK(says(fine, "one subdivision of the head"));
        for (const Index v : kit.region("ear_l")) REQUIRE((fine.positions[v] - kit.mesh.positions[v]).norm() < 0.01);
    }
    SECTION("parts and regions alone; what is not there is refused") {
        options.scope = SendScope::Region, options.of = "face";
        const auto face = go({"reorder"}, ".ply", {}, truth);
        CHECK(std::count(face.returned.begin(), face.returned.end(), 1) ==
              static_cast<std::ptrdiff_t>(piece_to_send(kit, options, kit.mesh.positions)->vertex.size()));
        options.scope = SendScope::Part, options.of = "tongue";
        CHECK(go({}, ".obj", {}, truth).relative);
        options.of = "wing";
        CHECK_FALSE(send_out(kit, options, {}, scratch / "x.obj"));
        options.of = "tongue", options.parts_off = {"tongue"};
        CHECK_FALSE(send_out(kit, options, {}, scratch / "x.obj"));
        CHECK_FALSE(send_out(kit, {}, {}, scratch / "x.fbx"));
        CHECK_FALSE(send_out(kit, {}, {}, "/proc/none/x.obj"));
    }
    SECTION("the memory beside the file is read again; a damaged one says so") {
        options.level = 2, options.parts_off = {"lash_l"};
        auto sent = send_out(kit, options, {{&smile, 0.25}}, scratch / "m.obj");
        const auto again = read_sidecar(scratch / "m.obj", kit);
        REQUIRE(again);
        REQUIRE(again->has_value());
        CHECK((*again)->options == sent->options);
        CHECK((*again)->morphs == sent->morphs);
        REQUIRE(write_file(scratch / "m.obj.sent.json", "{\"format\":\"veld"));
        CHECK_FALSE(read_sidecar(scratch / "m.obj", kit));
        CHECK_FALSE(read_sidecar(scratch / "none.obj", kit)->has_value());
    }
}

TEST_CASE("Returns: a head alone is set on the neck in both ways") {
    const BaseKit& kit = *demo_kit();
    const Mesh head = returned("warden_head_only");
    for (const Seat seat : {Seat::AsItLies, Seat::HeadToNeck, Seat::NeckToHead}) {
        ReturnOptions options;
        options.seat = seat;
        const auto c = check_return(kit, head, options, {});
        REQUIRE(c);
        CHECK(says(*c, seat == Seat::AsItLies     ? "does not sit on the neck"
                       : seat == Seat::HeadToNeck ? "Head moved to the neck"
                                                  : "Neck brought to the head"));
        if (seat == Seat::HeadToNeck) CHECK(seat_gap(kit, c->positions).worst < 1e-9);
    }
}

TEST_CASE("Returns: poses are read by joint names, wrong ones are refused") {
    const BaseKit& kit = *demo_kit();
    Scratch scratch;
    REQUIRE(write_file(scratch / "p.json", "{\"jaw\": [20, 0, 0]}"));
    const auto pose = read_pose(scratch / "p.json", kit.joints);
    REQUIRE(pose);
    std::size_t turned = 0;
    for (const Mat3& m : pose->turns) turned += !m.isIdentity(1e-12);
    CHECK(turned == 1);
    REQUIRE(write_file(scratch / "q.json", "{\"tail\": [20, 0, 0]}"));
    CHECK(read_pose(scratch / "q.json", kit.joints).error().message.find("tail") != std::string::npos);
    REQUIRE(write_file(scratch / "r.json", "{\"jaw\": [20]}"));
    CHECK_FALSE(read_pose(scratch / "r.json", kit.joints));
}
