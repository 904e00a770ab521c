// The fit on subjects whose truth is known.
#include <catch2/catch.hpp>

#include "core/proof/carry_expression.h"
#include "tests/core/fit_support.h"

TEST_CASE("Fit: made-up heads come back within the figures we hold ourselves to", "[accuracy]") {
    const auto kit = demo_kit();
    for (unsigned seed : {1u, 6u}) {
        SubjectOptions options;
        options.seed = seed;
        const SyntheticSubject subject = make_subject(*kit, options);
        REQUIRE(subject.landmarks.points.size() == 40);
        const auto fit = run_fit({kit.get(), {}, &subject.scan, subject.landmarks, {}, {}}, {});
        REQUIRE(fit);
        Points mm = in_source_frame(*fit);
        const Similarity back = subject.scan_from_mm.inverse();
        for (Vec3& p : mm) p = back(p);
        const TruthFigures t = compare_with_truth(*kit, subject, mm);
        INFO("seed " << seed);
        CHECK(t.face_mean <= 1.0);
        CHECK(t.head_mean <= 1.6);
        CHECK(t.face_surface_median <= 0.08);
        CHECK(t.eye_worst <= 0.5);
        CHECK(fit->figures.flipped_faces == 0);
        CHECK(fit->figures.self_intersections == 0);
    }
}

TEST_CASE("Fit: the demo's head scan") {
    const auto kit = demo_kit();
    const FitResult* fit = &demo_fit();
    CHECK(fit->figures.regions.at("face").median <= 0.15);
    CHECK(fit->figures.flipped_faces == 0);
    CHECK(fit->figures.self_intersections == 0);
    CHECK(fit->figures.coverage > 0.95);
    CHECK(face_to_truth(*fit) < 1.7);
    SECTION("the body is untouched, to the last bit") {
        for (Index v : kit->region("body_skin")) REQUIRE(fit->positions[v] == kit->mesh.positions[v]);
    }
    SECTION("eyeballs are still spheres, and no lid is inside") {
        for (const KitEye& eye : kit->eyes) {
            const auto& part = kit->part(eye.part)->vertices;
            Points from, to;
            for (Index v : part) from.push_back(kit->mesh.positions[v]), to.push_back(fit->positions[v]);
            SimilarityOptions exact;
            exact.outlier_mm = 0;
            const auto moved = fit_similarity(from, to, exact);
            REQUIRE(moved);
            double worst = 0;
            for (std::size_t i = 0; i < part.size(); ++i) worst = std::max(worst, ((*moved)(from[i]) - to[i]).norm());
            CHECK(worst < 1e-6);  // a similarity of the base's sphere is a sphere
            const Vec3 centre = (*moved)(eye.centre);
            const double scale = moved->scale;
            double nearest = 1e9;
            for (Index v : kit->part("skin")->vertices)
                nearest = std::min(nearest, (fit->positions[v] - centre).norm());
            CHECK(nearest >= scale * eye.radius);
        }
    }
    SECTION("teeth are rigid") {
        for (const char* name : {"teeth_upper", "teeth_lower", "tongue"}) {
            const auto& part = kit->part(name)->vertices;
            for (std::size_t i = 1; i < part.size(); i += 7) {
                const double before = (kit->mesh.positions[part[i]] - kit->mesh.positions[part[0]]).norm();
                REQUIRE((fit->positions[part[i]] - fit->positions[part[0]]).norm() == Approx(before).margin(1e-6));
            }
        }
    }
    SECTION("it blinks, smiles and opens its mouth, and no skin cuts itself") {
        for (const char* name : {"blink", "smile", "jaw_open"}) {
            CAPTURE(name);
            const auto shape = carry_expression(*kit, fit->positions, name);
            REQUIRE(shape);
            const ContactFigures contact = contact_figures(*kit, *shape, name);
            CHECK(contact.cuts == 0);
            CHECK(contact.gap_mm <= 0.1);
            CHECK(contact.outside_mm >= 0);
        }
    }
    SECTION("the same input gives the same result") {
        const auto again = run_fit(demo_input(), {});
        REQUIRE(again);
        double worst = 0;
        for (std::size_t v = 0; v < fit->positions.size(); ++v)
            worst = std::max(worst, (fit->positions[v] - again->positions[v]).norm());
        CHECK(worst < 1e-6);
    }
}

TEST_CASE("Fit: a base that is folded somewhere is fitted as closely as a clean one elsewhere") {
    const FitResult* clean = &demo_fit();
    BaseKit folded = *demo_kit();
    // a vertex of the cheek far over its neighbour: faces there stand on their heads
    const Index v = folded.landmarks.at("cheek_l").vertices[0], n = *kit_neighbours(folded).begin(v);
    folded.mesh.positions[v] += 2.5 * (folded.mesh.positions[n] - folded.mesh.positions[v]);
    FitInput in = demo_input();
    in.kit = &folded;
    const auto fit = run_fit(in, {});
    REQUIRE(fit);
    for (const char* region : {"skull", "nose", "mouth", "chin"}) {
        const auto at = clean->figures.regions.find(region);
        if (at == clean->figures.regions.end()) continue;
        CAPTURE(region);
        CHECK(fit->figures.regions.at(region).median < 1.15 * at->second.median + 0.002);
    }
    CHECK(fit->figures.surface.median < 1.1 * clean->figures.surface.median + 0.002);
}

TEST_CASE("Fit: with the true size kept, the head has the size of the scan") {
    FitInput input = demo_input();
    input.settings.keep_true_size = true;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    CHECK(fit->placement.size_ratio == Approx(1.0).margin(1e-9));
    CHECK(face_to_truth(*fit) < 1.9);
}

TEST_CASE("Fit: a covered region keeps the base's form and is not counted") {
    FitInput input = demo_input();
    input.settings.regions["skull"].match = 0;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    const Index crown = demo_kit()->landmarks.at("vertex").vertices[0];
    CHECK(std::isnan(fit->distances[crown]));
    // under the cap the free skull stays lower than the knitted one
    CHECK(fit->positions[crown].y() < demo_fit().positions[crown].y());
    CHECK(fit->figures.flipped_faces == 0);
}

TEST_CASE("Fit: cancelled at any moment it stops and changes nothing") {
    for (int after : {0, 1, 7, 30}) {
        int calls = 0;
        Progress progress;
        progress.cancelled = [&] { return calls++ >= after; };
        const auto fit = run_fit(demo_input(), progress);
        REQUIRE_FALSE(fit);
        CHECK(fit.error().code == ErrorCode::Cancelled);
    }
}

TEST_CASE("Fit: progress rises and the live mesh is whole") {
    double last = -1;
    std::size_t live = 0;
    Progress progress;
    progress.report = [&](double f, const std::string& stage) {
        CHECK(f >= last);
        CHECK_FALSE(stage.empty());
        last = f;
    };
    progress.live = [&](const Points& x) {
        ++live;
        REQUIRE(x.size() == demo_kit()->mesh.positions.size());
    };
    FitInput input = demo_input();
    input.settings.levels = 4;
    input.settings.iterations = 1;
    REQUIRE(run_fit(input, progress));
    CHECK(last == 1.0);
    CHECK(live >= 4);
}

TEST_CASE("Fit: exchanged sides are named, and swapping repairs it") {
    FitInput input = demo_input();
    input.landmarks = swap_sides(input.landmarks);
    const auto fit = run_fit(input, {});
    REQUIRE_FALSE(fit);
    CHECK(fit.error().message.find("Left and right look exchanged") == 0);
    PlaceInput place{demo_kit().get(), demo_kit()->landmarks, swap_sides(input.landmarks), {}, FitPart::Head, false};
    CHECK_FALSE(sides_exchanged(place));
    REQUIRE(place_by_landmarks(place));
}

TEST_CASE("Fit: the unit is guessed from the landmarks") {
    for (Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Metre, Unit::Inch}) {
        LandmarkSet set = demo_kit()->landmark_positions();
        for (auto& [name, p] : set.points) p /= millimetres(unit);
        const auto placed =
            place_by_landmarks({demo_kit().get(), demo_kit()->landmarks, set, {}, FitPart::Head, false});
        REQUIRE(placed);
        CHECK(placed->unit == unit);
        CHECK(placed->size_ratio == Approx(1.0).margin(1e-9));
    }
}

TEST_CASE("Fit: hopeless input is refused with a remedy") {
    FitInput input = demo_input();
    const auto refusal = [&] { return run_fit(input, {}).error().message; };
    SECTION("no landmarks") {
        input.landmarks.points.clear();
        CHECK(refusal().find("at least three") != std::string::npos);
    }
    SECTION("landmarks on one line") {
        input.landmarks.points = {
            {"sellion", {0, 0, 0}}, {"pronasale", {0, -1, 0}}, {"subnasale", {0, -2, 0}}, {"stomion", {0, -3, 0}}};
        CHECK(refusal().find("one line") != std::string::npos);
    }
    SECTION("a scan with one triangle") {
        Mesh one;
        one.positions = {{0.2, 0.2, 0.2}, {0.3, 0.2, 0.2}, {0.2, 0.3, 0.2}};
        add_face(one, {0, 1, 2});
        input.source = &one;
        CHECK(refusal().find("1 usable triangles") != std::string::npos);
    }
    SECTION("not-a-number in the scan") {
        Mesh bad = ottoline().scan.mesh;
        bad.positions[77].x() = std::nan("");
        input.source = &bad;
        CHECK(refusal().find("vertex 77") != std::string::npos);
    }
}

TEST_CASE("Fit: non-manifold, duplicated and inside-out faces do no harm") {
    Mesh messy = ottoline().scan.mesh;
    const Index faces = messy.face_count();
    for (Index f = 0; f < faces; f += 50) {
        const Index c = messy.face_start[f];
        const Index a = messy.corner_vertex[c], b = messy.corner_vertex[c + 1], d = messy.corner_vertex[c + 2];
        for (Index v : {a, b, d, b, a, d}) {
            messy.corner_vertex.push_back(v);
            if (!messy.corner_uv.empty()) messy.corner_uv.push_back(kNone);
            if (messy.corner_vertex.size() % 3 == 0) {
                messy.face_start.push_back(static_cast<Index>(messy.corner_vertex.size()));
                messy.face_group.push_back(0), messy.face_material.push_back(0);
            }
        }
    }
    FitInput input = demo_input();
    input.source = &messy;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    CHECK(fit->figures.flipped_faces == 0);
    CHECK(fit->figures.regions.at("face").median <= 0.15);
}

TEST_CASE("Fit: a whole figure gives its shape without its pose", "[accuracy]") {
    const auto kit = demo_kit();
    Pose stance = rest_pose(kit->joints);
    stance.stretch.assign(kit->joints.size(), Mat3::Identity());
    for (std::size_t j = 0; j < kit->joints.size(); ++j) {
        const std::string& name = kit->joints[j].name;
        if (name == "upper_arm_l") stance.turns[j] = Eigen::AngleAxisd(-0.35, Vec3::UnitZ()).toRotationMatrix();
        if (name == "head") stance.turns[j] = Eigen::AngleAxisd(0.1, Vec3::UnitY()).toRotationMatrix();
        if (name.starts_with("shin")) stance.stretch[j] = Vec3(1, 1.06, 1).asDiagonal();
    }
    const BaseKit figure = posed_kit(*kit, stance);
    FitInput input;
    input.kit = kit.get(), input.source = &figure.mesh;
    for (const auto& [name, place] : kit->landmarks) {
        if (!name.starts_with("pupil")) input.landmarks.points[name] = place.at(figure.mesh.positions);
    }
    input.unit = Unit::Millimetre;
    input.settings.part = FitPart::All;
    input.settings.levels = 6, input.settings.iterations = 1;
    const Points wanted = at_rest(*kit, figure.mesh.positions, stance);
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    REQUIRE(fit->pose);
    const Points rest = at_rest(*kit, fit->positions, fit->pose);
    const double size = fit->placement.size_ratio;
    for (const char* region : {"face", "forearm_l", "hand_all_l", "shin_r", "foot_l"}) {
        double sum = 0;
        // put on the middle of the region: which height a figure stands at is a matter of its feet
        Vec3 shift = Vec3::Zero();
        for (const Index v : kit->region(region))
            shift += (wanted[v] - rest[v] / size) / static_cast<double>(kit->region(region).size());
        for (const Index v : kit->region(region)) sum += (rest[v] / size + shift - wanted[v]).norm();
        INFO(region);
        CHECK(sum / static_cast<double>(kit->region(region).size()) < 3);
    }
    CHECK((rest[kit->landmarks.at("dactylion_3_l").vertices[0]] -
           fit->positions[kit->landmarks.at("dactylion_3_l").vertices[0]])
              .norm() > 100);
    SECTION("with the true size kept, the shape at rest is as large as the figure is") {
        Mesh large = figure.mesh;
        for (Vec3& p : large.positions) p *= 1.08;
        FitInput whole = input;
        whole.source = &large;
        for (auto& [name, p] : whole.landmarks.points) p *= 1.08;
        whole.settings.keep_true_size = true;
        const auto kept = run_fit(whole, {});
        REQUIRE(kept);
        REQUIRE(kept->pose);
        CHECK(kept->placement.size_ratio == Approx(1));
        CHECK(kept->placement.source_to_kit.scale == Approx(1));
        const Points shape = at_rest(*kit, kept->positions, kept->pose);
        const auto height = [](const Points& x) { return bounding_box(x).size().y(); };
        CHECK(height(shape) == Approx(1.08 * height(wanted)).epsilon(0.01));
        CHECK(bounding_box(shape).low.y() == Approx(bounding_box(kit->mesh.positions).low.y()).margin(0.01));
    }
    SECTION("made symmetric, it is so at rest and not as it stands") {
        FitInput even = input;
        even.settings.symmetry = 1;
        const auto symmetric = run_fit(even, {});
        REQUIRE(symmetric);
        const Points shape = unposed(symmetric->positions, kit->joints, kit->weights, *symmetric->pose);
        double worst = 0;
        for (const Index v : kit->region("face")) {
            const Vec3& m = shape[kit->mirror[v]];
            worst = std::max(worst, (shape[v] - Vec3(-m.x(), m.y(), m.z())).norm());
        }
        CHECK(worst < 1e-6);
        CHECK(symmetric->figures.symmetry_mm > 1);
    }
    SECTION("a refit stays in its pose") {
        FitInput moved = input;
        moved.landmarks.points["pronasale"] += Vec3(0, 0, 3);
        double solved = 0;
        const auto again = refit(
            moved, {&fit->positions, fit->placement, fit->pose, fit->settings, input.landmarks, nullptr, fit->cache},
            {}, &solved);
        REQUIRE(again);
        CHECK(solved < 0.5);
        REQUIRE(again->pose);
        CHECK(again->pose->move == fit->pose->move);
        CHECK(
            (again->positions[kit->region("foot_l").front()] - fit->positions[kit->region("foot_l").front()]).norm() ==
            0);
    }
    SECTION("the project keeps the pose, and what is measured again is measured in it") {
        Scratch scratch;
        ProjectState s = new_project(kit);
        Source source;
        source.name = "figure", source.mesh = std::make_shared<Mesh>(figure.mesh), source.landmarks = input.landmarks,
        source.unit = Unit::Millimetre;
        s.subjects.push_back({"Someone", {source}, {}});
        FitResult copy = *fit;
        s.subjects[0].fits.push_back(make_record(*kit, std::move(copy), source, {}, nullptr));
        REQUIRE(save_project(scratch / "p.veldstone", s));
        const auto back = load_project(scratch / "p.veldstone");
        REQUIRE(back);
        REQUIRE(back->state.fit()->pose);
        REQUIRE(rest_shape(*kit, *back->state.fit()) == rest);
        auto measuring = measuring_of(back->state);
        REQUIRE(measuring);
        REQUIRE(measure(*measuring, {}));
        CHECK(measuring->record.figures.surface.median == Approx(fit->figures.surface.median).margin(1e-6));
        CHECK(measuring->record.figures.edge_p95 == Approx(fit->figures.edge_p95).margin(1e-6));
    }
    SECTION("cancelled while the skeleton bends") {
        Progress progress;
        int asked = 0;
        progress.cancelled = [&] { return ++asked > 5; };
        const auto none = run_fit(input, progress);
        REQUIRE_FALSE(none);
        CHECK(none.error().code == ErrorCode::Cancelled);
    }
}
