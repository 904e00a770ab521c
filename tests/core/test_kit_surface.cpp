// What follows from a kit alone: made once, right, and by many threads at a time.
#include <catch2/catch.hpp>

#include <atomic>
#include <thread>

#include "core/kit/kit_surface.h"
#include "core/spatial/self_intersections.h"
#include "tests/support/demo_kit.h"

using namespace veld;

TEST_CASE("Made once: the value is made by the first who asks, and only then") {
    MadeOnce<int> value;
    std::atomic<int> made{0};
    const auto make = [&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        return 40 + ++made;
    };
    std::vector<const int*> seen(8);
    std::vector<std::thread> threads;
    for (auto& one : seen) threads.emplace_back([&] { one = &value.get(make); });
    for (std::thread& t : threads) t.join();
    CHECK(made == 1);
    for (const int* one : seen) CHECK(one == seen.front());
    CHECK(*seen.front() == 41);

    SECTION("a copy makes its own") {
        const MadeOnce<int> copy(value);
        CHECK(copy.get(make) == 42);
        CHECK(value.get(make) == 41);
    }
    SECTION("a failure leaves it to be made by the next") {
        MadeOnce<int> other;
        CHECK_THROWS_AS(other.get([]() -> int { throw std::bad_alloc(); }), std::bad_alloc);
        CHECK(other.get(make) == 42);
    }
}

TEST_CASE("Kit: what is asked for twice is made once, and a changed copy has its own") {
    const BaseKit& kit = *demo_kit();
    CHECK(&kit_normals(kit) == &kit_normals(kit));
    CHECK(kit_normals(kit) == vertex_normals(kit.mesh.positions, kit.triangulation.triangles));
    CHECK(skin_cuts(kit) == self_intersections(kit.mesh.positions, skin_triangles(kit)));
    CHECK(skin_faces(kit).size() == kit.part("skin")->face_count);

    BaseKit larger = kit;
    for (Vec3& p : larger.mesh.positions) p *= 2;
    CHECK(&kit_neighbours(larger) != &kit_neighbours(kit));
    const std::vector<double>&base = distance_from_neck(kit), &twice = distance_from_neck(larger);
    int compared = 0;
    for (const Index v : kit.region("head_skin")) {
        if (!std::isfinite(base[v])) continue;
        CHECK(twice[v] == Approx(2 * base[v]));
        ++compared;
    }
    CHECK(compared > 1000);
}

TEST_CASE("Kit: the way from the neck grows along the head and is nothing below it") {
    const BaseKit& kit = *demo_kit();
    const std::vector<double>& way = distance_from_neck(kit);
    for (const Index v : kit.neck_ring) CHECK(way[v] == 0);
    const double crown = way[kit.landmarks.at("vertex").vertices[0]],
                 chin = way[kit.landmarks.at("gnathion").vertices[0]];
    CHECK(chin > 20);
    CHECK(crown > chin);
    std::vector<double> fade = head_fade(kit, 50);
    CHECK(fade[kit.landmarks.at("vertex").vertices[0]] == 1);
    for (const Index v : kit.region("body_skin")) CHECK((fade[v] == 0 || way[v] == 0));
}
