// What comes back damaged: triangulated, subdivided, with leftovers, turned, with vertices gone.
#include <catch2/catch.hpp>

#include "tests/core/returns_support.h"

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
