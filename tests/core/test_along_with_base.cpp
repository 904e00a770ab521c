// What goes along with a base: reduced versions, skeletons in files of their own, rest poses, rules of parts, and skin
// that meets in an expression.
#include <catch2/catch.hpp>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/exchange/export.h"
#include "core/exchange/reduced_out.h"
#include "core/fit/follow.h"
#include "core/fit/meeting.h"
#include "core/io/glb_write.h"
#include "core/io/mesh_file.h"
#include "core/io/mesh_write.h"
#include "core/kit/kit_surface.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/edge_loops.h"
#include "core/kit_making/edit_kit.h"
#include "core/kit_making/skeleton.h"
#include "core/landmark/surface_pick.h"
#include "core/rig/pose_file.h"
#include "core/rig/rest_poses.h"
#include "core/spatial/surface_ties.h"
#include "core/tidy/resample.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

const BaseKit& own_base() { return *demo_kit(); }

Points mapped(const Points& points, const Mat3& by, const Vec3& move) {
    Points out;
    for (const Vec3& p : points) out.push_back(by * p + move);
    return out;
}

// A third of the demo's faces, in metres and Z up, as somebody else's tool would make it.
struct Third {
    Scratch scratch;
    std::string path = scratch / "third.obj";
    Mesh mesh;
    Third() {
        mesh = reduce_triangles(own_base().mesh, own_base().triangulation.triangles.size() / 3).mesh;
        const Mat3 up = rotation_to_y_up(UpAxis::PlusZ).transpose();
        for (Vec3& p : mesh.positions) p = up * p / 1000;
        REQUIRE(write_mesh(path, mesh, 1));
    }
};
const Third& third() {
    static const Third all;
    return all;
}

}  // namespace

TEST_CASE("Along with the base: tied points go with their surface exactly") {
    const Mesh surface = sheet(8, 100, [](double x, double) { return 0.002 * x * x; });
    const std::vector<Triangle> triangles = triangulate(surface).triangles;
    Points points = surface.positions;  // on it, and off it
    for (int i = 0; i < 20; ++i) points.emplace_back(4.0 * i - 40, 3.0 * i - 30, 3 + 0.1 * i);
    const SurfaceTies ties(points, nullptr, surface.positions, triangles, 100);
    const Points same = ties.moved(surface.positions);
    for (std::size_t i = 0; i < points.size(); ++i) CHECK((same[i] - points[i]).norm() < 1e-9);
    // turned and moved as a whole: so are they
    const Mat3 turn = Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized()).toRotationMatrix();
    const Vec3 move(5, -3, 8);
    const Points turned = ties.moved(mapped(surface.positions, turn, move)), wanted = mapped(points, turn, move);
    for (std::size_t i = 0; i < points.size(); ++i) CHECK((turned[i] - wanted[i]).norm() < 1e-9);
    // bent any way: what lies on vertices is where they are
    Points bent = surface.positions;
    for (Vec3& p : bent) p.z() += 3 * std::sin(0.1 * p.x() * p.y());
    const Points on = ties.moved(bent);
    for (std::size_t v = 0; v < bent.size(); ++v) CHECK((on[v] - bent[v]).norm() < 1e-9);
    // out of reach: stays
    const Points far{Vec3(0, 0, 500)};
    const SurfaceTies loose(far, nullptr, surface.positions, triangles, 50);
    CHECK(loose.ties().front().triangle == kNone);
    CHECK(loose.moved(bent).front() == far.front());
}

TEST_CASE("Along with the base: a side that looks the other way carries nothing") {
    Mesh two = sheet(4, 40, [](double, double) { return 0.0; });
    const Index count = two.vertex_count();
    for (Index v = 0; v < count; ++v) two.positions.emplace_back(two.positions[v] - Vec3(0, 0, 1));
    const std::vector<Index> corners = two.corner_vertex;
    for (std::size_t f = 0; f < corners.size() / 4; ++f)
        add_face(two, {corners[4 * f + 3] + count, corners[4 * f + 2] + count, corners[4 * f + 1] + count,
                       corners[4 * f] + count});
    const std::vector<Triangle> triangles = triangulate(two).triangles;
    const Points points{Vec3(1, 1, -0.7)}, normals{Vec3(0, 0, 1)};  // nearer to the lower sheet, but of the upper
    Points apart = two.positions;
    for (Index v = 0; v < count; ++v) apart[v].z() += 10;
    CHECK(SurfaceTies(points, &normals, two.positions, triangles, 10).moved(apart)[0].z() == Approx(9.3));
    CHECK(SurfaceTies(points, nullptr, two.positions, triangles, 10).moved(apart)[0].z() == Approx(-0.7));
}

TEST_CASE("Reduced versions: tied in any unit and axis, kept with the kit, written with every morph") {
    Scratch scratch;
    const auto tied = tie_reduced(own_base(), third().path, "third");
    REQUIRE(tied);
    CHECK(tied->to_kit.scale == Approx(1000));
    CHECK(tied->vertices == third().mesh.positions.size());
    KitEdits edits;
    edits.reduced["third"] = third().path;
    const auto edited = edited_kit(own_base(), edits);
    REQUIRE(edited);
    const std::string folder = scratch / "kit";
    REQUIRE(copy_base_kit(*edited, folder));
    const auto kept = read_base_kit(folder);
    REQUIRE(kept);
    REQUIRE(kept->reduced.size() == 1);
    CHECK(kept->reduced[0].file == "reduced_third.obj");
    CHECK(kept->reduced == reduced_in_folder(*edited));

    const auto version = ReducedMesh::open(*kept, kept->reduced[0]);
    REQUIRE(version);
    CHECK(version->median_mm() < 0.01);  // the vertices that are left lie where they lay
    const Points rest = version->shape(kept->mesh.positions);
    for (std::size_t v = 0; v < rest.size(); ++v)
        CHECK((rest[v] - kept->reduced[0].to_kit(third().mesh.positions[v])).norm() < 1e-6);
    // an expression: each vertex where the base's at its place goes
    const Points& smile = kept->expressions.at("smile");
    const Points shown = version->shape(smile);
    const SurfaceQuery query(kept->mesh.positions, kept->triangulation.triangles);
    double most = 0;
    for (std::size_t v = 0; v < rest.size(); ++v) {
        const SurfaceHit hit = query.closest(rest[v], 1);
        if (!hit || hit.distance > 1e-4) continue;
        Vec3 wanted = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k)
            wanted += hit.barycentric[k] * smile[kept->triangulation.triangles[hit.triangle][k]];
        most = std::max(most, (shown[v] - wanted).norm());
    }
    CHECK(most < 0.2);  // where two sheets touch, the other one's way differs

    const auto morph = make_morph(*kept, smile, "smile");
    REQUIRE(morph);
    const auto out = ReducedOut::open(*kept);
    REQUIRE(out);
    for (const char* kind : {"obj", "glb", "csv"}) {
        CAPTURE(kind);
        const auto paths = out->write({{&*morph, 1.0}}, scratch / ("smile." + std::string(kind)));
        REQUIRE(paths);
        REQUIRE(paths->size() == 1);
        CHECK(paths->front() == scratch / ("smile_third." + std::string(kind)));
    }
    CHECK(out->write({{&*morph, 1.0}}, scratch / "smile.json")->empty());
    const EachInto as_files{MorphFormat::Json, scratch / "each", "{name}", true};
    CHECK_FALSE(export_each(*kept, {&*morph}, as_files, {}));
    CHECK_FALSE(ReducedOut::open(own_base()));
    const auto back = read_mesh(scratch / "smile_third.obj");
    REQUIRE(back);
    CHECK(back->mesh.corner_vertex == third().mesh.corner_vertex);
    for (std::size_t v = 0; v < shown.size(); v += 7)
        CHECK((kept->reduced[0].to_kit(back->mesh.positions[v]) - shown[v]).norm() < 1e-3);
    const auto glb = read_mesh(scratch / "smile_third.glb");
    REQUIRE(glb);
    REQUIRE(glb->targets.size() == 1);
    CHECK(glb->targets[0].name == "smile");

    SECTION("changed behind the kit's back: said, with the remedy") {
        REQUIRE(write_mesh(folder + "/reduced_third.obj", cube(), 1));
        const auto gone = ReducedMesh::open(*kept, kept->reduced[0]);
        REQUIRE_FALSE(gone);
        CHECK(gone.error().message.find("add it again") != std::string::npos);
    }
    SECTION("taken out again") {
        KitEdits less;
        less.reduced["third"] = "";
        const auto without = edited_kit(*kept, less);
        REQUIRE(without);
        REQUIRE(update_base_kit(*without));
        CHECK(read_base_kit(folder)->reduced.empty());
    }
}

TEST_CASE("Reduced versions: what does not lie on the base is refused") {
    Scratch scratch;
    Mesh beside = third().mesh;
    for (Vec3& p : beside.positions) p.x() += 0.4;
    REQUIRE(write_mesh(scratch / "beside.obj", beside, 1));
    const auto tied = tie_reduced(own_base(), scratch / "beside.obj", "beside");
    REQUIRE_FALSE(tied);
    CHECK(tied.error().message.find("beside.obj") != std::string::npos);
    CHECK_FALSE(tie_reduced(own_base(), third().path, ""));
    CHECK_FALSE(tie_reduced(own_base(), scratch / "none.obj", "none"));
    KitEdits edits;
    edits.reduced["half"] = "";
    CHECK_FALSE(edited_kit(own_base(), edits));
}

TEST_CASE("Skeletons: joints and weights from a file of their own, by the place on its mesh") {
    Scratch scratch;
    // another mesh of the same figure, rigged with the kit's joints under other names, in metres
    Mesh rigged = third().mesh;
    const Similarity to_kit{1000, rotation_to_y_up(UpAxis::PlusZ), Vec3::Zero()};
    SkinWeights weights;
    const SurfaceQuery query(own_base().mesh.positions, own_base().triangulation.triangles);
    for (Vec3& p : rigged.positions) {
        p = to_kit(p);
        const SurfaceHit hit = query.closest(p, 10);
        const auto most = static_cast<std::size_t>(std::max_element(hit.barycentric.begin(), hit.barycentric.end()) -
                                                   hit.barycentric.begin());
        const Index on = own_base().triangulation.triangles[hit.triangle][most];
        weights.joint.push_back(own_base().weights.joint[on]), weights.weight.push_back(own_base().weights.weight[on]);
    }
    std::vector<Joint> joints = own_base().joints;
    for (Joint& joint : joints) joint.name = "bone of " + joint.name;
    GlbModel model;
    model.mesh = &rigged, model.joints = &joints, model.weights = &weights;
    const std::string path = scratch.write("rig.glb", glb_bytes(model));
    const auto skeleton = read_skeleton(path, own_base());
    REQUIRE(skeleton);
    REQUIRE(skeleton->joints.size() == joints.size());
    double off = 0;
    for (const Joint& joint : skeleton->joints) {
        const auto known =
            std::find_if(joints.begin(), joints.end(), [&](const Joint& j) { return j.name == joint.name; });
        REQUIRE(known != joints.end());
        off = std::max(off, (known->position - joint.position).norm());
    }
    CHECK(off < 0.01);
    // what a vertex follows is what it follows in the kit, but for the third of the mesh between
    double differs = 0;
    for (std::size_t v = 0; v < own_base().mesh.positions.size(); ++v) {
        std::map<std::string, double> by;
        double sum = 0;
        for (std::size_t k = 0; k < 4; ++k) {
            by["bone of " + own_base().joints[own_base().weights.joint[v][k]].name] += own_base().weights.weight[v][k];
            if (skeleton->weights.weight[v][k] > 0)
                by[skeleton->joints[skeleton->weights.joint[v][k]].name] -= skeleton->weights.weight[v][k];
            sum += skeleton->weights.weight[v][k];
        }
        CHECK(sum == Approx(1));
        for (const auto& [name, w] : by) differs += std::abs(w) / 2;
    }
    CHECK(differs / static_cast<double>(own_base().mesh.positions.size()) < 0.05);

    SECTION("joints that no mesh follows, and files without any") {
        GlbModel bare = model;
        bare.joints = nullptr, bare.weights = nullptr;
        const auto none = read_skeleton(scratch.write("bare.glb", glb_bytes(bare)), own_base());
        REQUIRE_FALSE(none);
        CHECK(none.error().message.find("no joints") != std::string::npos);
    }
    SECTION("another figure's") {
        for (Vec3& p : rigged.positions) p = 3 * p + Vec3(4000, 0, 0);
        const auto other = read_skeleton(scratch.write("other.glb", glb_bytes(model)), own_base());
        REQUIRE_FALSE(other);
        CHECK(other.error().code == ErrorCode::BadInput);
    }
}

TEST_CASE("Rest poses: arms level and half way down, kept as angles") {
    const auto poses = arm_poses(own_base().joints);
    REQUIRE(poses.size() == 2);
    for (const auto& [name, degrees] : {std::pair{"T", 0.0}, {"A", 45.0}}) {
        CAPTURE(name);
        const PosedJoints posed = pose_joints(own_base().joints, poses.at(name));
        std::vector<Joint> there = own_base().joints;
        for (std::size_t j = 0; j < there.size(); ++j) there[j].position = posed.place[j];
        CHECK(*arms_below_level(there) == Approx(degrees).margin(1e-6));
        // straight: shoulder, elbow and wrist on one line
        const auto at = [&](const char* joint) {
            return std::find_if(there.begin(), there.end(), [&](const Joint& j) { return j.name == joint; })->position;
        };
        CHECK((at("forearm_l") - at("upper_arm_l")).normalized().dot((at("hand_l") - at("forearm_l")).normalized()) ==
              Approx(1));
        const auto again = pose_from(pose_text(poses.at(name), own_base().joints), own_base().joints, "it");
        REQUIRE(again);
        for (std::size_t j = 0; j < again->turns.size(); ++j)
            CHECK((again->turns[j] - poses.at(name).turns[j]).norm() < 1e-9);
    }
    CHECK(arm_poses({{"root", -1, Vec3::Zero()}}).empty());
    Scratch scratch;
    BaseKit with = own_base();
    with.rest_poses = poses;
    REQUIRE(copy_base_kit(with, scratch / "kit"));
    CHECK(read_base_kit(scratch / "kit")->rest_poses.size() == 2);
    CHECK_FALSE(pose_from(R"({"tail": [0, 0, 0]})", own_base().joints, "it"));
}

TEST_CASE("Parts go with what they are told to go with") {
    BaseKit changed = own_base();
    const auto part = [&](const char* name) {
        return &*std::find_if(changed.parts.begin(), changed.parts.end(),
                              [&](const KitPart& p) { return p.name == name; });
    };
    CHECK(part("teeth_upper")->rule() == PartRule::UpperJaw);
    CHECK(part("lash_l")->rule() == PartRule::Edge);
    CHECK(part("eye_r")->rule() == PartRule::Eye);
    // eyes so large that one reaches over to the other: each goes as a whole all the same
    BaseKit big = own_base();
    for (const KitEye& eye : own_base().eyes) {
        for (const Index v : own_base().part(eye.part)->vertices)
            big.mesh.positions[v] = eye.centre + 4 * (big.mesh.positions[v] - eye.centre);
    }
    Points wide = big.mesh.positions;
    for (Vec3& p : wide) p.x() *= 1.2;
    const auto seats = follow_parts(big, nullptr, wide);
    for (std::size_t e = 0; e < seats.size(); ++e) {
        for (const Index v : big.part(big.eyes[e].part)->vertices)
            REQUIRE((wide[v] - seats[e](big.mesh.positions[v])).norm() < 1e-9);
    }
    // the jaw's half of the face goes down
    Points now = own_base().mesh.positions;
    const double mouth = own_base().landmarks.at("stomion").at(now).y();
    for (const Index v : own_base().part("skin")->vertices) {
        if (own_base().mesh.positions[v].y() < mouth) now[v].y() -= 10;
    }
    const auto fall = [&](const BaseKit& with) {
        Points shape = now;
        follow_parts(with, nullptr, shape);
        double sum = 0;
        for (const Index v : own_base().part("tongue")->vertices)
            sum += own_base().mesh.positions[v].y() - shape[v].y();
        return sum / static_cast<double>(own_base().part("tongue")->vertices.size());
    };
    CHECK(fall(changed) > 8);
    KitEdits edits;
    edits.rules["tongue"] = "upper_jaw";
    const auto told = edited_kit(own_base(), edits);
    REQUIRE(told);
    CHECK(fall(*told) < 2);
    Scratch scratch;
    REQUIRE(copy_base_kit(*told, scratch / "kit"));
    CHECK(read_base_kit(scratch / "kit")->part("tongue")->rule() == PartRule::UpperJaw);
    CHECK(Json::parse(scratch.read("kit/figure.json"))["parts"]["tongue"].contains("material"));  // not ours, and kept
    for (const auto& [name, rule] : {std::pair{"tongue", "tail"}, {"skin", "eye"}, {"horn", "skin"}}) {
        KitEdits wrong;
        wrong.rules[name] = rule;
        CHECK_FALSE(edited_kit(own_base(), wrong));
    }
    std::string text = scratch.read("kit/figure.json");
    const auto at = text.find("upper_jaw");
    REQUIRE(at != std::string::npos);
    scratch.write("kit/figure.json", text.replace(at, 9, "sidewards"));
    CHECK_FALSE(read_base_kit(scratch / "kit"));
}

TEST_CASE("Meeting: lids that shut on one face shut on another") {
    const Points& blink = own_base().expressions.at("blink");
    const std::vector<Meeting> meetings = meetings_of(own_base(), blink);
    CHECK(meetings.size() > 20);
    // eyes a third taller: the same ways no longer close them
    Points rest = own_base().mesh.positions, moved;
    const double middle = own_base().eyes.front().centre.y();
    for (Vec3& p : rest) {
        const double away = std::exp(-std::pow((p.y() - middle) / 25, 2));
        p.y() += 0.35 * away * (p.y() - middle);
    }
    for (std::size_t v = 0; v < rest.size(); ++v) moved.push_back(rest[v] + blink[v] - own_base().mesh.positions[v]);
    Points wanted;
    for (const Meeting& m : meetings) wanted.push_back(blink[m.b] - blink[m.a]);
    const auto gap = [&](const Points& shape) {
        double most = 0;
        for (std::size_t m = 0; m < meetings.size(); ++m)
            most = std::max(most, (shape[meetings[m].b] - shape[meetings[m].a] - wanted[m]).norm());
        return most;
    };
    CHECK(gap(moved) > 2);
    const Points ways = closing_ways(own_base(), meetings, wanted, rest, moved);
    Points closed = moved;
    for (std::size_t v = 0; v < closed.size(); ++v) closed[v] += ways[v];
    CHECK(gap(closed) < 0.5);
    // what did not move stays, and nothing jumps between neighbours
    const Adjacency& edges = kit_neighbours(own_base());
    for (const Index v : own_base().part("skin")->vertices) {
        if ((moved[v] - rest[v]).norm() < 0.01) CHECK(ways[v].norm() < 1e-9);
        for (const Index* n = edges.begin(v); n != edges.end(v); ++n)
            CHECK((ways[v] - ways[*n]).norm() < 0.9 * std::max(1.5, (rest[v] - rest[*n]).norm()));
    }
    CHECK(closing_ways(own_base(), {}, {}, rest, moved)[7] == Vec3::Zero());
}

namespace {

// A ball of rings and spokes, as heads are modelled: ring r, spoke s is vertex r * spokes + s.
struct Ball {
    static constexpr int kRings = 24, kSpokes = 40;
    Mesh mesh;
    Ball() {
        for (int r = 0; r < kRings; ++r) {
            for (int s = 0; s < kSpokes; ++s) {
                const double up = M_PI * (r + 1) / (kRings + 1), about = 2 * M_PI * s / kSpokes;
                mesh.positions.emplace_back(100 * std::sin(up) * std::cos(about), 100 * std::cos(up),
                                            100 * std::sin(up) * std::sin(about));
            }
        }
        for (int r = 0; r + 1 < kRings; ++r) {
            for (int s = 0; s < kSpokes; ++s) add_face(mesh, {at(r, s), at(r, s + 1), at(r + 1, s + 1), at(r + 1, s)});
        }
    }
    static Index at(int r, int s) { return static_cast<Index>(r * kSpokes + s % kSpokes); }
    FaceIndices faces() const {
        FaceIndices out;
        for (Index f = 0; f < mesh.face_count(); ++f) out.push_back(f);
        return out;
    }
};

}  // namespace

TEST_CASE("Edge loops: a border that wavers beside a loop lies on it, a line too") {
    const Ball ball;
    const EdgeLoops loops(ball.mesh, ball.faces());
    // from ring 8 down, wavering by less than half a ring
    std::vector<float> values;
    for (int r = 0; r < Ball::kRings; ++r) {
        for (int s = 0; s < Ball::kSpokes; ++s)
            values.push_back(static_cast<float>(std::clamp(0.5 + 0.5 * (8.0 + 0.45 * std::sin(s) - r), 0.0, 1.0)));
    }
    const VertexIndices region = loops.region(values);
    REQUIRE(region.size() == 9 * Ball::kSpokes);
    CHECK(region.back() == Ball::at(8, Ball::kSpokes - 1));
    SECTION("a patch whose border crosses the loops stays as it was carried") {
        std::vector<float> patch(values.size(), 0);
        VertexIndices wanted;
        for (Index v = 0; v < patch.size(); ++v) {
            if ((ball.mesh.positions[v] - Vec3(70, 70, 0)).norm() < 45) patch[v] = 1, wanted.push_back(v);
        }
        CHECK(loops.region(patch) == wanted);
    }
    SECTION("nothing inside, all inside") {
        CHECK(loops.region(std::vector<float>(values.size(), 0)).empty());
        CHECK(loops.region(std::vector<float>(values.size(), 1)).size() == values.size());
    }
    SECTION("a line along a third of a ring") {
        const Triangulation triangles = triangulate(ball.mesh);
        const SurfaceQuery query(ball.mesh.positions, triangles.triangles);
        std::vector<SurfacePoint> carried;
        for (int i = 0; i <= 12; ++i) {
            const Vec3 on = ball.mesh.positions[Ball::at(8, 3 + i)], next = ball.mesh.positions[Ball::at(9, 3 + i)];
            const SurfaceHit hit = query.closest(on + (0.2 + 0.15 * std::sin(i)) * (next - on), 10);
            carried.push_back(surface_point(triangles, hit));
        }
        const std::vector<SurfacePoint> line = loops.line(carried);
        REQUIRE(line.size() == carried.size());
        for (std::size_t i = 0; i < line.size(); ++i) {
            const Vec3 p = line[i].at(ball.mesh.positions);
            CHECK((p - carried[i].at(ball.mesh.positions)).norm() < 8);
            CHECK(std::abs(p.y() - ball.mesh.positions[Ball::at(8, 0)].y()) < 1e-9);
            for (const Index v : line[i].vertices) {
                const Index* first = &ball.mesh.corner_vertex[ball.mesh.face_start[line[i].face]];
                CHECK(std::find(first, first + ball.mesh.face_size(line[i].face), v) !=
                      first + ball.mesh.face_size(line[i].face));
            }
        }
    }
    SECTION("a line across the rings, aslant, stays") {
        const Triangulation triangles = triangulate(ball.mesh);
        std::vector<SurfacePoint> carried;
        for (int i = 0; i < 8; ++i) {
            SurfacePoint p;
            p.face = static_cast<Index>((4 + i) * Ball::kSpokes + 3 + i);
            for (int k = 0; k < 3; ++k)
                p.vertices[static_cast<std::size_t>(k)] = ball.mesh.corner_vertex[4 * p.face + static_cast<Index>(k)];
            p.weights = {0.5, 0, 0.5};
            carried.push_back(p);
        }
        CHECK(loops.line(carried) == carried);
    }
}

TEST_CASE("Edge loops: the demo base's own lids, found again where carried ones waver") {
    const EdgeLoops loops(own_base().mesh, faces_of(*own_base().part("skin")));
    int on_loops = 0, points = 0;
    for (const char* name : {"upper_lid_l", "lower_lid_r", "mouth_line"}) {
        const auto& truth = own_base().curves.at(name);
        const SurfaceQuery query(own_base().mesh.positions, own_base().triangulation.triangles);
        std::vector<SurfacePoint> wavering;
        for (std::size_t i = 0; i < truth.size(); ++i) {
            const Vec3 off(0, 0.25 * std::sin(2.0 * static_cast<double>(i)), 0);
            wavering.push_back(surface_point(own_base().triangulation,
                                             query.closest(truth[i].at(own_base().mesh.positions) + off, 5)));
        }
        const auto line = loops.line(wavering);
        for (std::size_t i = 0; i < line.size(); ++i) {
            ++points;
            on_loops += (line[i].at(own_base().mesh.positions) - truth[i].at(own_base().mesh.positions)).norm() < 0.2;
        }
    }
    CHECK(on_loops > 0.8 * points);
}
