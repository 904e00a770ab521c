// What shapes are looked at in, what is measured of them there, and proofs as files.
#include <catch2/catch.hpp>

#include "core/io/mesh_file.h"
#include "core/kit/kit_joints.h"
#include "core/kit/kit_surface.h"
#include "core/project/document.h"
#include "core/project/things.h"
#include "core/proof/proof_file.h"
#include "core/proof/prove.h"
#include "core/rig/dual_quaternion.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

Proof proof_named(const BaseKit& kit, const std::string& name) {
    for (const Proof& p : stock_proofs(kit))
        if (p.name == name) return p;
    throw std::runtime_error("no proof " + name);
}

const ProofFigure* figure_of(const ProofReport& report, const std::string& proof, ProofMeasure measure) {
    for (const ProofRow& row : report.rows)
        if (row.proof == proof && row.figure.measure == measure) return &row.figure;
    return nullptr;
}

ProofReport proven(const BaseKit& kit, const Points& shape, const std::vector<std::string>& names) {
    std::vector<Proof> proofs;
    for (const std::string& name : names) proofs.push_back(proof_named(kit, name));
    const auto bench = ProofBench::make(kit, shape, proofs, {});
    if (!bench) throw std::runtime_error(bench.error().message);
    return *prove(*bench, proofs, Skinning::Linear, {});
}

}  // namespace

TEST_CASE("Dual quaternions: rigid where one joint holds, and a twisted tube keeps its girth") {
    const std::vector<Joint> joints{{"a", -1, Vec3::Zero()}, {"b", 0, Vec3(10, 0, 0)}};
    Points ring;
    SkinWeights weights;
    for (int i = 0; i < 8; ++i) {
        ring.push_back({10, std::cos(i * M_PI / 4), std::sin(i * M_PI / 4)});
        weights.joint.push_back({0, 1, 0, 0}), weights.weight.push_back({0.5, 0.5, 0, 0});
    }
    ring.push_back({25, 2, 3}), weights.joint.push_back({1, 0, 0, 0}), weights.weight.push_back({1, 0, 0, 0});
    Pose pose = rest_pose(joints);
    pose.turns[1] = Eigen::AngleAxisd(170 * M_PI / 180, Vec3::UnitX()).toRotationMatrix();
    const Points linear = skin(ring, joints, weights, pose),
                 dual = skin_by_dual_quaternions(ring, joints, weights, pose);
    for (std::size_t v = 0; v < 8; ++v) {
        CHECK(std::hypot(dual[v].y(), dual[v].z()) == Approx(1));
        CHECK(std::hypot(linear[v].y(), linear[v].z()) < 0.1);  // the sweet wrapper
    }
    CHECK((linear[8] - dual[8]).norm() < 1e-9);
    CHECK(apart(skin_by_dual_quaternions(ring, joints, weights, rest_pose(joints)), ring) < 1e-12);
    // as a whole about its root
    pose.turns = {pose.turns[1], Mat3::Identity()}, pose.move = Vec3(1, 2, 3);
    CHECK(apart(skin_by_dual_quaternions(ring, joints, weights, pose), skin(ring, joints, weights, pose)) < 1e-9);
}

TEST_CASE("Proofs: the way from rest to a stop and on to the next") {
    const auto kit = demo_kit();
    const Proof blink = proof_named(*kit, "blink"), sit = proof_named(*kit, "sit");
    REQUIRE(blink.stops.size() == 4);
    CHECK(stop_at(blink, 0).expressions[0].amount == 0);
    CHECK(stop_at(blink, 1.5).expressions[0].amount == Approx(0.375));
    CHECK(stop_at(blink, 99).expressions[0].amount == Approx(1));
    const auto angle = [&](double at) {
        const auto& joints = kit->joints;
        const auto thigh =
            std::find_if(joints.begin(), joints.end(), [](const Joint& j) { return j.name == "thigh_l"; });
        return Eigen::AngleAxisd(stop_at(sit, at).pose.turns[static_cast<std::size_t>(thigh - joints.begin())])
            .angle();
    };
    CHECK(angle(0) == Approx(0).margin(1e-9));
    CHECK(angle(0.5) == Approx(0.5 * angle(1)));
    const ProofStop down = gaze(*kit, -30, 0), up = gaze(*kit, 20, 10);
    CHECK(down.expressions == std::vector<ExpressionAmount>{{"gaze_down_lids", 1}});
    CHECK(up.expressions == std::vector<ExpressionAmount>{{"gaze_up_lids", 1}});
    // a figure that sits stands on its feet; its eyes look where they are told
    const ProofSubject base = ProofSubject::base_of(*kit);
    const Points sits = base.at(sit.stops[0], Skinning::Linear), looks = base.at(down, Skinning::Linear);
    double lowest = 1e9, before = 1e9;
    for (const Vec3& p : sits) lowest = std::min(lowest, p.y());
    for (const Vec3& p : kit->mesh.positions) before = std::min(before, p.y());
    CHECK(std::abs(lowest - before) < 25);
    const KitEye& eye = kit->eyes[0];
    Index front = kit->part(eye.part)->vertices[0];
    for (const Index v : kit->part(eye.part)->vertices)
        if (kit->mesh.positions[v].z() > kit->mesh.positions[front].z()) front = v;
    CHECK(looks[front].y() < kit->mesh.positions[front].y() - 0.3 * eye.radius);
}

TEST_CASE("Proofs: several expressions at once do not cross, on the base and on another head") {
    const auto kit = demo_kit();
    const auto warden = read_mesh(demo("returns/warden_clean.obj"));
    REQUIRE(warden);
    const std::vector<std::vector<ExpressionAmount>> mixes = {
        {{"blink", 1}, {"cheek_raise", 1}, {"lip_corner_pull", 1}},
        {{"blink", 1}, {"lip_pucker", 0.6}},
        {{"blink", 0.7}, {"gaze_down_lids", 0.8}, {"nose_wrinkle", 0.5}, {"jaw_open", 0.4}},
        {{"lip_press", 0.8}, {"lip_pucker", 0.8}, {"smile", 0.5}}};
    const ProofPlaces places(*kit);
    const ProofSubject base = ProofSubject::base_of(*kit);
    std::size_t plain_cuts = 0;
    for (const Points& head : {kit->mesh.positions, warden->mesh.positions}) {
        const auto subject = ProofSubject::make(*kit, head, expressions_of(*kit, stock_proofs(*kit)), {});
        REQUIRE(subject);
        for (const auto& mix : mixes) {
            INFO(mix[0].name << " with " << mix[1].name);
            const ProofStop stop{rest_pose(kit->joints), mix};
            // held against the base at rest: whatever crosses is counted
            const Points shape = subject->at(stop, Skinning::Linear);
            for (const ProofFigure& f : places.measure(*subject, base, stop, shape, kit->mesh.positions)) {
                if (f.measure == ProofMeasure::Cuts || f.measure == ProofMeasure::LidSunk) CHECK(f.badness() < 1);
            }
            Points plain = head;
            for (const auto& [name, amount] : mix)
                for (std::size_t v = 0; v < plain.size(); ++v)
                    plain[v] += amount * (kit->expressions.at(name)[v] - kit->mesh.positions[v]);
            for (const ProofFigure& f : places.measure(*subject, base, stop, plain, kit->mesh.positions))
                if (f.measure == ProofMeasure::LidCuts) plain_cuts += static_cast<std::size_t>(f.value);
        }
    }
    CHECK(plain_cuts > 300);
}

TEST_CASE("Proofs: nothing is wrong with the base; what is done to a shape is found where it was done") {
    const auto kit = demo_kit();
    CHECK(proven(*kit, kit->mesh.positions, {"rest", "sit", "blink", "extremes"}).bad() == 0);
    Points shape = kit->mesh.positions;
    SECTION("a foot that is longer goes through the floor only when the other one does not") {
        for (const Index v : kit->part("skin")->vertices) {
            const Vec3 at = shape[v];
            if (at.x() > 0 && at.y() < 200) shape[v].y() -= 12 * (1 - at.y() / 200);
        }
        const auto report = proven(*kit, shape, {"rest", "squat"});
        const ProofFigure* floor = figure_of(report, "squat", ProofMeasure::Floor);
        REQUIRE(floor);
        CHECK(std::abs(floor->value) < 60);
        CHECK(figure_of(report, "rest", ProofMeasure::Floor)->value == Approx(0).margin(1e-9));
    }
    SECTION("lids that do not shut, and a lid in the ball") {
        const KitEye& eye = kit->eyes[0];
        for (const Index v : kit->part("skin")->vertices) {
            const double off = (shape[v] - eye.centre).norm() / eye.radius;
            if (off < 1.6) shape[v] = eye.centre + 0.93 * (shape[v] - eye.centre);
        }
        ProofFigure lid;
        const ProofPlaces places(*kit);
        const auto subject = ProofSubject::make(*kit, shape, {}, {});
        const ProofSubject base = ProofSubject::base_of(*kit);
        const ProofStop shut{rest_pose(kit->joints), {{"blink", 1}}};
        Points plain = shape;  // as the kit has it, nothing put right
        for (std::size_t v = 0; v < plain.size(); ++v)
            plain[v] += 0.8 * (kit->expressions.at("blink")[v] - kit->mesh.positions[v]);
        double gap = 0, sunk = 0;
        Index at = kNone;
        for (const ProofFigure& f : places.measure(*subject, base, shut, plain, base.at(shut, Skinning::Linear))) {
            if (f.measure == ProofMeasure::LidGap) gap = f.value;
            if (f.measure == ProofMeasure::LidSunk) sunk = f.value, at = f.at;
        }
        CHECK(gap > 1);
        CHECK(sunk > 0.2);
        REQUIRE(at != kNone);
        CHECK((plain[at] - eye.centre).norm() < 2 * eye.radius);

        // what lies in the ball at rest is told of the rest, and not of every expression again
        const auto sunk_in = [&](const ProofStop& stop, const Points& x) {
            for (const ProofFigure& f : places.measure(*subject, base, stop, x, base.at(stop, Skinning::Linear)))
                if (f.measure == ProofMeasure::LidSunk) return f.value;
            return -1.0;
        };
        CHECK(sunk_in({}, shape) > 0.2);
        Points still = shape;
        still[kit->landmarks.at("pronasale").vertices[0]].z() += 1;
        CHECK(sunk_in({{}, {{"nose_wrinkle", 1}}}, still) < 0.05);
    }
    SECTION("sheets that cut each other are counted, not those of the shape at rest") {
        const Proof open = proof_named(*kit, "jaw_open");
        const ProofPlaces places(*kit);
        const ProofSubject base = ProofSubject::base_of(*kit);
        const auto subject = ProofSubject::make(*kit, shape, {}, {});
        Points shut = base.at(open.stops.back(), Skinning::Linear);
        // the lower lip through the upper one: the jaw the other way; teeth that stand too far out
        for (std::size_t v = 0; v < shut.size(); ++v)
            shut[v] = kit->mesh.positions[v] - 0.2 * (shut[v] - kit->mesh.positions[v]);
        for (const Index v : kit->part("teeth_upper")->vertices) shut[v].z() += 12;
        std::map<ProofMeasure, double> found;
        for (const ProofFigure& f :
             places.measure(*subject, base, open.stops.back(), shut, base.at(open.stops.back(), Skinning::Linear)))
            found[f.measure] = f.value;
        CHECK(found[ProofMeasure::LipCuts] > 10);
        CHECK(found[ProofMeasure::Cuts] >= found[ProofMeasure::LipCuts]);
        CHECK(found[ProofMeasure::TeethCuts] > 0);
        const VertexMask cutting =
            places.cutting(*subject, base, open.stops.back(), shut, base.at(open.stops.back(), Skinning::Linear));
        CHECK(std::count(cutting.begin(), cutting.end(), 1) > 10);
    }
}

TEST_CASE("Proofs: cancelled in the middle nothing is said; unknown kits are refused") {
    const auto kit = demo_kit();
    const std::vector<Proof> proofs{proof_named(*kit, "rest"), proof_named(*kit, "T")};
    const auto bench = ProofBench::make(*kit, kit->mesh.positions, proofs, {});
    REQUIRE(bench);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(prove(*bench, proofs, Skinning::DualQuaternion, stopped).error().code == ErrorCode::Cancelled);
    const auto report = prove(*bench, proofs, Skinning::DualQuaternion, {});
    REQUIRE(report);
    CHECK(report->stops == 2);
    CHECK(proof_report_json(*report).find("\"rest\"") != std::string::npos);
}

TEST_CASE("Proofs of one's own: as text and back, damaged texts are told, a project keeps them") {
    const auto kit = demo_kit();
    Proof own = proof_named(*kit, "stride");
    own.name = "hers", own.stops.push_back(gaze(*kit, 10, 5)), own.stops.back().amount = 1.5;
    own.stops.back().pose.move = Vec3(0, 3, 0);
    const std::string text = proofs_text({own}, kit->joints);
    const auto again = proofs_from(text, kit->joints, "'it'");
    REQUIRE(again);
    REQUIRE(again->size() == 1);
    CHECK(again->front().name == "hers");
    REQUIRE(again->front().stops.size() == 2);
    CHECK(again->front().stops[1].amount == 1.5);
    CHECK(again->front().stops[1].expressions == own.stops[1].expressions);
    for (std::size_t j = 0; j < kit->joints.size(); ++j)
        CHECK(again->front().stops[0].pose.turns[j].isApprox(own.stops[0].pose.turns[j], 1e-9));
    for (const auto& [from, to] :
         std::vector<std::pair<std::string, std::string>>{{"veldstone-proofs", "other"},
                                                          {"\"version\":1", "\"version\":7"},
                                                          {"\"pose\"", "\"poze\""},
                                                          {"\"kind\":\"pose\"", "\"kind\":\"dance\""},
                                                          {"thigh_l", "tail"},
                                                          {":1.5", ":1e99"}}) {
        std::string broken = text;
        broken.replace(broken.find(from), from.size(), to);
        const auto none = proofs_from(broken, kit->joints, "'it'");
        REQUIRE_FALSE(none);
        CHECK(none.error().code == ErrorCode::BadFile);
        CHECK(none.error().message.find("'it'") != std::string::npos);
    }
    for (std::size_t cut = 0; cut + 2 < text.size(); cut += 97)
        CHECK_FALSE(proofs_from(text.substr(0, cut), kit->joints, "x"));
    ProjectState state;
    state.kit = kit;
    CHECK(add_proof(state, own) == "hers");
    CHECK(add_proof(state, own) != "hers");
    CHECK(remove_proof(state, "hers"));
    CHECK_FALSE(remove_proof(state, "hers"));
    CHECK(state.proofs.size() == 1);
}
