// Selections, steps, recipes: what a person does to a scan, kept and run again; and the tools under
// random sequences on broken meshes.
#include <catch2/catch.hpp>

#include <cmath>

#include "core/io/image.h"
#include "core/mesh/edges.h"
#include "core/tidy/recipe.h"
#include "core/tidy/suggest.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// looks along -z at x, y in -100..100, near things at small depth
std::array<double, 16> front_view() { return {0.01, 0, 0, 0, 0, 0.01, 0, 0, 0, 0, -0.001, 0, 0, 0, 0, 1}; }

SelectStep rectangle(double left, double low, double right, double high, bool front_only) {
    SelectStep s;
    s.kind = SelectKind::Polygon;
    s.view = front_view();
    s.front_only = front_only;
    s.outline = {
        {left / 100, low / 100}, {right / 100, low / 100}, {right / 100, high / 100}, {left / 100, high / 100}};
    return s;
}

TidyState state_of(Mesh m) {
    TidyState s;
    s.mesh = std::make_shared<Mesh>(std::move(m));
    return s;
}

SelectStep simple(SelectKind kind, Combine combine = Combine::Replace) {
    SelectStep s;
    s.kind = kind, s.combine = combine;
    return s;
}

}  // namespace

TEST_CASE("Select: a rectangle takes the front only, or through") {
    const Mesh ball = sphere(30, 80);
    const FaceMask through = select_faces(ball, {}, {rectangle(-30, -30, 30, 30, false)});
    const FaceMask front = select_faces(ball, {}, {rectangle(-30, -30, 30, 30, true)});
    std::size_t front_count = 0;
    for (Index f = 0; f < ball.face_count(); ++f) {
        const Vec3 c = face_centre(ball, f);
        const bool inside = std::abs(c.x()) < 30 && std::abs(c.y()) < 30;
        REQUIRE(through[f] == inside);
        if (inside)
            REQUIRE(front[f] == (c.z() > 0));
        else
            REQUIRE_FALSE(front[f]);
        front_count += front[f];
    }
    REQUIRE(2 * front_count == count_selected(through));
    SECTION("adding, removing, inverting") {
        SelectStep less = rectangle(0, -100, 100, 100, false);
        less.combine = Combine::Remove;
        const FaceMask left = select_faces(ball, {}, {rectangle(-30, -30, 30, 30, false), less});
        for (Index f = 0; f < ball.face_count(); ++f) REQUIRE(left[f] == (through[f] && face_centre(ball, f).x() < 0));
        const FaceMask rest = select_faces(ball, {}, {rectangle(-30, -30, 30, 30, false), simple(SelectKind::Invert)});
        REQUIRE(count_selected(rest) + count_selected(through) == ball.face_count());
    }
    SECTION("the frame of the mesh does not matter") {
        Similarity metres{1000, Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized()).toRotationMatrix(), Vec3(5, 6, 7)};
        Mesh other = ball;
        for (Vec3& p : other.positions) p = metres.inverse()(p);
        REQUIRE(select_faces(other, metres, {rectangle(-30, -30, 30, 30, true)}) == front);
    }
}

TEST_CASE("Select: brush, joined, even area, grow and shrink") {
    Mesh m = sheet(20, 200, [](double x, double) { return x > 0 ? x : 0.0; });  // a fold of 45 degrees at x = 0
    append_sheet(m, 2, 20, Vec3(0, 0, -80));
    SelectStep brush = simple(SelectKind::Brush);
    brush.path = {Vec3(-50, -20, 0), Vec3(-50, 20, 0)};
    brush.radius = 15;
    const FaceMask painted = select_faces(m, {}, {brush});
    for (Index f = 0; f < m.face_count(); ++f) {
        const Vec3 c = face_centre(m, f);
        const double y = std::max(std::abs(c.y()) - 20, 0.0);
        REQUIRE(painted[f] == (std::hypot(c.x() + 50, y, c.z()) <= 15));
    }
    SelectStep joined = simple(SelectKind::Connected);
    joined.place = Vec3(0, 0, -78);
    REQUIRE(count_selected(select_faces(m, {}, {joined})) == 4);
    SelectStep even = simple(SelectKind::Angle);
    even.place = Vec3(-50, 0, 0), even.degrees = 30;
    REQUIRE(count_selected(select_faces(m, {}, {even})) == 200);
    even.degrees = 60;
    REQUIRE(count_selected(select_faces(m, {}, {even})) == 400);
    SelectStep more = simple(SelectKind::Grow), less = simple(SelectKind::Shrink);
    SelectStep one = simple(SelectKind::Brush);
    one.path = {face_centre(m, 20 * 10 + 5)}, one.radius = 1;
    REQUIRE(count_selected(select_faces(m, {}, {one})) == 1);
    REQUIRE(count_selected(select_faces(m, {}, {one, more})) == 9);
    more.rings = 3;
    REQUIRE(count_selected(select_faces(m, {}, {one, more})) == 49);
    less.rings = 2;
    REQUIRE(count_selected(select_faces(m, {}, {one, more, less})) == 9);
}

TEST_CASE("Select: by colour, from vertices and from a texture") {
    Mesh m = sheet(10, 100, [](double, double) { return 0.0; });
    for (const Vec3& p : m.positions)
        m.colours.push_back(p.x() < 0 ? Colour{200, 30, 30, 255} : Colour{30, 60, 200, 255});
    SelectStep red = simple(SelectKind::Colour);
    red.colour = {200 / 255.0, 30 / 255.0, 30 / 255.0};
    REQUIRE(count_selected(select_faces(m, {}, {red})) == 40);  // the column between is a mixture
    Pixels pixels{4, 2, {}};
    for (int y = 0; y < 2; ++y) {
        for (int x = 0; x < 4; ++x)
            pixels.rgba.insert(pixels.rgba.end(), {static_cast<std::uint8_t>(y == 0 ? 250 : 10), 40, 40, 255});
    }
    Mesh t = sheet(10, 100, [](double, double) { return 0.0; });
    for (const Vec3& p : t.positions) t.uvs.emplace_back(p.x() / 100 + 0.5, p.y() / 100 + 0.5);
    t.corner_uv = t.corner_vertex;
    t.images.push_back({"two", "image/png", encode_png(pixels)});
    t.materials.resize(1);
    t.materials[0].image = 0;
    t.face_material.assign(t.face_count(), 0);
    red.colour = {250 / 255.0, 40 / 255.0, 40 / 255.0};
    const FaceMask upper = select_faces(t, {}, {red});
    for (Index f = 0; f < t.face_count(); ++f)
        REQUIRE(upper[f] == (face_centre(t, f).y() > 0));  // images begin at the top
}

TEST_CASE("Images: what is no image is refused with its name") {
    REQUIRE(decode_image({"a.jpg", "image/jpeg", {}}).error().message.find("a.jpg") != std::string::npos);
    REQUIRE_FALSE(decode_image({"b", "image/jpeg", {0xff, 0xd8, 0xff, 0xe0, 0, 16, 1, 2, 3, 4}}));
    Pixels p{3, 2, std::vector<std::uint8_t>(24, 77)};
    std::vector<std::uint8_t> png = encode_png(p);
    REQUIRE(decode_image({"c", "image/png", png})->rgba == p.rgba);
    std::mt19937 random(8);
    for (int i = 0; i < 3000; ++i) {
        std::vector<std::uint8_t> bad = png;
        for (int k = 0; k < 3; ++k) bad[random() % bad.size()] = static_cast<std::uint8_t>(random());
        if (i % 3 == 0) bad.resize(random() % bad.size());
        (void)decode_image({"mutated", "image/png", bad});
    }
    std::ifstream in(demo("kit/textures/ottoline_head.jpg"), std::ios::binary);
    const std::vector<std::uint8_t> good((std::istreambuf_iterator<char>(in)), {});
    REQUIRE(decode_image({"d", "image/jpeg", good})->width == 2048);
    for (int i = 0; i < 12; ++i) {
        std::vector<std::uint8_t> bad(good.begin(), good.begin() + static_cast<std::ptrdiff_t>(random() % 60000));
        for (int k = 0; k < 30 && !bad.empty(); ++k) bad[random() % bad.size()] = static_cast<std::uint8_t>(random());
        (void)decode_image({"mutated", "image/jpeg", bad});
    }
}

TEST_CASE("Steps: lengths are millimetres whatever the mesh's unit") {
    Mesh mm = sphere(20, 100);
    Mesh metres = mm;
    for (Vec3& p : metres.positions) p *= 0.001;
    TidyStep step{Tool::Weld, {{"distance", 12.0}}, {}};
    TidyState small = state_of(metres);
    small.to_upright.scale = 1000;
    const auto a = run_step(state_of(mm), step, nullptr), b = run_step(small, step, nullptr);
    REQUIRE(a->state.mesh->positions.size() == b->state.mesh->positions.size());
    REQUIRE(a->state.mesh->positions.size() < mm.positions.size());
}

TEST_CASE("Steps: what cannot be done is refused with the tool's name") {
    const TidyState s = state_of(sphere(8, 100));
    const auto why = [&](TidyStep step) { return run_step(s, step, nullptr).error().message; };
    REQUIRE(why({Tool::Delete, {}, {}}).find("Delete") != std::string::npos);
    REQUIRE(why({Tool::Delete, {}, {simple(SelectKind::All)}}).find("nothing would be left") != std::string::npos);
    REQUIRE(why({Tool::Straighten, {}, {}}).find("kit") != std::string::npos);
    REQUIRE(why({Tool::Smooth, {{"rounds", 1e9}}, {}}).find("between") != std::string::npos);
    REQUIRE(why({Tool::Smooth, {{"speed", 1}}, {}}).find("speed") != std::string::npos);
    REQUIRE(why({Tool::Smooth, {}, {simple(SelectKind::None)}}).find("holds nothing") != std::string::npos);
    Progress stop;
    stop.cancelled = [] { return true; };
    for (const ToolInfo& tool : tool_table()) {
        TidyStep step{tool.tool, {}, {}};
        if (tool.selection != NeedsSelection::No) step.selection = {rectangle(-30, -30, 30, 30, false)};
        const auto done = run_step(s, step, demo_kit().get(), stop);
        INFO(tool.name);
        if (!done)
            CHECK((done.error().code == ErrorCode::Cancelled || done.error().code == ErrorCode::DegenerateInput));
    }
}

TEST_CASE("Steps: ignore paint follows the mesh through every tool") {
    Mesh m = sphere(30, 100);
    TidyState s = state_of(m);
    s = run_step(s, {Tool::Ignore, {}, {rectangle(-40, -40, 40, 40, true)}}, nullptr)->state;
    REQUIRE(s.ignored);
    const auto agrees = [&](const TidyState& now) {
        std::size_t wrong = 0, total = 0;
        for (std::size_t v = 0; v < now.mesh->positions.size(); ++v) {
            const Vec3& p = now.mesh->positions[v];
            const bool inside = std::max(std::abs(p.x()), std::abs(p.y())) < 30 && p.z() > 0,
                       outside = std::max(std::abs(p.x()), std::abs(p.y())) > 55 || p.z() < 0;
            wrong += (inside && !(*now.ignored)[v]) || (outside && (*now.ignored)[v]);
            ++total;
        }
        return now.ignored->size() == now.mesh->positions.size() && wrong == 0 && total > 20;
    };
    REQUIRE(agrees(s));
    for (const TidyStep& step :
         {TidyStep{Tool::Weld, {{"distance", 3}}, {}}, TidyStep{Tool::Cut, {{"y", -20}}, {}},
          TidyStep{Tool::Delete, {}, {rectangle(40, 60, 90, 90, false)}}, TidyStep{Tool::Remesh, {{"edge", 8}}, {}},
          TidyStep{Tool::Reduce, {{"triangles", 900}}, {}}}) {
        const auto done = run_step(s, step, nullptr);
        REQUIRE(done);
        INFO(tool_info(step.tool).name);
        REQUIRE(done->changed);
        CHECK(agrees(done->state));
    }
    const auto all_back = run_step(s, {Tool::Ignore, {{"match", 1}}, {simple(SelectKind::All)}}, nullptr);
    REQUIRE_FALSE(all_back->state.ignored);
}

TEST_CASE("Recipe: written, read and run again it does the same") {
    SelectStep brush = simple(SelectKind::Brush, Combine::Add);
    brush.path = {Vec3(1.5, 2, 99), Vec3(10, 3, 98)}, brush.pressure = {0.5, 1}, brush.radius = 12.25,
    brush.front_only = true, brush.towards = Vec3(0, 0, 1);
    SelectStep colour = simple(SelectKind::Colour);
    colour.colour = {0.1, 0.25, 1}, colour.tolerance = 0.3;
    SelectStep slab = simple(SelectKind::Slab, Combine::Remove);
    slab.place.y() = 4, slab.radius = 25;
    SelectStep angle = simple(SelectKind::Angle);
    angle.place = Vec3(1, 2, 3), angle.degrees = 44;
    const std::vector<TidyStep> steps = {{Tool::Weld, {{"distance", 0.125}}, {}},
                                         {Tool::Turn, {{"y", 33}, {"z", -5}}, {}},
                                         {Tool::Smooth, {{"rounds", 4}}, {rectangle(-50, -50, 50, 50, true), brush}},
                                         {Tool::Ignore, {}, {brush, slab}},
                                         {Tool::Delete, {}, {rectangle(-90, 80, 90, 99, false)}}};
    const auto back = parse_recipe(recipe_text(steps), "r.json");
    REQUIRE(back);
    REQUIRE(*back == steps);
    const auto exotic = parse_recipe(
        recipe_text({{Tool::Flip,
                      {},
                      {colour, angle, simple(SelectKind::Suggest, Combine::Add), simple(SelectKind::Components)}}}),
        "r.json");
    REQUIRE(exotic->front().selection[0] == colour);
    REQUIRE(exotic->front().selection[1] == angle);
    const auto one = run_recipe(state_of(sphere(20, 95)), steps, nullptr),
               two = run_recipe(state_of(sphere(20, 95)), *back, nullptr);
    INFO((one ? "" : one.error().message));
    REQUIRE(one);
    REQUIRE(one->said.size() == steps.size());
    REQUIRE(one->state.mesh->positions == two->state.mesh->positions);
    REQUIRE(*one->state.ignored == *two->state.ignored);
    SECTION("bad files name the step") {
        const auto why = [](const std::string& steps_json) {
            return parse_recipe("{\"format\":\"veldstone-tidy\",\"version\":1,\"steps\":[{\"tool\":\"repair\"}," +
                                    steps_json + "]}",
                                "bad.json")
                .error()
                .message;
        };
        CHECK(why("{\"tool\":\"iron\"}").find("step 2") != std::string::npos);
        CHECK(why("{\"tool\":\"weld\",\"distance\":-4}").find("distance") != std::string::npos);
        CHECK(why("{\"tool\":\"weld\",\"distance\":\"wide\"}").find("bad.json") != std::string::npos);
        CHECK(why("{\"tool\":\"smooth\",\"selection\":[{\"select\":\"hope\"}]}").find("hope") != std::string::npos);
        CHECK(why("{\"tool\":\"smooth\",\"selection\":[{\"select\":\"polygon\",\"view\":[1,2]}]}").find("16") !=
              std::string::npos);
        CHECK_FALSE(parse_recipe("{", "bad.json"));
        CHECK_FALSE(parse_recipe("{\"format\":\"other\"}", "bad.json"));
        CHECK_FALSE(parse_recipe("[]", "bad.json"));
    }
    SECTION("a step that fails says which it was") {
        const auto failed =
            run_recipe(state_of(sphere(8, 9)), {{Tool::Repair, {}, {}}, {Tool::Delete, {}, {}}}, nullptr);
        REQUIRE(failed.error().message.starts_with("Step 2"));
    }
    SECTION("damaged recipes are read or refused") {
        std::mt19937 random(31);
        const std::string good = recipe_text(steps);
        for (int i = 0; i < 20000; ++i) {
            std::string bad = good;
            for (int k = 1 + static_cast<int>(random() % 3); k > 0; --k)
                bad[random() % bad.size()] = static_cast<char>(random() % 96 + 32);
            if (i % 5 == 0) bad.resize(random() % bad.size());
            (void)parse_recipe(bad, "m.json");
        }
    }
}

TEST_CASE("Tools: random sequences of 30 on broken meshes leave valid meshes") {
    // VELDSTONE_FUZZ=2000 is for who changes a tool; every run does enough of them to find what breaks often
    const char* wanted = std::getenv("VELDSTONE_FUZZ");
    const int sequences = wanted ? std::atoi(wanted) : 400;
    std::size_t done = 0, refused = 0;
    for (int sequence = 0; sequence < sequences; ++sequence) {
        Rng rng(static_cast<unsigned>(sequence) + 17);
        std::uniform_real_distribution<double> u(0, 1);
        TidyState s = state_of(broken_scan(rng));
        for (int k = 0; k < 30; ++k) {
            const ToolInfo& tool = tool_table()[rng() % tool_table().size()];
            if (tool.tool == Tool::Straighten) continue;  // needs a head; tested with one
            TidyStep step{tool.tool, {}, {}};
            for (const ToolParameter& p : tool.parameters) {
                if (u(rng) < 0.5) continue;
                const double high = std::min(p.high, std::max(3 * std::abs(p.initial), 200.0));
                step.numbers[p.name] = p.choices ? std::floor(u(rng) * (p.high + 1))
                                                 : std::max(p.low, -200.0) + u(rng) * (high - std::max(p.low, -200.0));
            }
            if (tool.tool == Tool::Remesh) step.numbers["edge"] = 12 + 60 * u(rng);
            if (tool.tool == Tool::Smooth) step.numbers["rounds"] = 1 + std::floor(10 * u(rng));
            if (tool.selection == NeedsSelection::Yes || u(rng) < 0.4) {
                SelectStep select = simple(static_cast<SelectKind>(rng() % 12));
                select.view = front_view();
                for (int i = 0; i < 5; ++i) select.outline.emplace_back(2 * u(rng) - 1, 2 * u(rng) - 1);
                for (int i = 0; i < 3; ++i) select.path.emplace_back(120 * u(rng) - 60, 120 * u(rng) - 60, 100);
                select.radius = 40 * u(rng), select.place = Vec3(100 * u(rng), 100 * u(rng), 100 * u(rng)),
                select.front_only = rng() % 2;
                step.selection.push_back(select);
            }
            const TidyState before = s;
            auto next = run_step(s, step, nullptr);
            if (!next) {
                REQUIRE_FALSE(next.error().message.empty());
                ++refused;
                continue;
            }
            ++done;
            s = std::move(next->state);
            INFO("sequence " << sequence << ", step " << k << ", " << tool.name);
            const auto valid = check_mesh(*s.mesh, "fuzz");
            INFO((valid ? "" : valid.error().message));
            REQUIRE(valid);
            REQUIRE((!s.ignored || s.ignored->size() == s.mesh->positions.size()));
            REQUIRE(
                (s.to_upright.scale > 0 && s.to_upright.translation.allFinite() && s.to_upright.rotation.allFinite()));
            REQUIRE(s.mesh->face_count() < 400000);
        }
    }
    INFO(done << " steps done, " << refused << " refused");
    REQUIRE(done > refused);
}

TEST_CASE("Recipe: tools and selections under the names of older recipes are read, and written under today's") {
    const auto older = parse_recipe(
        "{\"format\":\"veldstone-tidy\",\"version\":1,\"unit\":\"mm\",\"steps\":[{\"tool\":\"mend\"},"
        "{\"tool\":\"pieces\",\"share\":3},{\"tool\":\"delete\",\"selection\":[{\"select\":\"pieces\"}]}]}",
        "older.json");
    REQUIRE(older);
    REQUIRE(older->size() == 3);
    CHECK((*older)[0].tool == Tool::Repair);
    CHECK((*older)[1].tool == Tool::Components);
    CHECK((*older)[2].selection.at(0).kind == SelectKind::Components);
    const std::string now = recipe_text(*older);
    CHECK(now.find("mend") == std::string::npos);
    CHECK(now.find("pieces") == std::string::npos);
    CHECK(now.find("\"components\"") != std::string::npos);
}
