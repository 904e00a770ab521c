// Parts of a fit: settings, figures, head fade, what follows, denoising.
#include <catch2/catch.hpp>

#include "core/base/smoothstep.h"
#include "core/fit/presets.h"
#include "core/linalg/statistics.h"
#include "core/mesh/corner_split.h"
#include "tests/core/fit_support.h"

TEST_CASE("Fit settings: written and read again, wrong ones are named") {
    FitSettings s;
    s.part = FitPart::All;
    s.smooth_end_mm = 2.25;
    s.regions["skull"] = {0, 3};
    const auto again = parse_fit_settings(fit_settings_text(s), "s");
    REQUIRE(again);
    CHECK(*again == s);
    CHECK(parse_fit_settings(R"({"speed":1})", "s").error().message.find("'speed'") != std::string::npos);
    CHECK(parse_fit_settings(R"({"levels":0})", "s").error().message.find("'levels'") != std::string::npos);
    CHECK(parse_fit_settings(R"({"part":"leg"})", "s").error().message.find("'part'") != std::string::npos);
    CHECK(parse_fit_settings(R"({"regions":{"skull":{"match":2}}})", "s").error().message.find("'skull'") !=
          std::string::npos);
    CHECK_FALSE(parse_fit_settings("[", "s"));
}

TEST_CASE("Figures: written and read again") {
    FitFigures f;
    f.surface = {0.1, 0.2, 0.3, 7};
    f.landmark_mm["pronasale"] = 1.25;
    f.regions["face"] = {0.01, 0.02, 0.03, 5};
    f.coverage = 0.75;
    f.flipped_faces = 2;
    f.seconds["wrap"] = 1.5;
    f.doubts["skull"] = {{0.75, 2.5, 0.25, 1.5, 0.5, 3, 0.125, 4}, 0.875, DoubtReason::NotSkin};
    const FitFigures g = parse_figures(figures_text(f));
    CHECK(g.surface == f.surface);
    CHECK(g.landmark_mm == f.landmark_mm);
    CHECK(g.regions == f.regions);
    CHECK(g.doubts == f.doubts);
    CHECK(g.coverage == f.coverage);
    CHECK(g.flipped_faces == 2u);
    CHECK(g.seconds == f.seconds);
    CHECK(parse_figures("nonsense").flipped_faces == 0u);
}

TEST_CASE("Head fade: nothing at the ring, everything above the band, only in the head") {
    const auto kit = demo_kit();
    const auto fade = head_fade(*kit, 55);
    for (Index v : kit->neck_ring) REQUIRE(fade[v] == 0);
    for (Index v : kit->region("face")) REQUIRE(fade[v] == 1);
    for (Index v : kit->region("torso")) REQUIRE(fade[v] == 0);
}

TEST_CASE("Follow: on the base itself nothing moves") {
    const auto kit = demo_kit();
    Points x = kit->mesh.positions;
    follow_parts(*kit, nullptr, x);
    double worst = 0;
    for (std::size_t v = 0; v < x.size(); ++v) worst = std::max(worst, (x[v] - kit->mesh.positions[v]).norm());
    CHECK(worst < 1e-6);
}

TEST_CASE("Fit: landmarks of no strength only place the source, whatever is fitted") {
    SubjectOptions options;
    options.lowest_y = -1e9;
    options.subdivisions = 1;
    const SyntheticSubject subject = make_subject(*demo_kit(), options);
    for (const FitPart part : {FitPart::Head, FitPart::All}) {
        FitInput input;
        input.kit = demo_kit().get(), input.source = &subject.scan, input.landmarks = subject.landmarks;
        input.settings.part = part;
        input.settings.landmark_strength = 0;
        input.settings.levels = 4, input.settings.iterations = 1;
        const auto fit = run_fit(input, {});
        REQUIRE(fit);
        for (const Vec3& p : fit->positions) REQUIRE(p.allFinite());
        CHECK(fit->figures.surface.median < 0.5);
    }
}

TEST_CASE("Denoised: noise is averaged out of a curved surface, edges stay, clean surfaces are left alone") {
    // a sphere of 60 mm and, on one side, a step of 3 mm
    std::mt19937 random(4);
    std::normal_distribution<double> noise(0, 0.1);
    const int n = 120;
    Points clean;
    std::vector<Triangle> triangles;
    for (int j = 0; j <= n; ++j) {
        for (int i = 0; i <= n; ++i) {
            const double x = 0.8 * (i - n / 2), y = 0.8 * (j - n / 2);
            clean.emplace_back(x, y, std::sqrt(std::max(0.0, 90.0 * 90 - x * x - y * y)) + (x > 20 ? 3.0 : 0.0));
        }
    }
    for (Index j = 0; j < n; ++j) {
        for (Index i = 0; i < n; ++i) {
            const Index a = j * (n + 1) + i, b = a + 1, c = b + n + 1, d = a + n + 1;
            triangles.push_back({a, b, c}), triangles.push_back({a, c, d});
        }
    }
    CHECK(denoised(clean, triangles).empty());
    Points noisy = clean;
    for (Vec3& p : noisy) p += noise(random) * p.normalized();
    const Points smooth = denoised(noisy, triangles);
    REQUIRE(smooth.size() == noisy.size());
    double before = 0, after = 0, at_step = 0;
    std::size_t many = 0;
    for (std::size_t v = 0; v < clean.size(); ++v) {
        const Vec3 out = clean[v].normalized();
        const double x = clean[v].x(), y = clean[v].y();
        if (std::abs(x) > 40 || std::abs(y) > 40) continue;
        const double was = (noisy[v] - clean[v]).dot(out), is = (smooth[v] - clean[v]).dot(out);
        if (std::abs(x - 20) < 2)
            at_step = std::max(at_step, std::abs(is) - std::abs(was));
        else
            before += was * was, after += is * is, ++many;
    }
    CHECK(std::sqrt(after / static_cast<double>(many)) < 0.75 * std::sqrt(before / static_cast<double>(many)));
    CHECK(at_step < 0.3);  // a step of 3 mm is not worn away
    CHECK(denoised({}, {}).empty());
}

TEST_CASE("Faults: what moved and folded goes back, no more than is needed; what did not fold stays moved") {
    const Mesh flat = sheet(20, 1.0, [](double, double) { return 0.0; });
    WrapProblem problem;
    problem.base = &flat;
    problem.active.assign(flat.positions.size(), 1);
    for (Index f = 0; f < flat.face_count(); ++f) problem.faces.push_back(f);
    const auto surface = surface_of(problem);
    const auto nearest = [&](const Vec3& p) {
        Index best = 0;
        for (Index v = 0; v < flat.positions.size(); ++v)
            if ((flat.positions[v] - p).norm() < (flat.positions[best] - p).norm()) best = v;
        return best;
    };
    Box box;
    for (const Vec3& p : flat.positions) box.add(p);
    const Vec3 size = box.size();
    const Index folded = nearest(box.low + 0.25 * size), raised = nearest(box.low + 0.75 * size);
    const double step = size.maxCoeff() / 20;
    Vec3 up = Vec3::Zero(), along = Vec3::Zero();
    for (int k = 0; k < 3; ++k) (size[k] < 1e-9 ? up : along)[k] = 1;
    Points x = flat.positions;
    x[folded] += 3 * step * along;
    x[raised] += 0.2 * step * up;
    REQUIRE_FALSE(surface_faults(problem, *surface, {}, x).flipped.empty());
    take_back_faults(problem, flat.positions, x);
    CHECK(surface_faults(problem, *surface, {}, x).weight() == 0);
    CHECK((x[folded] - flat.positions[folded]).norm() < 1.5 * step);
    CHECK((x[raised] - flat.positions[raised] - 0.2 * step * up).norm() == 0);

    // faults that were there before are not its business, and nothing else is touched for them
    Points before = flat.positions;
    before[folded] += 3 * step * along;
    Points after = before;
    after[raised] += 0.2 * step * up;
    const Points wanted = after;
    take_back_faults(problem, before, after);
    CHECK(after == wanted);
}

TEST_CASE("Fit: a neck that is thicker than the base's goes over into it without a ledge") {
    const auto kit = demo_kit();
    const std::vector<double>& from_neck = distance_from_neck(*kit);
    const Points& base = kit->mesh.positions;
    constexpr double kThickerMm = 10, kJawMm = 90, kBandMm = 55;
    const std::vector<double> fade = head_fade(*kit, kBandMm);
    Mesh scan = kit->mesh;
    for (const Index v : kit->part("skin")->vertices) {
        const Vec3 out = Vec3(base[v].x(), 0, base[v].z() + 20).normalized();
        const double share = fade[v] > 0 ? 1 - smoothstep((from_neck[v] - kJawMm) / 30) : 1;
        scan.positions[v] += share * kThickerMm * out;
    }
    LandmarkSet marks;
    for (const auto& [name, p] : kit->landmarks)
        if (in_point_set(name, PointSet::Head) && name != "cervicale") marks.points[name] = p.at(scan.positions);
    const FitInput input{kit.get(), {}, &scan, marks, Unit::Millimetre, {}};
    for (const bool known : {false, true}) {
        FitSettings settings;
        settings.known_heads = known;
        FitInput with = input;
        with.settings = settings;
        const auto fit = run_fit(with, {});
        REQUIRE(fit);
        double steepest = 0;
        for (const Triangle& t : skin_triangles(*kit)) {
            const Index a = t[0], b = t[1];
            if (fade[a] <= 0 || std::max(from_neck[a], from_neck[b]) > kBandMm + 10) continue;
            const double change = ((fit->positions[a] - base[a]) - (fit->positions[b] - base[b])).norm();
            steepest = std::max(steepest, change / (base[a] - base[b]).norm());
        }
        INFO("with known heads " << known);
        CHECK(steepest < 2 * 1.5 * kThickerMm / kBandMm);  // twice what the smoothest way over the band needs
        CHECK(fit->figures.flipped_faces == 0);
    }
}

TEST_CASE("Fit: a curve that was marked in part draws nothing from beyond its end") {
    const auto kit = demo_kit();
    VertexMask gone(kit->mesh.positions.size(), 0);
    for (std::size_t v = 0; v < gone.size(); ++v) gone[v] = kit->mesh.positions[v].x() < -3;
    const Mesh half = without_faces_on(kit->mesh, gone);
    LandmarkSet marks;
    for (const auto& [name, p] : kit->landmarks)
        if (in_point_set(name, PointSet::Head) && p.at(half.positions).x() > -3)
            marks.points[name] = p.at(half.positions);
    for (const SurfacePoint& p : kit->curves.at("jaw_line"))
        if (p.at(half.positions).x() > 0) marks.curves["jaw_line"].push_back(p.at(half.positions));
    REQUIRE(marks.curves["jaw_line"].size() < kit->curves.at("jaw_line").size() - 5);
    const auto fit = run_fit({kit.get(), {}, &half, marks, Unit::Millimetre, {}}, {});
    REQUIRE(fit);
    double worst = 0;
    for (const SurfacePoint& p : kit->curves.at("jaw_line"))
        worst = std::max(worst, (p.at(fit->positions) - p.at(kit->mesh.positions)).norm());
    CHECK(worst < 6);
}

TEST_CASE("Fit: a large belly is lifted out of the base, not drawn over its flanks") {
    const auto kit = demo_kit();
    const Vec3 navel = kit->landmarks.at("omphalion").at(kit->mesh.positions);
    Mesh scan = kit->mesh;
    for (Vec3& p : scan.positions)
        p.z() += 45 * std::exp(-(p - navel).squaredNorm() / (2 * 100.0 * 100.0)) *
                 smoothstep((p.z() - navel.z() + 150) / 100);
    FitInput input;
    input.kit = kit.get(), input.source = &scan, input.unit = Unit::Millimetre;
    // the belly's own landmarks are nobody's
    for (const auto& [name, at] : kit->landmarks)
        if ((at.at(kit->mesh.positions) - navel).norm() > 300) input.landmarks.points[name] = at.at(scan.positions);
    input.settings = *fit_preset("body");
    input.settings.take_pose_out = false, input.settings.keep_true_size = true;
    input.settings.levels = 7, input.settings.iterations = 2, input.settings.smooth_end_mm = 6;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    std::vector<double> off;
    for (const Index v : kit->region("body_skin"))
        if ((kit->mesh.positions[v] - navel).norm() < 130)
            off.push_back((fit->positions[v] - scan.positions[v]).norm());
    REQUIRE(off.size() > 100);
    CHECK(median(off) < 5.5);  // by nearest places alone 6.4
}
