// How known heads differ, the most likely of them for a source, and what of a source is no skin.
#include <catch2/catch.hpp>

#include <cstring>
#include <limits>

#include "core/base/file.h"
#include "core/detect/detect.h"
#include "core/detect/ear_model.h"
#include "core/detect/not_skin.h"
#include "core/fit/fit.h"
#include "core/fit/likely_head.h"
#include "core/kit/kit_surface.h"
#include "core/kit/write_kit.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"
#include "demo/standins/foreign/scan.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

const KnownHeads& known() { return *demo_kit()->known_heads; }

// A head of the known ones: the mean and two deviations of a few components.
Points some_head() {
    Points out = demo_kit()->mesh.positions;
    for (std::size_t i = 0; i < known().vertex.size(); ++i) {
        const auto row = static_cast<Eigen::Index>(3 * i);
        Eigen::Vector3f moved = known().mean.col(static_cast<Eigen::Index>(i));
        for (const int k : {0, 2, 5}) moved += (k == 2 ? -1.5f : 1.5f) * known().mode.block<3, 1>(row, k);
        out[known().vertex[i]] += moved.cast<double>();
    }
    return out;
}

// The skin of a shape of the base; covered: the skull's faces are not there.
Mesh skin_of(const Points& shape, bool covered) {
    const BaseKit& kit = *demo_kit();
    VertexMask skull(shape.size(), 0);
    for (const Index v : kit.region("skull")) skull[v] = covered;
    Mesh out;
    out.positions = shape;
    for (const Triangle& t : skin_triangles(kit)) {
        if (skull[t[0]] || skull[t[1]] || skull[t[2]]) continue;
        out.corner_vertex.insert(out.corner_vertex.end(), t.begin(), t.end());
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

LandmarkSet marks_on(const Points& shape) {
    LandmarkSet out;
    for (const auto& [name, place] : demo_kit()->landmarks) {
        if (place.vertices[0] < shape.size() && in_point_set(name, PointSet::Face)) out.points[name] = place.at(shape);
    }
    return out;
}

double median_off(const VertexIndices& of, const Points& a, const Points& b) {
    std::vector<double> off;
    for (const Index v : of) off.push_back((a[v] - b[v]).norm());
    return median(off);
}

// A grown head under a helmet, without colours.
struct Helmet {
    foreign::Head head;
    foreign::Scan scan;
};
const Helmet& helmet() {
    static const Helmet out = [] {
        foreign::Form form = foreign::make_form(8);
        form.kind = foreign::Kind::Adult, form.cover = foreign::Cover::Helmet, form.mouth = foreign::Mouth::Shut;
        form.lids = foreign::Lids::Open, form.jaw_open = 0, form.beard = form.glasses = form.collar = false;
        foreign::ScanOptions options;
        options.cell_mm = 1.4, options.any_frame = false;
        foreign::Head head(form);
        foreign::Scan scan = foreign::make_scan(head, options);
        return Helmet{std::move(head), std::move(scan)};
    }();
    return out;
}

}  // namespace

TEST_CASE("Known heads: there and back as bytes, and damaged ones are refused") {
    const std::string bytes = known_heads_bytes(known(), demo_kit()->topology_key);
    std::string why;
    const std::size_t vertices = demo_kit()->mesh.positions.size();
    const KnownHeads again = known_heads_from(bytes, demo_kit()->topology_key, vertices, why);
    REQUIRE(why.empty());
    REQUIRE(again.vertex == known().vertex);
    REQUIRE(again.heads == known().heads);
    REQUIRE((again.mode - known().mode).cwiseAbs().maxCoeff() < 0.002);
    REQUIRE((again.mean - known().mean).cwiseAbs().maxCoeff() < 0.002);
    for (const std::size_t length : {std::size_t{0}, std::size_t{20}, bytes.size() / 2, bytes.size() - 1}) {
        why.clear();
        REQUIRE(known_heads_from(bytes.substr(0, length), demo_kit()->topology_key, vertices, why).empty());
        REQUIRE(why.find("damaged") != std::string::npos);
    }
    why.clear();
    REQUIRE(known_heads_from(bytes, "another", vertices, why).empty());
    REQUIRE(why.find("another base mesh") != std::string::npos);
    why.clear();
    REQUIRE(known_heads_from(bytes, demo_kit()->topology_key, 100, why).empty());
    std::string broken = bytes;
    const float nothing = std::numeric_limits<float>::quiet_NaN();
    std::memcpy(&broken[bytes.find('\n') + 1 + 4 * known().vertex.size()], &nothing, sizeof nothing);
    why.clear();
    REQUIRE(known_heads_from(broken, demo_kit()->topology_key, vertices, why).empty());
}

TEST_CASE("Known heads: they are kept with a kit that is written, and a damaged file is named") {
    const Scratch folder;
    const std::string kit = folder / "kit";
    REQUIRE(write_base_kit(*demo_kit(), kit, {}));
    const auto again = read_base_kit(kit);
    REQUIRE(again);
    REQUIRE(again->known_heads);
    REQUIRE(again->known_heads->vertex == known().vertex);
    REQUIRE(write_file(kit + "/" + kKnownHeadsFile, "{}\n123"));
    const auto damaged = read_base_kit(kit);
    REQUIRE_FALSE(damaged);
    REQUIRE(damaged.error().message.find(kKnownHeadsFile) != std::string::npos);
}

TEST_CASE("Likely head: the face tells what skull is under a cover") {
    const BaseKit& kit = *demo_kit();
    const Points truth = some_head();
    const Mesh source = skin_of(truth, true);
    const SourceSurface surface = prepare_source(source, {});
    std::vector<double> match(truth.size(), 0);
    for (const Index v : kit.region("head_skin")) match[v] = 1;
    LikelyInput input;
    input.kit = &kit, input.source = &surface, input.match = &match;
    for (const auto& [name, p] : marks_on(truth).points) input.points.push_back({name, kit.landmarks.at(name), p, 1});
    const auto likely = likely_head(input);
    REQUIRE(likely);
    const double base_off = median_off(kit.region("skull"), kit.mesh.positions, truth);
    const double off = median_off(kit.region("skull"), likely->positions, truth);
    INFO(base_off << " " << off);
    REQUIRE(base_off > 4);
    REQUIRE(off < 0.3 * base_off);
    REQUIRE(median_off(kit.region("face"), likely->positions, truth) < 1);
    // what is not seen is known less surely than what is
    std::vector<double> seen, hidden;
    for (const Index v : kit.region("face")) seen.push_back(likely->sure[v]);
    for (const Index v : kit.region("skull")) hidden.push_back(likely->sure[v]);
    REQUIRE(median(hidden) > median(seen));
    BaseKit without = kit;
    without.known_heads = nullptr;
    input.kit = &without;
    REQUIRE_FALSE(likely_head(input));
}

TEST_CASE("Fits: what is not seen stays as the likely head has it") {
    const BaseKit& kit = *demo_kit();
    const Points truth = some_head();
    const Mesh source = skin_of(truth, true);
    FitInput input;
    input.kit = &kit, input.source = &source, input.unit = Unit::Millimetre, input.landmarks = marks_on(truth);
    const auto off = [&](bool likely) {
        input.settings.known_heads = likely;
        const auto fit = run_fit(input, {});
        REQUIRE(fit);
        const Points mm = in_source_frame(*fit);
        return median_off(kit.region("skull"), mm, truth);
    };
    const double with = off(true), without = off(false);
    INFO(with << " " << without);
    REQUIRE(with < 0.5 * without);
}

TEST_CASE("Sources: a place beside a surface is told from one over it, with no step between") {
    Mesh plane;
    plane.positions = {Vec3(0, 0, 0), Vec3(10, 0, 0), Vec3(10, 10, 0), Vec3(0, 10, 0)};
    plane.corner_vertex = {0, 1, 2, 0, 2, 3}, plane.face_start = {0, 3, 6};
    const SourceSurface surface = prepare_source(plane, {});
    const auto under = [&](const Vec3& p) {
        return SourceSurface::lies_under(surface.closest(p, 50, nullptr), p, Vec3::UnitZ());
    };
    REQUIRE(under(Vec3(5, 4, 6)) == 1);
    REQUIRE(under(Vec3(5, 4, -6)) == 1);
    REQUIRE(under(Vec3(20, 4, 1)) == 0);
    REQUIRE(under(Vec3(11, 4, 0)) == 1);  // as near as that it is noise
    for (double x = 10; x < 30; x += 0.01)
        REQUIRE(std::abs(under(Vec3(x, 4, 4)) - under(Vec3(x + 0.01, 4, 4))) < 0.02);
}

TEST_CASE(
    "Not skin: the farther outside and the less like the face's colour, the likelier; of a body nothing is told") {
    SkinCell cell;
    cell.part = HeadPart::Skull, cell.deviations = 6;
    REQUIRE(not_skin(cell) == 0);
    cell.told = true;
    const double far = not_skin(cell);
    REQUIRE(far > 0.9);
    cell.deviations = 0.5;
    const double near = not_skin(cell);
    REQUIRE(near < 0.2);
    cell.coloured = true, cell.colour = 0, cell.light = 0;
    const double alike = not_skin(cell);
    cell.colour = 0.25, cell.light = 2;
    REQUIRE(not_skin(cell) > alike + 0.3);
    cell.deviations = -6;  // a dark place inside is a shadow more likely than a cap
    REQUIRE(not_skin(cell) < far);
}

TEST_CASE("Not skin: a helmet is found by its form and left out, the face is not") {
    const Helmet& h = helmet();
    FaceNetwork network;
    DetectInput input;
    input.kit = demo_kit().get(), input.source = &h.scan.mesh;
    const FrameGuess guess = guess_frame(h.scan.mesh, "scan.ply", {});
    input.upright = rough_upright(h.scan.mesh, guess.unit, guess.up, kUsualCrownMm);
    const auto found = detect_landmarks(network, input, {});
    REQUIRE(found);
    REQUIRE(found->not_skin.size() == h.scan.mesh.positions.size());
    double skin = 0, lost = 0, cover = 0, told = 0;
    for (std::size_t v = 0; v < found->not_skin.size(); ++v) {
        if (h.scan.stuff[v] == foreign::Stuff::Skin) skin += 1, lost += found->not_skin[v];
        if (h.scan.stuff[v] >= foreign::Stuff::Hair) cover += 1, told += found->not_skin[v];
    }
    INFO(lost / skin << " " << told / cover << " " << what_is_left_out(*found));
    REQUIRE(lost / skin < 0.05);
    REQUIRE(told / cover > 0.5);
    REQUIRE(found->covered.at("skull") > 0.5);
    REQUIRE(what_is_left_out(*found).find("of the skull") != std::string::npos);

    // a base mesh wears nothing
    input.by_shape = true;
    const auto base = detect_landmarks(network, input, {});
    REQUIRE(base);
    REQUIRE(base->not_skin.empty());
    REQUIRE(what_is_left_out(*base).empty());
}

TEST_CASE("Ear forms: the base's ear at zero, nothing that the numbers say already, none without known heads") {
    const BaseKit& kit = *demo_kit();
    const auto axes = ear_axes(kit, kit.landmarks, "l");
    REQUIRE(axes);
    const VertexIndices& ear = kit.region("ear_l");
    const EarModel model(kit, *axes, ear);
    std::array<double, kEarForms> size{};
    for (const Index v : ear) {
        const EarPlace at = model.place(v);
        REQUIRE((model.placed(EarNumbers::Zero(), at) - kit.mesh.positions[v]).norm() < 1e-9);
        for (int k = 0; k < kEarForms; ++k) size[static_cast<std::size_t>(k)] += at.form.col(k).squaredNorm();
    }
    for (const double s : size) CHECK(std::sqrt(s / static_cast<double>(ear.size())) > 0.1);  // mm, one deviation
    // along each number's own motion a form sums to nothing
    for (int number = 0; number < kFirstForm; ++number) {
        EarNumbers x = EarNumbers::Zero();
        x[number] = 1e-5;
        for (int form = 0; form < kEarForms; ++form) {
            double both = 0, moved = 0, formed = 0;
            for (const Index v : ear) {
                const EarPlace at = model.place(v);
                EarPlace plain;
                plain.local = at.local;
                const Vec3 way = axes->turned(model.placed(x, plain) - kit.mesh.positions[v]);
                both += way.dot(at.form.col(form)), moved += way.squaredNorm(),
                    formed += at.form.col(form).squaredNorm();
            }
            INFO("number " << number << ", form " << form);
            CHECK(std::abs(both) < 1e-3 * std::sqrt(moved * formed));
        }
    }
    BaseKit alone = kit;
    alone.known_heads = nullptr;
    CHECK(EarModel(alone, *axes, ear).place(ear[0]).form.isZero());
}
