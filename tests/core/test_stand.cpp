// How a source stands: unit, axis, what kind of thing it is.
#include <catch2/catch.hpp>

#include "core/rig/pose.h"
#include "tests/core/gather_support.h"

TEST_CASE("Stand: unit and axis are guessed with a reason") {
    Mesh figure = sphere(10, 1);
    const auto guess = [&](const Vec3& size, const char* path) {
        Mesh m = figure;
        for (Vec3& p : m.positions) p = 0.5 * p.cwiseProduct(size);
        return guess_frame(m, path, {});
    };
    REQUIRE(guess({0.6, 1.75, 0.4}, "a.obj").unit == Unit::Metre);
    REQUIRE(guess({60, 40, 175}, "a.obj").unit == Unit::Centimetre);
    REQUIRE(guess({60, 40, 175}, "a.obj").up == UpAxis::PlusZ);
    REQUIRE(guess({600, 1750, 400}, "a.obj").unit == Unit::Millimetre);
    REQUIRE(guess({300, 420, 300}, "a.obj").unit == Unit::Millimetre);
    REQUIRE(guess({0.3, 0.42, 0.3}, "a.ply").unit == Unit::Metre);
    REQUIRE(guess({30, 42, 30}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({30, 42, 30}, "a.glb").unit == Unit::Metre);
    REQUIRE(guess({30, 42, 30}, "a.ply").up == UpAxis::PlusY);
    REQUIRE(guess({50, 59, 36}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({20, 69, 12}, "a.obj").unit == Unit::Inch);
    REQUIRE(guess({86, 76, 184}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({1.75, 1.75, 0.3}, "a.obj").unit == Unit::Metre);
    LandmarkSet marks;
    marks.unit = Unit::Inch;
    marks.points = {{"gnathion", {0, 0, 1}}, {"sellion", {0.1, 0, -4}}};
    const FrameGuess by_marks = guess_frame(figure, "a.obj", marks);
    REQUIRE(by_marks.unit == Unit::Inch);
    REQUIRE(by_marks.up == UpAxis::MinusZ);
    REQUIRE_FALSE(by_marks.unit_reason.empty());
}

TEST_CASE("Stand: a figure whose arms are level is stood on its feet, though its span is longer than its height") {
    const BaseKit& kit = *demo_kit();
    Mesh figure = kit.mesh;
    figure.positions = skin(figure.positions, kit.joints, kit.weights, kit.rest_poses.at("T"));
    const double height = bounding_box(figure.positions).size().y();
    const double span = bounding_box(figure.positions).size().x();
    for (Vec3& p : figure.positions) p.x() *= 1.08 * height / span;
    for (const UpAxis up : {UpAxis::PlusY, UpAxis::PlusZ, UpAxis::PlusX}) {
        Mesh turned = figure;
        for (Vec3& p : turned.positions) p = rotation_to_y_up(up).transpose() * p;
        CHECK(guess_frame(turned, "figure.obj", {}).up == up);
    }
}

TEST_CASE("Stand: proportions tell a figure, a bust and a head apart, in any unit and along any axis") {
    const auto kind = [](Points p, const Mat3& turn, double scale) {
        for (Vec3& x : p) x = scale * (turn * x);
        return guess_subject(p);
    };
    const BaseKit& kit = *demo_kit();
    Points figure = kit.mesh.positions, head, bust;
    for (const Vec3& p : figure) {
        if (p.y() > 1460) head.push_back(p);
        if (p.y() > 1250 && std::abs(p.x()) < 240) bust.push_back(p);
    }
    const Mesh bram = std::move(gather(demo("subjects/bram/bram_scan.ply")).meshes.front().file.mesh);
    const Mesh ottoline = std::move(gather(demo("subjects/ottoline/ottoline_scan.glb")).meshes.front().file.mesh);
    for (const UpAxis up : {UpAxis::PlusY, UpAxis::PlusZ, UpAxis::MinusX}) {
        const Mat3 turn = rotation_to_y_up(up).transpose();
        for (const double scale : {1.0, 0.001, 1 / 304.8, 7.3}) {
            CHECK(kind(figure, turn, scale).kind == SubjectKind::Figure);
            CHECK(kind(bram.positions, turn, scale).kind == SubjectKind::Figure);
            CHECK(kind(head, turn, scale).kind == SubjectKind::Head);
            CHECK(kind(bust, turn, scale).kind != SubjectKind::Figure);
            CHECK(kind(ottoline.positions, turn, scale).kind != SubjectKind::Figure);
        }
    }
    // a figure in feet or decimetres has no size that a head could not have: its form tells
    for (const Unit unit :
         {Unit::Foot, Unit::Decimetre, Unit::Inch, Unit::Centimetre, Unit::Metre, Unit::Millimetre}) {
        Mesh mesh = kit.mesh;
        for (Vec3& p : mesh.positions) p /= millimetres(unit);
        const FrameGuess guess = guess_frame(mesh, "figure.obj", {});
        INFO(unit_name(unit) << ": " << guess.unit_reason);
        CHECK(guess.unit == unit);
        CHECK(guess.unit_reason.find("figure") != std::string::npos);
        // and is stood on the floor
        CHECK(bounding_box(upright_copy(mesh, rough_upright(mesh, guess.unit, guess.up, 1740)).positions).low.y() ==
              Approx(0).margin(1e-6));
    }
    // a box of height 1, as some programs normalise everything
    Mesh one = kit.mesh;
    for (Vec3& p : one.positions) p /= 1740;
    CHECK(guess_frame(one, "one.obj", {}).unit == Unit::Metre);
    CHECK(is_figure(one.positions, 1000));
}

TEST_CASE("Stand: hats, masks, large heads and cloaks are told apart as well") {
    const auto body = [](std::initializer_list<std::array<Vec3, 2>> parts) {  // ellipsoids: where, how large
        Mesh out;
        for (const auto& [at, radii] : parts) {
            Points p = sphere(24, 1).positions;
            for (Vec3& x : p) out.positions.push_back(at + x.cwiseProduct(radii));
        }
        return out;
    };
    const std::array<Vec3, 2> head{Vec3(0, 150, 0), Vec3(78, 120, 100)}, neck{Vec3(0, 30, -10), Vec3(55, 60, 55)};
    struct Case {
        const char* what;
        Mesh mesh;  // mm, Y up
        bool figure;
    };
    const Case cases[] = {
        {"a head in a wide hat",
         body({head, neck, {Vec3(0, 240, 0), Vec3(210, 12, 210)}, {Vec3(0, 280, 0), Vec3(85, 60, 100)}}), false},
        {"a head in a pointed hat",
         body({head, neck, {Vec3(0, 240, 0), Vec3(160, 12, 160)}, {Vec3(0, 400, 0), Vec3(70, 180, 80)}}), false},
        {"a head with horns",
         body({head, neck, {Vec3(110, 280, 0), Vec3(14, 90, 14)}, {Vec3(-110, 280, 0), Vec3(14, 90, 14)}}), false},
        {"a head with long hair", body({head, neck, {Vec3(0, 60, -60), Vec3(110, 230, 60)}}), false},
        {"a face like a mask", body({{Vec3(0, 150, 0), Vec3(78, 115, 34)}, {Vec3(0, 140, 34), Vec3(16, 30, 22)}}),
         false},
        {"a bust", body({head, neck, {Vec3(0, -110, -10), Vec3(230, 110, 110)}}), false},
        {"a child with a large head, arms out",
         body({{Vec3(0, 1000, 0), Vec3(180, 200, 180)},
               {Vec3(0, 580, 0), Vec3(150, 250, 120)},
               {Vec3(80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(-80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(330, 720, 0), Vec3(250, 45, 45)},
               {Vec3(-330, 720, 0), Vec3(250, 45, 45)}}),
         true},
        {"a child with a large head, arms half down",
         body({{Vec3(0, 1000, 0), Vec3(180, 200, 180)},
               {Vec3(0, 580, 0), Vec3(150, 250, 120)},
               {Vec3(80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(-80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(200, 660, 0), Vec3(130, 45, 45)},
               {Vec3(-200, 660, 0), Vec3(130, 45, 45)},
               {Vec3(350, 540, 0), Vec3(60, 60, 40)},
               {Vec3(-350, 540, 0), Vec3(60, 60, 40)}}),
         true},
        {"a giant in a cloak",
         body({{Vec3(0, 1850, 0), Vec3(90, 130, 110)}, {Vec3(0, 800, -40), Vec3(360, 900, 260)}}), true},
        {"someone seated",
         body({{Vec3(0, 1200, 0), Vec3(78, 120, 100)},
               {Vec3(0, 820, 0), Vec3(200, 300, 130)},
               {Vec3(90, 500, 200), Vec3(80, 80, 260)},
               {Vec3(-90, 500, 200), Vec3(80, 80, 260)},
               {Vec3(90, 240, 420), Vec3(60, 240, 70)},
               {Vec3(-90, 240, 420), Vec3(60, 240, 70)}}),
         true},
    };
    for (const Case& c : cases) {
        for (const Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Metre}) {
            Mesh mesh = c.mesh;
            for (Vec3& p : mesh.positions) p /= millimetres(unit);
            const FrameGuess guess = guess_frame(mesh, "any.obj", {});
            INFO(c.what << " in " << unit_name(unit) << ": " << guess.unit_reason);
            CHECK(guess.unit == unit);
            CHECK(is_figure(mesh.positions, millimetres(unit)) == c.figure);
        }
    }
}

TEST_CASE("Stand: made-up heads in any attitude end upright, facing front", "[accuracy]") {
    for (unsigned seed : {3u, 4u, 5u}) {
        SubjectOptions options;
        options.seed = seed;
        const SyntheticSubject s = make_subject(*demo_kit(), options);
        const Similarity rough = rough_upright(s.scan, Unit::Centimetre, UpAxis::PlusY, 1740);
        const auto stood = straighten(s.scan, *demo_kit(), rough, {});
        INFO("seed " << seed);
        REQUIRE(stood);
        // the subject is the kit's head, warped: its own axes are the kit's
        const Mat3 left = stood->to_upright.rotation * s.scan_from_mm.rotation;
        INFO(stood->said);
        CHECK(degrees_between(left * Vec3::UnitX(), Vec3::UnitX()) < 5);
        CHECK(degrees_between(left * Vec3::UnitY(), Vec3::UnitY()) < 8);
        const Vec3 nose = stood->to_upright(s.scan_from_mm(demo_kit()->landmarks.at("pronasale").at(s.truth_mm)));
        CHECK(std::abs(nose.x()) < 4);
    }
    const auto ball = straighten(sphere(20, 120), *demo_kit(), {}, {});
    INFO((ball ? ball->said : ""));
    REQUIRE_FALSE(ball);
}

TEST_CASE("Stand: by picked points, by turning, on the floor") {
    const BaseKit& kit = *demo_kit();
    const auto at = [&](const char* name) { return kit.landmarks.at(name).at(kit.mesh.positions); };
    Similarity away;
    away.scale = 0.1;
    away.rotation = Eigen::AngleAxisd(2.1, Vec3(1, -2, 0.5).normalized()).toRotationMatrix();
    away.translation = Vec3(40, 5, -9);
    const Vec3 right = 0.5 * (at("exocanthion_r") + at("endocanthion_r")),
               left = 0.5 * (at("exocanthion_l") + at("endocanthion_l"));
    Similarity now;
    now.scale = 10;
    const auto stood = straighten_by_face(kit, now, {away(right), away(left), away(at("pronasale"))});
    REQUIRE(stood);
    REQUIRE(((*stood)(away(right)) - right).norm() < 1e-6);
    REQUIRE(((*stood)(away(at("gnathion"))) - at("gnathion")).norm() < 1e-6);
    REQUIRE(straighten_by_face(kit, now, {right, right, right}).error().code == ErrorCode::DegenerateInput);
    const auto level = level_by_floor({}, Vec3(-100, 10, 0), Vec3(100, 30, 5));
    REQUIRE(std::abs((*level)(Vec3(-100, 10, 0)).y()) < 1e-9);
    REQUIRE(std::abs((*level)(Vec3(100, 30, 5)).y()) < 1e-9);
    REQUIRE_FALSE(level_by_floor({}, Vec3(0, 0, 0), Vec3(0, 50, 0)));
    const Similarity quarter = turned({}, Vec3(1, 2, 3), Vec3(0, 90, 0));
    REQUIRE((quarter(Vec3(1, 2, 4)) - Vec3(2, 2, 3)).norm() < 1e-12);
    const Mesh ball = sphere(10, 40);
    const Similarity floored = on_the_floor(ball, moved({}, Vec3(9, 9, 9)));
    Box box;
    for (const Vec3& p : ball.positions) box.add(floored(p));
    REQUIRE(std::abs(box.low.y()) < 1e-9);
    REQUIRE(std::abs(box.centre().x()) < 1e-9);
}
