// Heads that share nothing with the kit: what is true of them, their ears and their open mouths.
#include <catch2/catch.hpp>

#include "core/detect/caliper.h"
#include "core/detect/detect.h"
#include "core/detect/lid_edges.h"
#include "core/detect/lip_edges.h"
#include "core/detect/mark_ears.h"
#include "core/detect/side_relief.h"
#include "core/fit/articulate.h"
#include "core/fit/fit.h"
#include "core/fit/jaw.h"
#include "core/fit/presets.h"
#include "core/kit/lips.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"
#include "core/tidy/orient.h"
#include "demo/standins/foreign/scan.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// A grown person, nothing worn, clean and upright.
foreign::Form plain_form(unsigned seed) {
    foreign::Form form = foreign::make_form(seed);
    form.kind = foreign::Kind::Adult, form.cover = foreign::Cover::Bald, form.mouth = foreign::Mouth::Shut;
    form.jaw_open = 0, form.beard = form.glasses = form.collar = false;
    form.ear.missing = false, form.ear.pointed = 0, form.ear.stands_off = 24;
    return form;
}

foreign::Scan plain_scan(const foreign::Form& form, double cell_mm = 1.3) {
    foreign::ScanOptions options;
    options.cell_mm = cell_mm, options.any_frame = false;
    return foreign::make_scan(foreign::Head(form), options);
}

// Where the face lies in the kit's frame, by the truth.
Similarity to_kit(const foreign::Scan& scan) {
    Points from, to;
    for (const char* name : {"exocanthion_l", "exocanthion_r", "endocanthion_l", "endocanthion_r", "pronasale",
                             "subnasale", "cheilion_l", "cheilion_r"}) {
        from.push_back(scan.points.at(name));
        to.push_back(demo_kit()->landmarks.at(name).at(demo_kit()->mesh.positions));
    }
    return *fit_similarity(from, to);
}

const BaseKit& open_kit() {
    static const BaseKit kit = posed_kit(*demo_kit(), jaw_pose(*demo_kit(), 14));
    return kit;
}

double nearest_of(const Vec3& p, const Points& line) {
    double best = 1e18;
    for (const Vec3& q : line) best = std::min(best, (p - q).norm());
    return best;
}

}  // namespace

TEST_CASE("Foreign heads: their landmarks lie on their surface, and the same seed gives the same head") {
    const foreign::Form form = foreign::make_form(4);
    const foreign::Head head(form);
    foreign::ScanOptions options;
    options.cell_mm = 2, options.any_frame = false;
    const foreign::Scan scan = foreign::make_scan(head, options), again = foreign::make_scan(head, options);
    REQUIRE(scan.mesh.positions == again.mesh.positions);
    REQUIRE(scan.stuff.size() == scan.mesh.positions.size());
    REQUIRE(scan.points.size() > 35);
    for (const auto& [name, p] : scan.points) {
        INFO(name);
        REQUIRE(std::abs(head.skin(p)) < 0.7);
    }
    // outside is where the normals point
    double volume = 0;
    for (const Triangle& t : triangulate(scan.mesh).triangles)
        volume += scan.mesh.positions[t[0]].dot(scan.mesh.positions[t[1]].cross(scan.mesh.positions[t[2]])) / 6;
    REQUIRE(volume > 0);
    REQUIRE(scan.points.at("pupil_l").x() > 20);
    REQUIRE(scan.points.at("pupil_r").x() < -20);
}

TEST_CASE("Foreign heads: any attitude and unit can be undone") {
    const foreign::Head head(plain_form(3));
    foreign::ScanOptions options;
    options.cell_mm = 2.5;
    const foreign::Scan scan = foreign::make_scan(head, options);
    const Similarity back = scan.from_head.inverse();
    double worst = 0;
    for (std::size_t v = 0; v < scan.mesh.positions.size(); v += 50)
        worst = std::max(worst, std::abs(head.all(back(scan.mesh.positions[v]))));
    REQUIRE(worst < 1.5);
}

TEST_CASE("Ears: what stands out from the side of a head is told from the head") {
    const foreign::Scan scan = plain_scan(plain_form(24));
    const SourceSurface surface = prepare_source(scan.mesh, {});
    const Vec3 ear = 0.5 * (scan.points.at("superaurale_l") + scan.points.at("subaurale_l"));
    const SideRelief relief = side_relief(surface, ear, 1, 50);
    REQUIRE(relief.places.size() > 150);
    std::size_t on_ear = 0;
    for (const Vec3& p : relief.places) on_ear += (p - ear).norm() < 45;
    REQUIRE(on_ear > 0.8 * static_cast<double>(relief.places.size()));  // the jaw angle stands out as well
    // a bare skull is round, but nothing stands out from it as far
    const std::vector<double> skull = side_relief(surface, Vec3(0, 60, 0), 1, 30).height;
    REQUIRE(quantile(relief.height, 0.9) > 8);
    REQUIRE(quantile(skull, 1) < 6);
}

TEST_CASE("Ears: another's ear is found by its shape, its edge followed; a missing one is said to be missing") {
    const foreign::Form form = plain_form(24);
    const foreign::Scan scan = plain_scan(form);
    const Similarity place = to_kit(scan);
    const auto ears = mark_ears(*demo_kit(), demo_kit()->landmarks, prepare_source(scan.mesh, place));
    for (const bool left : {false, true}) {
        const MarkedEar& ear = ears[left];
        const std::string side = left ? "_l" : "_r";
        INFO(side << " lies " << ear.lies << " covers " << ear.covers << " clear " << ear.rim_clear);
        REQUIRE(ear.seen);
        REQUIRE(ear.rim_clear > 0.5);
        for (const char* name : {"superaurale", "postaurale"}) {
            const double off = (ear.points.at(name + side) - place(scan.points.at(name + side))).norm() / place.scale;
            INFO(name << " " << off);
            REQUIRE(off < 5);
            REQUIRE(off < 2 * ear_error(name + side, ear) + 1);
        }
    }
    foreign::Form without = form;
    without.ear.missing = true;
    const foreign::Scan earless = plain_scan(without);
    for (const MarkedEar& ear : mark_ears(*demo_kit(), demo_kit()->landmarks, prepare_source(earless.mesh, place))) {
        REQUIRE_FALSE(ear.seen);
        REQUIRE(ear.points.empty());
        REQUIRE(ear.why.find("missing") != std::string::npos);
    }
}

TEST_CASE("Ears: the kit's own are found where they are") {
    const BaseKit& kit = *demo_kit();
    const auto ears = mark_ears(kit, kit.landmarks, prepare_source(kit.mesh, {}));
    for (const bool left : {false, true}) {
        REQUIRE(ears[left].seen);
        REQUIRE(ears[left].lies * ears[left].covers > 0.8);
        const std::string name = left ? "tragion_l" : "tragion_r";
        REQUIRE((ears[left].points.at(name) - kit.landmarks.at(name).at(kit.mesh.positions)).norm() < 1);
    }
    Progress stop;
    stop.cancelled = [] { return true; };
    REQUIRE_FALSE(mark_ears(kit, kit.landmarks, prepare_source(kit.mesh, {}), stop)[0].seen);
}

TEST_CASE("Ears: what was not seen is not matched in the next fit, until it is seen or set by hand") {
    Detection found;
    found.not_seen = {"ear_l"};
    FitSettings settings;
    REQUIRE(leave_out_unseen(found, *demo_kit(), settings) == std::vector<std::string>{"ear_l"});
    REQUIRE(settings.regions.at("ear_l").match == 0);
    REQUIRE_FALSE(settings.regions.contains("ear_r"));
    REQUIRE(leave_out_unseen(found, *demo_kit(), settings).empty());  // it is known by now
    found.not_seen = {};
    REQUIRE(leave_out_unseen(found, *demo_kit(), settings).empty());
    REQUIRE(settings == FitSettings{});
    settings.regions["ear_l"] = {.match = 0, .stiffness = 2};  // somebody's own
    found.not_seen = {"ear_l", "ear_r"};
    REQUIRE(leave_out_unseen(found, *demo_kit(), settings) == std::vector<std::string>{"ear_r"});
    REQUIRE(settings.regions.at("ear_l").stiffness == 2);
    REQUIRE(preset_for(found, {}).empty());
    found.figure = true;
    REQUIRE(preset_for(found, {}) == "body");
    REQUIRE(preset_for(found, *fit_preset("body")).empty());  // it is what is set
    BaseKit no_ears = *demo_kit();
    no_ears.regions.clear();
    FitSettings fresh;
    REQUIRE(leave_out_unseen(found, no_ears, fresh).empty());
}

TEST_CASE("Edges: lids are followed on another's face from a guess beside them, and none where there is no lid") {
    foreign::Form form = plain_form(24);
    form.lids = foreign::Lids::Open;
    const foreign::Scan scan = plain_scan(form, 0.8);
    const SourceSurface surface = prepare_source(scan.mesh, {});
    const EyeFrame eye{Vec3(form.eye_x, 0, form.eye_z), form.ball, true};
    std::optional<Edge> edges[2];
    for (const bool upper : {false, true}) {
        const Points& truth = scan.curves.at(upper ? "upper_lid_l" : "lower_lid_l");
        Points guess = truth;
        for (Vec3& p : guess) p.y() += upper ? 1.8 : -1.8;
        edges[upper] = follow_lid(*surface.query, eye, guess, upper);
        REQUIRE(edges[upper]);
        REQUIRE(edges[upper]->line.size() == guess.size());
        CHECK(edges[upper]->edge.mean_step > 0.8);
        std::vector<double> off, before;
        for (std::size_t i = 2; i + 2 < truth.size(); ++i) {
            off.push_back(std::abs(edges[upper]->line[i].y() - truth[i].y()));
            before.push_back(std::abs(guess[i].y() - truth[i].y()));
        }
        INFO((upper ? "upper " : "lower ") << median(off) << " from " << median(before));
        CHECK(median(off) < 0.7);
    }
    for (const bool first : {true, false}) {
        const Points& line = scan.curves.at("upper_lid_l");
        const bool inner = first == (line.front().x() < line.back().x());
        const auto corner = where_edges_meet({*edges[1], *edges[0]}, first);
        REQUIRE(corner);
        const Vec3& truth = scan.points.at(inner ? "endocanthion_l" : "exocanthion_l");
        INFO((inner ? "inner " : "outer ") << (*corner - truth).transpose());
        CHECK((*corner - truth).head<2>().norm() < 5);  // carried on straight; edges bend into their corners
    }
    // on the cheek there is nothing to follow
    Points cheek = scan.curves.at("lower_lid_l");
    for (Vec3& p : cheek) p.y() -= 26;
    REQUIRE_FALSE(follow_lid(*surface.query, eye, cheek, false));
    REQUIRE_FALSE(follow_edge({{1, 2, 3}}, 1));
}

TEST_CASE("Edges: a slope is no step, and a step is where it is") {
    std::vector<double> slope, step;
    for (int i = 0; i < kEdgeRows; ++i) slope.push_back(0.2 * i), step.push_back(i > 22 ? 2 : 0);
    REQUIRE(std::abs(step_at(slope, 20)) < 0.3);
    REQUIRE(step_at(step, 22) == Approx(2));
    REQUIRE(step_at(slope, 2) == kNotSeen);
    const auto edge = follow_edge(std::vector<std::vector<double>>(9, step), 1);
    REQUIRE(edge);
    for (const int aside : edge->aside) CHECK(std::abs(aside - (22 - kEdgeRows / 2)) <= 1);
    REQUIRE_FALSE(follow_edge(std::vector<std::vector<double>>(9, slope), 1));
}

TEST_CASE("Edges: the grooves beside the lips, and the side of the nose, are where a ruler finds them") {
    const foreign::Scan scan = plain_scan(plain_form(24), 0.8);
    const SourceSurface surface = prepare_source(scan.mesh, {});
    const Vec3 &mouth = scan.points.at("stomion"), &wing = scan.points.at("alare_l");
    const auto foot = groove_beside_lip(*surface.query, mouth, scan.points.at("pronasale"));
    REQUIRE(foot);
    CHECK((*foot - scan.points.at("subnasale")).norm() < 1.5);
    REQUIRE_FALSE(groove_beside_lip(*surface.query, mouth, mouth + Vec3(0, 1, 0)));
    REQUIRE_FALSE(groove_beside_lip(*surface.query, Vec3(0, 900, 0), Vec3(0, 950, 0)));
    // from before the widest place
    const SurfaceHit before = surface.query->closest(wing + Vec3(-4, 0, 6), 8);
    REQUIRE(before);
    const Vec3 climb = climbed(*surface.query, before.position, Vec3::UnitX());
    INFO((before.position - wing).transpose() << " to " << (climb - wing).transpose());
    CHECK(climb.x() > before.position.x() + 1);
    CHECK((climb - wing).norm() < 0.7 * (before.position - wing).norm());
    // nor off the surface, nor from the farthest place
    CHECK((climbed(*surface.query, climb, Vec3::UnitX()) - climb).norm() < 0.7);
}

TEST_CASE("Open mouths: the jaw's turn is read from the lips and can be taken out again") {
    const BaseKit& kit = *demo_kit();
    std::map<std::string, Vec3> marked;
    for (const auto& [name, place] : kit.landmarks) marked[name] = place.at(open_kit().mesh.positions);
    REQUIRE(jaw_turn_of(kit, kit.landmarks, marked) == 0);  // a stomion is marked: full lips, not an open mouth
    marked.erase("stomion");
    REQUIRE(jaw_turn_of(kit, kit.landmarks, marked) == Approx(14).margin(1.01));
    // lips as thick as people's are no open mouth
    for (auto& [name, p] : marked) p = kit.landmarks.at(name).at(kit.mesh.positions);
    marked["labiale_inferius"].y() -= 3;
    REQUIRE(jaw_turn_of(kit, kit.landmarks, marked) == 0);
    marked.erase("labiale_superius");
    REQUIRE(jaw_turn_of(kit, kit.landmarks, marked) == 0);

    const Pose pose = jaw_pose(kit, 14);
    REQUIRE(jaw_of(kit, pose) == Approx(14));
    REQUIRE(jaw_of(kit, rest_pose(kit.joints)) == 0);
    const Points shut = mouth_shut(kit, open_kit().mesh.positions, pose);
    double worst = 0;
    for (const Index v : kit.part("skin")->vertices) worst = std::max(worst, (shut[v] - kit.mesh.positions[v]).norm());
    REQUIRE(worst < 0.05);
    BaseKit no_jaw = kit;
    for (Joint& j : no_jaw.joints) j.name = "bone";
    REQUIRE(jaw_turn_for_gap(no_jaw, kit.landmarks, 15) == 0);
}

TEST_CASE("Open mouths: a fit turns the jaw first, and hands the shape out with the mouth shut or as it is") {
    const BaseKit& kit = *demo_kit();
    const Mesh& source = open_kit().mesh;
    FitInput input;
    input.kit = &kit, input.source = &source, input.unit = Unit::Millimetre;
    for (const auto& [name, place] : kit.landmarks) {
        if (places_part(name, FitPart::Head) && !name.starts_with("pupil") && name != "stomion")
            input.landmarks.points[name] = place.at(source.positions);
    }
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    REQUIRE(fit->pose);
    REQUIRE(jaw_of(kit, *fit->pose) == Approx(14).margin(1.01));
    const Points shut = at_rest(kit, fit->positions, fit->pose);
    std::vector<double> open_off, shut_off;
    for (const Index v : kit.region("lips")) {
        open_off.push_back((fit->positions[v] - source.positions[v]).norm());
        shut_off.push_back((shut[v] - kit.mesh.positions[v]).norm());
    }
    INFO(median(open_off) << " " << median(shut_off));
    REQUIRE(median(open_off) < 0.3);
    REQUIRE(median(shut_off) < 0.8);
    REQUIRE(at_rest(kit, fit->positions, fit->pose, false) == fit->positions);
    REQUIRE(fit->figures.flipped_faces == 0);
}

TEST_CASE("Open mouths: each lip of a kit has its own inner edge, along the mouth line") {
    const BaseKit& kit = *demo_kit();
    const std::vector<SurfacePoint>& mouth = kit.curves.at("mouth_line");
    for (const bool lower : {false, true}) {
        const std::vector<SurfacePoint>& edge = kit.curves.at(kInnerLips[lower]);
        REQUIRE(edge.size() == mouth.size());
        for (std::size_t i = 0; i < edge.size(); ++i)
            CHECK((edge[i].at(kit.mesh.positions) - mouth[i].at(kit.mesh.positions)).norm() < 2.5);
        // the middle of the lower one goes down with the jaw, that of the upper one stays
        const SurfacePoint& middle = edge[edge.size() / 2];
        const double down = (middle.at(kit.mesh.positions) - middle.at(open_kit().mesh.positions)).y();
        CHECK((lower ? down > 10 : std::abs(down) < 0.5));
    }
    BaseKit no_jaw = kit;
    no_jaw.joints.clear();
    for (const char* name : kInnerLips) no_jaw.curves.erase(name);
    add_inner_lips(no_jaw);
    REQUIRE_FALSE(no_jaw.curves.contains(kInnerLips[0]));

    LandmarkSet marks;
    REQUIRE(can_be_marked("mouth_line", marks));
    REQUIRE(can_be_marked(kInnerLips[1], marks));
    marks.points["stomion"] = Vec3::Zero();
    REQUIRE_FALSE(can_be_marked(kInnerLips[1], marks));
    marks.points.clear();
    marks.curves[kInnerLips[0]] = {Vec3::Zero(), Vec3::UnitX()};
    REQUIRE_FALSE(can_be_marked("stomion", marks));
    REQUIRE(can_be_marked("cheilion_l", marks));
}

TEST_CASE("Open mouths: teeth and tongue are told from the lips before them") {
    foreign::Form form = plain_form(27);
    form.mouth = foreign::Mouth::Open, form.jaw_open = 16, form.teeth = true;
    const foreign::Scan scan = plain_scan(form);
    const Points &upper = scan.curves.at(kInnerLips[0]), &lower = scan.curves.at(kInnerLips[1]);
    const VertexMask seen = seen_between_lips(scan.mesh.positions, upper, lower);
    int told = 0, inside = 0, on_lips = 0;
    for (std::size_t v = 0; v < seen.size(); ++v) {
        const bool in_mouth = scan.stuff[v] == foreign::Stuff::Teeth || scan.stuff[v] == foreign::Stuff::Tongue;
        const Vec3& p = scan.mesh.positions[v];
        // what the opening shows
        const bool shown = in_mouth && p.y() < upper[upper.size() / 2].y() && p.y() > lower[lower.size() / 2].y();
        inside += shown, told += shown && seen[v];
        const bool at_edge = std::min(nearest_of(p, upper), nearest_of(p, lower)) < 2;
        on_lips += seen[v] && !in_mouth && at_edge;
    }
    REQUIRE(inside > 50);
    CHECK(told > 0.7 * inside);
    CHECK(on_lips == 0);
    const VertexMask shut = seen_between_lips(scan.mesh.positions, upper, upper);
    CHECK(std::count(shut.begin(), shut.end(), 1) == 0);
}

TEST_CASE("Foreign heads: a face in any attitude, its mouth open, and no doubt kept back") {
    foreign::Form form = plain_form(27);
    form.mouth = foreign::Mouth::Open, form.jaw_open = 16, form.lids = foreign::Lids::Open;
    foreign::ScanOptions options;
    options.cell_mm = 1.2;
    const foreign::Scan scan = foreign::make_scan(foreign::Head(form), options);
    FaceNetwork network;
    DetectInput input;
    input.kit = demo_kit().get(), input.source = &scan.mesh;
    const FrameGuess guess = guess_frame(scan.mesh, "scan.ply", {});
    input.upright = rough_upright(scan.mesh, guess.unit, guess.up, kUsualCrownMm);
    const auto found = detect_landmarks(network, input, {});
    REQUIRE(found);
    REQUIRE(found->evaluations <= 60);
    REQUIRE(found->mouth_gap_mm > 5);
    REQUIRE(found->left_out.contains("stomion"));
    REQUIRE_FALSE(found->set.curves.contains("mouth_line"));
    // each lip has its own edge, and they are as far apart as the lips are
    const Similarity back = scan.from_head.inverse();
    double middle[2] = {0, 0};
    for (const bool lower : {false, true}) {
        const Points &line = found->set.curves.at(kInnerLips[lower]), &truth = scan.curves.at(kInnerLips[lower]);
        std::vector<double> off;
        for (const Vec3& p : truth) off.push_back(nearest_of(p, line) / scan.from_head.scale);
        INFO(kInnerLips[lower] << " " << median(off));
        CHECK(median(off) < 4);
        middle[lower] = back(line[line.size() / 2]).y();
    }
    CHECK(middle[0] - middle[1] > 0.6 * found->mouth_gap_mm);
    const auto told = [](const std::string& note) { return note.find("Teeth or tongue") != std::string::npos; };
    CHECK(std::any_of(found->notes.begin(), found->notes.end(), told));
    int wrong = 0, unsaid = 0;
    for (const auto& [name, truth] : scan.points) {
        const auto at = found->set.points.find(name);
        if (at == found->set.points.end()) continue;
        const double off = (at->second - truth).norm() / scan.from_head.scale;
        wrong += off > 40, unsaid += off > 6 && !unsure(found->set.trust_of(name));
    }
    REQUIRE(wrong == 0);
    REQUIRE(unsaid <= 1);
}
