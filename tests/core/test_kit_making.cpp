// A base kit from any base mesh: seams, pieces, the mirror map, what is carried over, and the folder it is kept in.
#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>
#include <random>
#include <set>

#include "core/base/file.h"
#include "core/io/mesh_write.h"
#include "core/kit/kit_surface.h"
#include "core/kit/original.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/carry_morphs.h"
#include "core/kit_making/carry_regions.h"
#include "core/kit_making/check_kit.h"
#include "core/kit_making/make_kit.h"
#include "core/kit_making/mirror_map.h"
#include "core/kit_making/pieces.h"
#include "core/kit_making/seams.h"
#include "core/spatial/nearest_points.h"
#include "demo/standins/made_up_base.h"
#include "tests/support/apart.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

// Every face with vertices of its own, as a format that splits everywhere would have it.
Mesh split_everywhere(const Mesh& mesh) {
    Mesh out = mesh;
    out.positions.clear();
    for (Index c = 0; c < mesh.corner_vertex.size(); ++c) {
        out.positions.push_back(mesh.positions[mesh.corner_vertex[c]]);
        out.corner_vertex[c] = c;
    }
    return out;
}

void append(Mesh& to, const Mesh& other, const Vec3& moved) {
    const Index first = to.vertex_count();
    for (const Vec3& p : other.positions) to.positions.push_back(p + moved);
    for (Index f = 0; f < other.face_count(); ++f) {
        for (Index c = other.face_start[f]; c < other.face_start[f + 1]; ++c)
            to.corner_vertex.push_back(first + other.corner_vertex[c]);
        to.face_start.push_back(static_cast<Index>(to.corner_vertex.size()));
    }
}

// n x n quads, symmetric about x = 0.
Mesh even_sheet(int n) {
    return sheet(n, 100, [](double x, double y) { return 0.002 * x * x + 0.1 * y; });
}

struct Told {
    std::vector<std::string> missing, weak;
};
Told told(const BaseKit& kit, const std::string& ability) {
    for (const KitAbility& a : check_kit(kit)) {
        if (a.name == ability) return {a.missing, a.weak};
    }
    FAIL("no such ability: " << ability);
    return {};
}

// Made once for all cases: a bust of somebody else's, in inches, and the kit made from it.
struct MadeBust {
    Scratch scratch;
    std::string file = scratch / "bust.obj";
    MadeUpBase truth;
    std::optional<MadeKit> made;
    MadeBust() {
        BaseOptions o;
        o.seed = 4;
        o.figure = false;
        o.edge_mm = 4;
        o.unit = Unit::Inch;
        truth = make_base(*demo_kit(), o);
        REQUIRE(write_mesh(file, truth.mesh, 1));
        FaceNetwork network;
        KitRecipe recipe;
        recipe.file = file;
        auto result = make_kit(network, *demo_kit(), recipe, {});
        REQUIRE(result);
        made = std::move(*result);
    }
    Vec3 true_place(const Vec3& mm) const { return made->kit.original->to_kit(truth.from_mm(mm)); }
};
const MadeBust& bust() {
    static const MadeBust all;
    return all;
}

double overlap(const VertexIndices& found, const VertexMask& truth) {
    double both = 0, any = 0;
    VertexMask mine(truth.size(), 0);
    for (const Index v : found) mine[v] = 1;
    for (std::size_t v = 0; v < truth.size(); ++v) both += truth[v] && mine[v], any += truth[v] || mine[v];
    return any > 0 ? both / any : 0;
}

}  // namespace

TEST_CASE("Seams: what a file splits becomes one, and the way back is kept") {
    const Mesh whole = even_sheet(6), split = split_everywhere(whole);
    const JoinedMesh joined = join_seams(split);
    CHECK(joined.mesh.positions.size() == whole.positions.size());
    CHECK(joined.mesh.face_start == split.face_start);
    REQUIRE(joined.work_of.size() == split.positions.size());
    for (Index v = 0; v < split.positions.size(); ++v)
        CHECK(joined.mesh.positions[joined.work_of[v]] == split.positions[v]);
    CHECK(vertex_neighbours(triangulate(joined.mesh).triangles, joined.mesh.vertex_count()).items.size() ==
          vertex_neighbours(triangulate(whole).triangles, whole.vertex_count()).items.size());
    SECTION("a mesh without seams stays as it is") {
        const JoinedMesh same = join_seams(whole);
        CHECK(same.mesh.corner_vertex == whole.corner_vertex);
        for (Index v = 0; v < whole.positions.size(); ++v) CHECK(same.work_of[v] == v);
    }
    SECTION("vertices that must differ stay apart") {
        std::vector<std::uint64_t> apart(split.positions.size());
        for (std::size_t v = 0; v < apart.size(); ++v) apart[v] = split.positions[v].x() < 0 ? 1 : 2;
        const JoinedMesh two = join_seams(split, &apart);
        for (Index v = 0; v < split.positions.size(); ++v) {
            for (Index w = 0; w < v; ++w) {
                if (two.work_of[v] == two.work_of[w]) CHECK(apart[v] == apart[w]);
            }
        }
    }
}

TEST_CASE("Seams: lips that touch and three sheets at one line stay apart") {
    // two sheets that share a border's places and fold back on one another, as closed lips do
    Mesh lips;
    lips.positions = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 0}, {1, 0, 0}, {1, 1, -0.1}, {0, 1, -0.1}};
    add_face(lips, {0, 1, 2, 3});
    add_face(lips, {5, 4, 7, 6});
    CHECK(join_seams(lips).mesh.positions.size() == 8);
    // the same two flat side by side are one
    lips.positions[6] = {1, -1, 0}, lips.positions[7] = {0, -1, 0};
    CHECK(join_seams(lips).mesh.positions.size() == 6);
    // a third sheet at the same line: nobody can tell which belong together
    lips.positions.insert(lips.positions.end(), {{0, 0, 0}, {1, 0, 0}, {1, 0, 1}, {0, 0, 1}});
    add_face(lips, {8, 9, 10, 11});
    CHECK(join_seams(lips).mesh.positions.size() == 12);
}

TEST_CASE("Pieces: apart, the largest first, with their names; balls are told from strips") {
    Mesh mesh = even_sheet(10);
    append(mesh, sphere(8, 12), Vec3(300, 0, 0));
    mesh.group_names = {"Skin", "Left Eye"};
    mesh.face_group.assign(mesh.face_count(), 1);
    std::fill(mesh.face_group.begin(), mesh.face_group.begin() + 100, 0u);
    const std::vector<Piece> pieces = find_pieces(mesh);
    REQUIRE(pieces.size() == 2);
    CHECK(pieces[0].words == "skin");
    CHECK(pieces[1].words == "left eye");
    CHECK(pieces[0].faces.size() == 100);
    CHECK(pieces[0].area > 1e4);
    CHECK(pieces[1].box.centre().x() == Approx(300));

    Points on_ball;
    for (const Index v : pieces[1].vertices) on_ball.push_back(mesh.positions[v]);
    const SphereFit fit = fit_sphere(on_ball);
    CHECK((fit.centre - Vec3(300, 0, 0)).norm() < 1e-9);
    CHECK(fit.radius == Approx(12));
    CHECK(fit.rms < 1e-9);
    CHECK(fit_sphere({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}, {2, 3, 0}}).radius == 0);  // on one plane
    CHECK(fit_sphere({{0, 0, 0}, {1, 0, 0}}).radius == 0);
}

TEST_CASE("Nearest points: as by comparing all") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> place(-20, 20);
    Points points;
    for (int i = 0; i < 700; ++i) points.emplace_back(place(random), place(random), place(random));
    const NearestPoints near(points, 2.5);
    int none = 0;
    for (int i = 0; i < 400; ++i) {
        const Vec3 p(place(random), place(random), place(random));
        Index best = kNone;
        for (Index k = 0; k < points.size(); ++k) {
            const double d = (points[k] - p).norm();
            if (d < 2.5 && (best == kNone || d < (points[best] - p).norm())) best = k;
        }
        CHECK(near.nearest(p) == best);
        none += best == kNone;
    }
    CHECK(none > 0);
    CHECK(none < 400);
}

TEST_CASE("Mirror map: by faces, whatever the shape; its own inverse; none where there is none") {
    const auto check_inverse = [](const MirrorMap& map) {
        for (Index v = 0; v < map.partner.size(); ++v) {
            if (map.partner[v] != kNone) CHECK(map.partner[map.partner[v]] == v);
        }
    };
    constexpr int n = 8;
    Mesh mesh = even_sheet(n);
    const auto partner = [&](Index v) { return v / (n + 1) * (n + 1) + n - v % (n + 1); };
    SECTION("even") {
        const MirrorMap map = find_mirror_map(mesh, 0.5);
        check_inverse(map);
        for (Index v = 0; v < map.partner.size(); ++v) CHECK(map.partner[v] == partner(v));
    }
    SECTION("one side bent away") {
        for (Vec3& p : mesh.positions) {
            if (p.x() > 0) p += Vec3(0.3 * p.x(), 0.1 * p.x(), 0.2 * p.x());
        }
        const MirrorMap map = find_mirror_map(mesh, 0.5);
        check_inverse(map);
        for (Index v = 0; v < map.partner.size(); ++v) CHECK(map.partner[v] == partner(v));
        CHECK(map.by_faces > 0);
    }
    SECTION("one face is cut in two on one side: the rest is paired all the same") {
        Mesh cut;
        cut.positions = mesh.positions;
        for (Index f = 0; f < mesh.face_count(); ++f) {
            const Index* c = mesh.corner_vertex.data() + mesh.face_start[f];
            if (f == 9) {
                add_face(cut, {c[0], c[1], c[2]});
                add_face(cut, {c[0], c[2], c[3]});
            } else {
                add_face(cut, {c[0], c[1], c[2], c[3]});
            }
        }
        const MirrorMap map = find_mirror_map(cut, 0.5);
        check_inverse(map);
        CHECK(map.without() == 0);
        for (Index v = 0; v < map.partner.size(); ++v) CHECK(map.partner[v] == partner(v));
    }
    SECTION("another layout on the other side has no partners") {
        Mesh odd;
        std::mt19937 random(5);
        std::uniform_real_distribution<double> place(5, 50);
        odd.positions = mesh.positions;
        for (Vec3& p : odd.positions) {
            if (p.x() > 1) p = {place(random), p.y() + 3, 0};
        }
        odd.corner_vertex = mesh.corner_vertex, odd.face_start = mesh.face_start;
        odd.corner_vertex.resize(4 * 8 * n - 8), odd.face_start.resize(8 * n - 1);  // the last two faces are gone
        const MirrorMap map = find_mirror_map(odd, 0.01);
        check_inverse(map);
        CHECK(map.without() > 0);
    }
}

TEST_CASE("Mirror map: a surface whose sides have nothing in common has no partners") {
    // triangles everywhere, so that a walk from face to face never ends by itself
    Mesh odd;
    std::mt19937 random(11);
    std::uniform_real_distribution<double> off(-1.5, 1.5);
    const Mesh even = sheet(24, 100, [](double, double) { return 0.0; });
    odd.positions = even.positions;
    for (Vec3& p : odd.positions) p += Vec3(off(random), off(random), off(random));
    for (Index f = 0; f < even.face_count(); ++f) {
        const Index* c = even.corner_vertex.data() + even.face_start[f];
        if (random() % 2) {
            add_face(odd, {c[0], c[1], c[2]});
            add_face(odd, {c[0], c[2], c[3]});
        } else {
            add_face(odd, {c[0], c[1], c[3]});
            add_face(odd, {c[1], c[2], c[3]});
        }
    }
    const MirrorMap map = find_mirror_map(odd, 1);
    CHECK(map.without() > odd.positions.size() / 2);
}

TEST_CASE("Mirror map: the demo kit's own, every vertex") {
    const BaseKit& kit = *demo_kit();
    const MirrorMap map = find_mirror_map(kit.mesh, 0.5);
    REQUIRE(map.partner.size() == kit.mirror.size());
    std::size_t wrong = 0;
    for (Index v = 0; v < map.partner.size(); ++v) wrong += map.partner[v] != kit.mirror[v];
    CHECK(wrong == 0);
}

TEST_CASE("Neck ring: a closed loop around what is the head; the lowest border of a bust") {
    constexpr int n = 12;
    // a tube along y, open at both ends
    Mesh tube;
    for (int j = 0; j <= n; ++j) {
        for (int i = 0; i < n; ++i)
            tube.positions.emplace_back(50 * std::cos(2 * M_PI * i / n), 10.0 * j, -50 * std::sin(2 * M_PI * i / n));
    }
    const auto at = [&](int j, int i) { return static_cast<Index>(j * n + i % n); };
    FaceIndices faces;
    for (int j = 0; j < n; ++j) {
        for (int i = 0; i < n; ++i) {
            faces.push_back(tube.face_count());
            add_face(tube, {at(j, i), at(j, i + 1), at(j + 1, i + 1), at(j + 1, i)});
        }
    }
    std::vector<float> head(tube.positions.size(), 0);
    for (std::size_t v = 0; v < head.size(); ++v) head[v] = tube.positions[v].y() > 65 ? 1 : 0;
    const VertexIndices loop = loop_around_head(tube, faces, head);
    REQUIRE(loop.size() == n);
    CHECK(std::set<Index>(loop.begin(), loop.end()).size() == n);
    for (std::size_t i = 0; i < loop.size(); ++i) {
        CHECK(tube.positions[loop[i]].y() == Approx(tube.positions[loop[0]].y()));
        CHECK((tube.positions[loop[i]] - tube.positions[loop[(i + 1) % n]]).norm() < 30);  // neighbours
    }
    CHECK(loop_around_head(tube, faces, std::vector<float>(head.size(), 1)).empty());
    const VertexIndices lowest = lowest_border(tube, faces);
    REQUIRE(lowest.size() == n);
    for (const Index v : lowest) CHECK(tube.positions[v].y() == 0);
}

TEST_CASE("Kit folder: written and read again, it is the same kit") {
    Scratch scratch;
    const BaseKit& kit = *demo_kit();
    const std::string folder = scratch / "kit";
    REQUIRE(write_base_kit(kit, folder));
    const auto again = read_base_kit(folder);
    REQUIRE(again);
    CHECK(again->topology_key == kit.topology_key);
    CHECK(again->mesh.positions == kit.mesh.positions);
    CHECK(again->mirror == kit.mirror);
    CHECK(again->regions == kit.regions);
    CHECK(again->neck_ring == kit.neck_ring);
    REQUIRE(again->expressions.size() == kit.expressions.size());
    for (const auto& [name, shape] : kit.expressions) CHECK(apart(again->expressions.at(name), shape) < 2e-6);
    CHECK(again->mesh.images.size() == kit.mesh.images.size());
    REQUIRE(again->landmarks.size() == kit.landmarks.size());
    for (const auto& [name, place] : kit.landmarks)
        CHECK((again->landmarks.at(name).at(kit.mesh.positions) - place.at(kit.mesh.positions)).norm() < 1e-9);
    REQUIRE(again->curves.size() == kit.curves.size());
    REQUIRE(again->joints.size() == kit.joints.size());
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        CHECK(again->joints[j].name == kit.joints[j].name);
        CHECK(again->joints[j].parent == kit.joints[j].parent);
    }
    for (std::size_t v = 0; v < kit.weights.weight.size(); v += 97) {
        for (std::size_t k = 0; k < 4; ++k) CHECK(again->weights.weight[v][k] == Approx(kit.weights.weight[v][k]));
    }
    REQUIRE(again->eyes.size() == 2);
    CHECK(std::distance(std::filesystem::directory_iterator(scratch / "."), {}) == 1);  // nothing else is left there
    SECTION("over a kit that is there") { REQUIRE(write_base_kit(kit, folder)); }
    SECTION("never over other files") {
        REQUIRE(write_file(scratch / "notes.txt", "mine"));
        const auto refused = write_base_kit(kit, scratch / ".");
        REQUIRE_FALSE(refused);
        CHECK(refused.error().code == ErrorCode::BadInput);
        CHECK(read_file(scratch / "notes.txt")->view() == "mine");
    }
    SECTION("nowhere to write") { CHECK(write_base_kit(kit, "/proc/no such folder").error().code == ErrorCode::Io); }
}

TEST_CASE("Kit check: what the demo kit can do, and what a poorer one lacks") {
    for (const KitAbility& a : check_kit(*demo_kit())) {
        CAPTURE(a.name, a.missing);
        CHECK(a.ready());
    }
    BaseKit poor = *demo_kit();
    poor.landmarks.erase("pronasale");
    poor.neck_ring.clear();
    poor.joints.clear();
    poor.expressions.clear();
    poor.curves.clear();
    poor.unpaired = {1, 2, 3};
    CHECK(told(poor, "head and body shares").missing == std::vector<std::string>{"the neck ring"});
    CHECK(told(poor, "body fits, pose taken out").missing == std::vector<std::string>{"joints and skin weights"});
    CHECK(told(poor, "expressions").missing.size() == 1);
    CHECK(told(poor, "mirrored work").missing.empty());
    CHECK(told(poor, "mirrored work").weak.front().ends_with("3 vertices have none"));
    CHECK(told(poor, "head fits").weak.size() >= 2);
    poor.regions.erase("face");
    CHECK(told(poor, "head fits").missing ==
          std::vector<std::string>{"1 landmark of the head: nose tip", "region face"});
    poor.original.emplace().file = "gone.glb";
    CHECK(told(poor, "exports in the file's own order").missing.size() == 1);
}

TEST_CASE("Kit from a bust of somebody else's: parts, places, regions, mirror map") {
    const BaseKit& kit = bust().made->kit;
    const KitReport& report = bust().made->report;
    CHECK(report.unit == Unit::Inch);
    CHECK_FALSE(report.figure);
    CHECK(report.unpaired == 0);
    CHECK(report.paired == kit.mesh.positions.size());
    for (Index v = 0; v < kit.mirror.size(); ++v) CHECK(kit.mirror[v] == bust().truth.partner[v]);
    for (const char* name : {"skin", "eye_l", "eye_r", "teeth_upper", "teeth_lower", "tongue", "lash_l", "lash_r"}) {
        CAPTURE(std::string(name));
        const KitPart* part = kit.part(name);
        REQUIRE(part);
        for (const Index v : part->vertices) CHECK(bust().truth.part_of[v] == name);
    }
    REQUIRE(kit.eyes.size() == 2);
    CHECK(kit.eyes[0].radius == Approx(12.2).margin(0.5));
    CHECK(kit.neck_ring.size() > 20);
    std::vector<double> off;
    for (const auto& [name, p] : bust().truth.landmarks) {
        if (const auto at = kit.landmarks.find(name); at != kit.landmarks.end())
            off.push_back((at->second.at(kit.mesh.positions) - bust().true_place(p)).norm());
    }
    REQUIRE(off.size() > 45);
    std::sort(off.begin(), off.end());
    CHECK(off[off.size() / 2] < 2.5);
    for (const char* name : {"face", "head_skin", "ear_l", "ear_r", "neck"}) {
        CAPTURE(std::string(name));
        CHECK(overlap(kit.region(name), bust().truth.regions.at(name)) > 0.88);
    }
    CHECK(kit.curves.size() >= 10);
    for (std::size_t v = 0; v < kit.weights.weight.size(); ++v) {
        double sum = 0;
        for (const double w : kit.weights.weight[v]) sum += w;
        REQUIRE(sum == Approx(1));
    }
}

TEST_CASE("Kit from a bust of somebody else's: kept, and given back in the file's own order and unit") {
    Scratch scratch;
    const std::string folder = scratch / "kit";
    REQUIRE(write_base_kit(bust().made->kit, folder, {bust().file}));
    const auto kit = read_base_kit(folder);
    REQUIRE(kit);
    const Mesh& file = bust().truth.mesh;
    auto back = in_original(*kit, kit->mesh.positions);
    REQUIRE(back);
    CHECK(back->corner_vertex == file.corner_vertex);
    for (std::size_t v = 0; v < file.positions.size(); v += 7)
        CHECK((back->positions[v] - file.positions[v]).norm() < 1e-6);
    // a shape too: 25.4 mm up are an inch along the file's own axis
    Points raised = kit->mesh.positions;
    for (Vec3& p : raised) p.y() += 25.4;
    back = in_original(*kit, raised);
    REQUIRE(back);
    CHECK((back->positions[11] - file.positions[11] - bust().truth.from_mm.rotation * Vec3(0, 1, 0)).norm() < 1e-6);
    SECTION("not when the file was changed") {
        REQUIRE(write_file(folder + "/" + kit->original->file, "v 0 0 0\n"));
        CHECK(in_original(*kit, raised).error().code == ErrorCode::BadFile);
    }
    SECTION("not when it is gone") {
        std::filesystem::remove(folder + "/" + kit->original->file);
        CHECK_FALSE(in_original(*kit, raised));
        CHECK(told(*kit, "exports in the file's own order").missing.size() == 1);
    }
    SECTION("a kit that was not made from a file says so") {
        CHECK(in_original(*demo_kit(), demo_kit()->mesh.positions).error().code == ErrorCode::BadInput);
    }
}

TEST_CASE("Kit from a bust of somebody else's: a head is fitted onto it") {
    const BaseKit& kit = bust().made->kit;
    const auto scan = read_mesh(demo("subjects/ottoline/ottoline_scan.glb"));
    const auto marks = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"));
    REQUIRE(scan);
    REQUIRE(marks);
    FitInput in;
    in.kit = &kit;
    in.source = &scan->mesh;
    in.landmarks = marks->set;
    const auto fit = run_fit(in, {});
    REQUIRE(fit);
    CHECK(fit->figures.surface.median < 0.1);
    CHECK(fit->figures.flipped_faces == 0);
}

TEST_CASE("Kit making: expressions, a part by its name, a stop in the middle") {
    const BaseKit& kit = bust().made->kit;
    REQUIRE(kit.expressions.size() == demo_kit()->expressions.size());
    // the jaw opens: the chin goes down, the crown stays
    const Points& open = kit.expressions.at("jaw_open");
    const auto moved = [&](const char* name) {
        const SurfacePoint& at = kit.landmarks.at(name);
        return Vec3(at.at(open) - at.at(kit.mesh.positions));
    };
    CHECK(moved("gnathion").y() < -8);
    CHECK(moved("vertex").norm() < 0.5);
    const KitPart& lower = *kit.part("teeth_lower");
    CHECK((open[lower.vertices[0]] - kit.mesh.positions[lower.vertices[0]]).norm() > 3);

    FaceNetwork network;
    KitRecipe recipe;
    recipe.file = bust().file;
    int asked = 0;
    Progress stop;
    stop.cancelled = [&] { return ++asked > 40; };
    const auto stopped = make_kit(network, *demo_kit(), recipe, stop);
    REQUIRE_FALSE(stopped);
    CHECK(stopped.error().code == ErrorCode::Cancelled);
}

TEST_CASE("Kit making: files that hold no base are refused with the reason") {
    Scratch scratch;
    FaceNetwork network;
    KitRecipe recipe;
    recipe.file = scratch / "base.obj";
    const auto refused = [&] {
        const auto made = make_kit(network, *demo_kit(), recipe, {});
        REQUIRE_FALSE(made);
        CHECK_FALSE(made.error().message.empty());
        return made.error().code;
    };
    SECTION("no file") { CHECK(refused() == ErrorCode::Io); }
    SECTION("two figures side by side") {
        const MadeBust& one = bust();
        Mesh two = one.truth.mesh;
        two.group_names.clear(), two.face_group.clear();
        Mesh other = two;
        const Vec3 aside = 2.2 * bounding_box(two.positions).size().x() * Vec3::UnitX();
        append(two, other, aside);
        REQUIRE(write_mesh(recipe.file, two, 1));
        CHECK(refused() == ErrorCode::BadInput);
    }
    SECTION("inside out") {
        Mesh turned = bust().truth.mesh;
        for (Index f = 0; f < turned.face_count(); ++f)
            std::reverse(turned.corner_vertex.begin() + turned.face_start[f],
                         turned.corner_vertex.begin() + turned.face_start[f + 1]);
        REQUIRE(write_mesh(recipe.file, turned, 1));
        CHECK(refused() == ErrorCode::BadInput);
        CHECK(make_kit(network, *demo_kit(), recipe, {}).error().message.find("inside out") != std::string::npos);
    }
    SECTION("no face") {
        REQUIRE(write_mesh(recipe.file, sphere(30, 120), 1));
        CHECK(refused() == ErrorCode::NotFound);
    }
}

namespace {

// The demo kit as its owner's next version: vertices in another order, the same surface.
const BaseKit& next_version() {
    static const BaseKit kit = [] {
        BaseKit out = *demo_kit();
        const auto count = static_cast<Index>(out.mesh.positions.size());
        std::vector<Index> at(count);
        for (Index v = 0; v < count; ++v) at[v] = (v * 7u + 3u) % count;  // 7 divides no count of ours
        const BaseKit& old = *demo_kit();
        const auto moved = [&](auto& list) {
            for (Index& v : list) v = at[v];
            std::sort(list.begin(), list.end());
        };
        for (Index v = 0; v < count; ++v) {
            out.mesh.positions[at[v]] = old.mesh.positions[v];
            out.mirror[at[v]] = at[old.mirror[v]];
            out.weights.joint[at[v]] = old.weights.joint[v], out.weights.weight[at[v]] = old.weights.weight[v];
        }
        for (Index& v : out.mesh.corner_vertex) v = at[v];
        for (KitPart& part : out.parts) moved(part.vertices);
        for (auto& [name, region] : out.regions) moved(region);
        for (Index& v : out.neck_ring) v = at[v];
        for (auto& [name, place] : out.landmarks) {
            for (Index& v : place.vertices) v = at[v];
        }
        for (auto& [name, curve] : out.curves) {
            for (SurfacePoint& place : curve) {
                for (Index& v : place.vertices) v = at[v];
            }
        }
        out.triangulation = triangulate(out.mesh);
        out.topology_key = topology_key(out.mesh);
        return out;
    }();
    return kit;
}

Morph expression(const char* name) {
    auto morph = make_morph(*demo_kit(), demo_kit()->expressions.at(name), name);
    REQUIRE(morph);
    morph->kind = MorphKind::Expression;
    morph->group = "faces";
    morph->usual = 0.25;
    return *morph;
}

}  // namespace

TEST_CASE("A bank moves house: a new version of one's own base takes differences as they are") {
    REQUIRE(demo_kit()->mesh.positions.size() % 7 != 0);
    const BaseKit& to = next_version();
    const Morph smile = expression("smile"), blink = expression("blink");
    const auto bank = carry_morphs(*demo_kit(), to, {&smile, &blink}, {});
    REQUIRE(bank);
    CHECK(bank->exact == to.mesh.positions.size());
    CHECK(bank->without == 0);
    REQUIRE(bank->morphs.size() == 2);
    const Morph& now = bank->morphs[0].morph;
    CHECK(now.name == "smile");
    CHECK(now.kind == MorphKind::Expression);
    CHECK(now.group == "faces");
    CHECK(now.usual == 0.25);
    CHECK(now.topology == to.topology_key);
    CHECK(now.index.size() == smile.index.size());
    const auto count = static_cast<Index>(to.mesh.positions.size());
    std::map<Index, Vec3> delta;
    for (std::size_t i = 0; i < now.index.size(); ++i) delta[now.index[i]] = now.delta[i];
    for (std::size_t i = 0; i < smile.index.size(); i += 5) {
        const auto at = delta.find((smile.index[i] * 7u + 3u) % count);
        REQUIRE(at != delta.end());
        CHECK((at->second - smile.delta[i]).norm() < 1e-9);
    }
    CHECK(bank->morphs[0].most_after == Approx(bank->morphs[0].most_before));
    CHECK(bank->morphs[1].stretch_after == Approx(bank->morphs[1].stretch_before));
}

TEST_CASE("A bank moves house: to somebody else's base") {
    const BaseKit& to = bust().made->kit;
    const Morph smile = expression("smile");
    const auto bank = carry_morphs(*demo_kit(), to, {&smile}, {});
    REQUIRE(bank);
    CHECK(bank->exact == 0);
    CHECK(bank->apart_mm < 0.35);  // below the neck the old base stays where it was
    REQUIRE(bank->morphs.size() == 1);
    const CarriedMorph& one = bank->morphs.front();
    CHECK(one.most_after > 0.6 * one.most_before);
    CHECK(one.most_after < 1.4 * one.most_before);
    // the corner of the mouth goes where it went, the crown stays
    const Points moved = [&] {
        Points out = to.mesh.positions;
        for (std::size_t i = 0; i < one.morph.index.size(); ++i) out[one.morph.index[i]] += one.morph.delta[i];
        return out;
    }();
    const auto way = [](const BaseKit& kit, const Points& shape, const char* name) {
        const SurfacePoint& at = kit.landmarks.at(name);
        return Vec3(at.at(shape) - at.at(kit.mesh.positions));
    };
    for (const char* corner : {"cheilion_l", "cheilion_r"}) {
        const Vec3 before = way(*demo_kit(), demo_kit()->expressions.at("smile"), corner),
                   now = way(to, moved, corner);
        CAPTURE(before.transpose(), now.transpose());
        CHECK(now.normalized().dot(before.normalized()) > 0.9);
        CHECK(now.norm() == Approx(before.norm()).epsilon(0.35));
    }
    CHECK(way(to, moved, "vertex").norm() < 0.05);
}

TEST_CASE("A bank moves house: what is refused, and a stop") {
    Morph other = expression("smile");
    other.topology = "another";
    const auto refused = carry_morphs(*demo_kit(), next_version(), {&other}, {});
    REQUIRE_FALSE(refused);
    CHECK(refused.error().code == ErrorCode::BadInput);
    const Morph smile = expression("smile");
    Progress stop;
    stop.cancelled = [] { return true; };
    CHECK(carry_morphs(*demo_kit(), next_version(), {&smile}, stop).error().code == ErrorCode::Cancelled);
    BaseKit bare = bust().made->kit;
    bare.landmarks.clear(), bare.curves.clear();
    CHECK_FALSE(carry_morphs(*demo_kit(), bare, {&smile}, {}));
}
