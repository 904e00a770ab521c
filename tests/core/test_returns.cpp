// Meshes that come back from other programs: order, parts, frame, subdivision, leftovers.
#include <catch2/catch.hpp>

#include <cmath>
#include <numeric>
#include <random>

#include "core/base/file.h"
#include "core/exchange/correspondence.h"
#include "core/exchange/frame.h"
#include "core/exchange/isomorphism.h"
#include "core/exchange/leftovers.h"
#include "core/io/mesh_file.h"
#include "core/mesh/subdivide.h"
#include "core/rig/pose_file.h"
#include "demo/standins/sculpting.h"
#include "tests/support/demo_kit.h"
#include "tests/support/fan_mesh.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

Mesh returned(const std::string& name) { return std::move(read_mesh(demo("returns/" + name + ".obj"))->mesh); }

// Vertices, faces and the faces' first corners in another order.
Mesh shuffled(const Mesh& mesh, unsigned seed, std::vector<Index>& was) {
    std::mt19937 random(seed);
    was.resize(mesh.positions.size());
    std::iota(was.begin(), was.end(), 0);
    std::shuffle(was.begin(), was.end(), random);
    std::vector<Index> now(was.size()), faces(mesh.face_count());
    for (Index i = 0; i < was.size(); ++i) now[was[i]] = i;
    std::iota(faces.begin(), faces.end(), 0);
    std::shuffle(faces.begin(), faces.end(), random);
    Mesh out;
    for (const Index v : was) out.positions.push_back(mesh.positions[v]);
    out.uvs = mesh.uvs;
    for (const Index f : faces) {
        const Index n = mesh.face_size(f), turn = static_cast<Index>(random() % n);
        for (Index k = 0; k < n; ++k) {
            const Index c = mesh.face_start[f] + (k + turn) % n;
            out.corner_vertex.push_back(now[mesh.corner_vertex[c]]);
            out.corner_uv.push_back(mesh.corner_uv[c]);
        }
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

double worst_to(const ReturnCheck& check, const Mesh& truth) {
    double worst = 0;
    for (Index v = 0; v < check.positions.size(); ++v) {
        if (check.returned[v]) worst = std::max(worst, (check.positions[v] - truth.positions[v]).norm());
    }
    return worst;
}

bool says(const ReturnCheck& check, const std::string& words) {
    return std::any_of(check.steps.begin(), check.steps.end(),
                       [&](const ReturnStep& s) { return s.what.find(words) != std::string::npos; });
}

}  // namespace

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

TEST_CASE("Returns: triangulated, doubled along seams, mirrored, in metres") {
    const BaseKit& kit = *demo_kit();
    SECTION("triangulated") {
        Mesh mesh;
        mesh.positions = kit.mesh.positions, mesh.uvs = kit.mesh.uvs;
        const Triangulation t = triangulate(kit.mesh);
        for (const Triangle& corners : t.triangle_corner) {
            for (const Index c : corners)
                mesh.corner_vertex.push_back(kit.mesh.corner_vertex[c]),
                    mesh.corner_uv.push_back(kit.mesh.corner_uv[c]);
            mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
        }
        const auto c = check_return(kit, mesh, {}, {});
        REQUIRE(c);
        CHECK(c->relative);
        CHECK(worst_to(*c, kit.mesh) < 1e-9);
    }
    SECTION("a vertex for every corner") {
        Mesh mesh;
        mesh.uvs = kit.mesh.uvs, mesh.face_start = kit.mesh.face_start, mesh.corner_uv = kit.mesh.corner_uv;
        for (const Index v : kit.mesh.corner_vertex) {
            mesh.corner_vertex.push_back(static_cast<Index>(mesh.positions.size()));
            mesh.positions.push_back(kit.mesh.positions[v]);
        }
        const auto c = check_return(kit, mesh, {}, {});
        REQUIRE(c);
        CHECK(c->relative);
        CHECK(says(*c, "joined"));
        CHECK(worst_to(*c, kit.mesh) < 1e-9);
    }
    SECTION("mirrored and in metres") {
        Mesh mesh = kit.mesh;
        for (Vec3& p : mesh.positions) p = Vec3(p.x(), p.y(), -p.z()) / 1000;
        const auto c = check_return(kit, mesh, {}, {});
        REQUIRE(c);
        CHECK(says(*c, "Mirrored"));
        CHECK(says(*c, "Scaled by 1000"));
        CHECK(worst_to(*c, kit.mesh) < 1e-9);
    }
    SECTION("a fifth larger is a shape, not a unit") {
        Mesh mesh = kit.mesh;
        for (Vec3& p : mesh.positions) p *= 1.2;
        ReturnOptions options;
        options.answer = ReturnAnswer::Leave;
        const auto c = check_return(kit, mesh, options, {});
        REQUIRE(c);
        CHECK_FALSE(says(*c, "Scaled"));
        CHECK_FALSE(c->question);
        CHECK((c->positions[5] - mesh.positions[5]).norm() < 1e-12);
        // unasked nobody can know
        options.answer = ReturnAnswer::Ask;
        const auto asked = check_return(kit, mesh, options, {});
        REQUIRE(asked);
        REQUIRE(asked->question);
        CHECK(asked->question->scale == Approx(1.2).epsilon(1e-6));
        CHECK(asked->question->explained);
    }
    SECTION("exploded vertices are named, broken meshes refused, cancel heard") {
        Mesh mesh = kit.mesh;
        const Index v = kit.region("lips").front();
        mesh.positions[v] += Vec3(0, 0, 300);
        const auto c = check_return(kit, mesh, {}, {});
        REQUIRE(c);
        CHECK(c->exploded == std::vector<Index>{v});
        mesh.positions[3].x() = std::nan("");
        CHECK_FALSE(check_return(kit, mesh, {}, {}));
        Progress stop;
        stop.cancelled = [] { return true; };
        const auto cancelled = check_return(kit, kit.mesh, {}, stop);
        REQUIRE_FALSE(cancelled);
        CHECK(cancelled.error().code == ErrorCode::Cancelled);
    }
}

TEST_CASE("Returns: twice subdivided comes back to the base exactly") {
    const BaseKit& kit = *demo_kit();
    Mesh sculpt = kit.mesh;
    for (Vec3& p : sculpt.positions) p.z() += 4 * std::sin(p.y() / 60);
    for (const int level : {1, 2}) {
        const auto fine = Subdivided::make(sculpt, level);
        REQUIRE(fine);
        const auto c = check_return(kit, (*fine)->mesh(), {}, {});
        REQUIRE(c);
        REQUIRE(c->relative);
        CHECK(says(*c, level == 1 ? "one subdivision of the whole base" : "two subdivisions of the whole base"));
        CHECK(worst_to(*c, sculpt) < 1e-6);
    }
}

TEST_CASE("Returns: leftover amounts of twenty shapes are found beneath a sculpt") {
    const BaseKit& kit = *demo_kit();
    std::mt19937 random(11);
    std::uniform_real_distribution<double> any(0, 1);
    const auto& head = kit.region("head_skin");
    std::vector<Morph> shapes;
    for (int k = 0; k < 20; ++k) {
        // a dent or a bump with a rim, somewhere on the head
        const Vec3 at = kit.mesh.positions[head[random() % head.size()]];
        const double reach = 28 + 24 * any(random);
        const Vec3 way = Vec3(any(random) - 0.5, any(random) - 0.5, any(random) - 0.5).normalized() * 6;
        Points shape = kit.mesh.positions;
        for (const Index v : head) {
            const double t = 1 - (kit.mesh.positions[v] - at).norm() / reach;
            if (t > 0) shape[v] += t * way;
        }
        auto m = make_morph(kit, shape, "shape " + std::to_string(k));
        REQUIRE(m);
        shapes.push_back(std::move(*m));
    }
    std::vector<const Morph*> known;
    std::vector<double> wanted;
    Points delta(kit.mesh.positions.size(), Vec3::Zero());
    // over the whole figure: a sculpt that breaks off at the neck would look like a shape of its own there
    for (Index v = 0; v < delta.size(); ++v)
        delta[v] = 15 * Vec3(std::sin(kit.mesh.positions[v].y() / 90), std::cos(kit.mesh.positions[v].x() / 80), 0.5);
    for (const Morph& m : shapes) {
        known.push_back(&m);
        wanted.push_back(known.size() % 3 ? 0 : 0.2 + any(random));
        for (std::size_t i = 0; i < m.index.size(); ++i) delta[m.index[i]] += wanted.back() * m.delta[i];
    }
    const auto found = leftover_amounts(kit, delta, VertexMask(delta.size(), 1), known);
    for (std::size_t k = 0; k < known.size(); ++k) {
        INFO(k << " found " << found[k].amount << " proven " << found[k].proven << " vertices "
               << known[k]->index.size());
        CHECK(found[k].amount == Approx(wanted[k]).margin(0.01));
        if (wanted[k] > 0) CHECK(found[k].proven > 0.4);
    }
}

TEST_CASE("Returns: turned by a right angle, 1.7 times as large and moved is a question with its numbers") {
    const BaseKit& kit = *demo_kit();
    Mesh mesh = kit.mesh;
    REQUIRE(sculpt(mesh, "nose", 3, 1));
    const Points truth = mesh.positions;
    REQUIRE(damage(mesh, "rescale", 5));
    ReturnOptions options;
    SECTION("asked") {
        const auto c = check_return(kit, mesh, options, {});
        REQUIRE(c);
        REQUIRE(c->question);
        CHECK(c->question->scale == Approx(1.7).epsilon(1e-4));
        CHECK(c->question->degrees == Approx(90).margin(0.05));
        CHECK(c->question->explained);
    }
    SECTION("an accident: nothing of it stays") {
        options.answer = ReturnAnswer::Take;
        const auto c = check_return(kit, mesh, options, {});
        REQUIRE(c);
        CHECK_FALSE(c->question);
        double worst = 0;
        for (Index v = 0; v < truth.size(); ++v) worst = std::max(worst, (c->positions[v] - truth[v]).norm());
        CHECK(worst < 2e-3);
    }
    SECTION("meant: the size stays") {
        options.answer = ReturnAnswer::Leave;
        const auto c = check_return(kit, mesh, options, {});
        REQUIRE(c);
        CHECK_FALSE(c->question);
        CHECK(bounding_box(c->positions).size().y() == Approx(1.7 * bounding_box(truth).size().y()).epsilon(1e-6));
    }
    SECTION("a lean of 30 degrees and 0.6 times the size, without UVs and in another order, sculpted in half of it") {
        Mesh other = kit.mesh;
        REQUIRE(damage(other, "reorder", 2));
        const Mat3 lean = Eigen::AngleAxisd(0.52, Vec3(0.3, 0.2, 1).normalized()).toRotationMatrix();
        for (Vec3& p : other.positions) {
            if (p.y() > 1100) p += Vec3(6 * std::sin(p.y() / 30), 0, 4 * std::cos(p.y() / 20));
            p = 0.6 * (lean * p) + Vec3(90, -40, 300);
        }
        const auto c = check_return(kit, other, options, {});
        REQUIRE(c);
        REQUIRE(c->relative);
        REQUIRE(c->question);
        CHECK(c->question->scale == Approx(0.6).epsilon(1e-3));
        CHECK(c->question->degrees == Approx(0.52 * 180 / M_PI).margin(0.2));
        for (const Index v : kit.region("foot_l")) REQUIRE((c->positions[v] - kit.mesh.positions[v]).norm() < 0.05);
    }
    SECTION("what no size, turn and place explains is never kept unasked") {
        Mesh other = kit.mesh;
        for (Vec3& p : other.positions)
            p = Vec3(p.x() + 0.9 * p.y() * std::sin(p.y() / 90), 0.4 * p.y(), p.z() + 400 * std::cos(p.y() / 70));
        const auto c = check_return(kit, other, options, {});
        REQUIRE(c);
        REQUIRE(c->question);
    }
}

TEST_CASE("Returns: a vertex that was deleted or merged away goes where its neighbours went") {
    const BaseKit& kit = *demo_kit();
    for (const char* harm : {"merge", "delete"}) {
        INFO(harm);
        Mesh mesh = kit.mesh;
        // far enough that a vertex which stays behind stands out as a spike
        for (Vec3& p : mesh.positions) p += Vec3(0, 0, 60 * std::exp(-std::pow((p.y() - 1500) / 250, 2)));
        const Points truth = mesh.positions;
        REQUIRE(damage(mesh, harm, 7));
        REQUIRE(mesh.positions.size() < truth.size());
        const auto c = check_return(kit, mesh, {}, {});
        REQUIRE(c);
        REQUIRE(c->relative);
        CHECK_FALSE(c->question);
        CHECK(c->filled.size() == truth.size() - mesh.positions.size());
        double worst = 0;
        for (Index v = 0; v < truth.size(); ++v) worst = std::max(worst, (c->positions[v] - truth[v]).norm());
        CHECK(worst < 1);
        CHECK(says(*c, std::string(harm) == "merge" ? "merged with a neighbour" : "did not come back"));
    }
}
