// What the views are given to show: values as colours, shapes of the base, the source, and which views each station
// has.
#include <catch2/catch.hpp>

#include <cmath>

#include "app/colour_maps.h"
#include "app/scene/base_shapes.h"
#include "app/scene/colours.h"
#include "app/stations/registry.h"
#include "app/theme.h"
#include "core/base/placed_box.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

bool same(const Colour& a, const Colour& b) { return a.r == b.r && a.g == b.g && a.b == b.b && a.a == b.a; }
bool same(const Colour& a, const QColor& b) { return same(a, bytes_of(b)); }

}  // namespace

TEST_CASE("Colours: a length's scale is round, and few outliers do not stretch it") {
    CHECK(scale_for({}) == 1);
    CHECK(scale_for({NAN, NAN}) == 1);
    CHECK(scale_for({0, 0, 0}) == 0.1);
    CHECK(scale_for(std::vector<float>(100, 0.3f)) == 0.5);
    std::vector<float> most(1000, 1.9f);
    most[3] = 400;
    most[700] = NAN;
    CHECK(scale_for(most) == 2);
    CHECK(scale_for(std::vector<float>(10, 4000)) == 500);
}

TEST_CASE("Colours: what is not known is grey, ends of the scale hold beyond it") {
    Look look;
    look.colours = Colouring::Distance;
    look.worst = 2;
    const auto distance = look_colours(look, {0, 1, 2, 50, NAN});
    CHECK(same(distance[0], distance_colour(0)));
    CHECK(same(distance[1], distance_colour(0.5)));
    CHECK(same(distance[3], distance[2]));
    for (int i = 0; i < 4; ++i) CHECK_FALSE(same(distance[4], distance[static_cast<std::size_t>(i)]));
    CHECK(same(distance_colours({NAN}, 2)[0], distance[4]));
    CHECK(same(distance_colours({1}, 2)[0], distance[1]));

    SECTION("both ways: inside is told from outside") {
        look.colours = Colouring::SignedDistance;
        const auto both = look_colours(look, {-2, 0, 2, NAN});
        CHECK_FALSE(same(both[0], both[2]));
        CHECK(same(both[1], signed_colour(0)));
        CHECK(same(both[3], distance[4]));
    }
    SECTION("seen by photographs: none, one, two and more") {
        look.colours = Colouring::SeenBy;
        const auto seen = look_colours(look, {0, 1, 2, 7, NAN});
        CHECK(same(seen[0], distance[4]));
        CHECK(same(seen[1], theme::kOchre));
        CHECK(same(seen[2], theme::kTeal));
        CHECK(same(seen[3], seen[2]));
        CHECK(same(seen[4], seen[0]));
    }
}

TEST_CASE("Colours: between two, and shares") {
    const QColor black(0, 0, 0), white(255, 255, 255);
    CHECK(between(black, white, 0) == black);
    CHECK(between(black, white, 1) == white);
    CHECK(std::abs(between(black, white, 0.5).red() - 128) <= 1);
    CHECK(share_colours({0, 1}).size() == 2);
    CHECK_FALSE(same(share_colours({0})[0], share_colours({1})[0]));
}

TEST_CASE("Camera: a surface is faced, but not from straight above") {
    Camera c;
    c.face(Vec3::UnitZ(), 70);
    CHECK(c.yaw == Approx(0));
    CHECK(c.pitch == Approx(0));
    for (const Vec3& normal : {Vec3(1, 0, 0), Vec3(-0.6, 0, -0.8), Vec3(0.36, 0.48, 0.8)}) {
        c.face(normal, 70);
        CHECK((c.forward() + normal).norm() < 1e-9);  // looks against it
    }
    c.face(Vec3::UnitY(), 50);
    CHECK(c.pitch == Approx(50));
    c.face(-Vec3::UnitY(), 50);
    CHECK(c.pitch == Approx(-50));
}

TEST_CASE("Box: what is placed elsewhere lies in the box that is told of it") {
    Box box;
    box.add(Vec3(-1, 0, 2));
    box.add(Vec3(3, 5, 4));
    Similarity by;
    by.scale = 2;
    by.rotation = Eigen::AngleAxisd(M_PI / 2, Vec3::UnitZ()).toRotationMatrix();
    by.translation = Vec3(10, 0, 0);
    const Box there = placed(box, by);
    CHECK((there.low - Vec3(0, -2, 4)).norm() < 1e-12);
    CHECK((there.high - Vec3(10, 6, 8)).norm() < 1e-12);
    CHECK(placed(Box(), by).empty());
}

TEST_CASE("Scene: a shape is packed again only when it must be, and lets a closed project's kit go") {
    Session session;
    OpennessBaker baker(session);
    BaseShapes shapes(session, baker);
    ShownShape shape;
    std::weak_ptr<const BaseKit> first;
    {
        REQUIRE(session.new_from_kit(demo("kit")));
        first = session.state().kit;
        const Points& base = session.state().kit->mesh.positions;
        shapes.show(shape, base);
        const auto mesh = shape.mesh;
        shapes.show(shape, base);
        CHECK(shape.mesh == mesh);
        shapes.show(shape, base, {.level = 1});
        CHECK(shape.mesh != mesh);
        CHECK(shape.mesh->vertices.size() > 3 * mesh->vertices.size());
        shapes.show(shape, base, {.without_body = 55});
        CHECK(shape.mesh->indices.size() < mesh->indices.size());
        std::vector<float> values(base.size(), 0);
        values[7] = 1;
        shapes.show(shape, base, {.level = 1, .values = &values, .coloured = share_colours});
        CHECK(shape.mesh->has_colours());
    }
    REQUIRE(session.new_from_kit(demo("kit")));
    shapes.forget();
    CHECK(first.expired());
    const auto before = shape.mesh;
    shapes.show(shape, session.state().kit->mesh.positions, {.level = 1});
    CHECK(shape.mesh != before);  // another kit's, whatever it looks like
}

TEST_CASE("Scene: a fine figure is packed once for all views, and each has its own positions and pictures") {
    Session session;
    OpennessBaker baker(session);
    BaseShapes shapes(session, baker);
    REQUIRE(session.new_from_kit(demo("kit")));
    const Points& base = session.state().kit->mesh.positions;
    ShownShape one, other;
    shapes.show(one, base, {.level = 2});
    Points raised = base;
    for (Vec3& p : raised) p.y() += 100;
    shapes.show(other, raised, {.level = 2});
    REQUIRE(one.mesh != other.mesh);
    CHECK_FALSE(one.mesh->stand_in.empty());
    CHECK(one.mesh->stand_in == other.mesh->stand_in);
    REQUIRE_FALSE(one.mesh->images.empty());
    CHECK(one.mesh->images[0].cacheKey() == other.mesh->images[0].cacheKey());  // read once
    CHECK(other.mesh->vertices[5].position[1] == Approx(one.mesh->vertices[5].position[1] + 100).epsilon(1e-4));
    other.mesh->set_image(0, QImage(4, 4, QImage::Format_RGBA8888));
    CHECK(one.mesh->images[0].width() > 4);
    ShownShape third;
    shapes.show(third, base, {.level = 2});
    CHECK(third.mesh->images[0].cacheKey() == one.mesh->images[0].cacheKey());
    CHECK(third.mesh->vertices[5].position[1] == one.mesh->vertices[5].position[1]);
}

TEST_CASE("Scene: each station shows the views of its work") {
    Fixture f;
    const auto views = [&] {
        std::string out;
        const std::pair<QWidget*, char> all[] = {{f.window->views().base_view(), 'B'},
                                                 {f.window->views().source_view(), 'S'},
                                                 {f.window->views().photo_view(), 'P'},
                                                 {f.window->views().result_view(), 'R'}};
        for (const auto& [view, letter] : all) {
            if (view->isVisibleTo(&f.window->views())) out += letter;  // the first page may stand in their place
        }
        return out;
    };
    const auto in = [&](Station station) {
        f.window->go_to(station);
        return views();
    };
    SECTION("without a project") {
        for (const StationEntry& entry : stations()) {
            INFO(entry.title);
            const std::string shown = in(entry.station);
            CHECK_FALSE(shown.empty());
            CHECK(shown.find('R') == std::string::npos);
        }
    }
    SECTION("with a scan that is not fitted") {
        f.open_demo(true);
        CHECK(in(Station::Gather) == "BS");
        CHECK(in(Station::Tidy) == "S");
        CHECK(in(Station::Mark) == "BS");
        CHECK(in(Station::Fit) == "BS");
        CHECK(in(Station::Touch) == "S");
        CHECK(in(Station::Prove) == "BR");
        CHECK(in(Station::Bank) == "BR");
        CHECK(in(Station::Deliver) == "BR");
    }
    SECTION("fitted") {
        f.open_demo(true);
        f.fit_quickly();
        CHECK(in(Station::Fit) == "BSR");
        CHECK(in(Station::Touch) == "SR");
        f.find<QToolButton>("look_beside")->click();
        CHECK(views() == "BSR");
        f.window->session().document().undo();  // no fit any more
        CHECK(in(Station::Fit) == "BS");
    }
}
