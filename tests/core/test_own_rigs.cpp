// Bases that bring joints, weights and expressions of their own, several files, and the way back into them.
#include <catch2/catch.hpp>
#include <cmath>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/exchange/export.h"
#include "core/io/glb_write.h"
#include "core/io/gltf_read.h"
#include "core/io/gltf_rewrite.h"
#include "core/io/mesh_write.h"
#include "core/kit/kit_joints.h"
#include "core/kit/original.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/edit_kit.h"
#include "core/kit_making/make_kit.h"
#include "core/kit_making/own_rig.h"
#include "core/spatial/nearest_points.h"
#include "core/tidy/change.h"
#include "demo/standins/made_up_base.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

struct GlbParts {
    Json json;
    std::string binary;
};
std::uint32_t word_at(const std::string& bytes, std::size_t at) {
    std::uint32_t out = 0;
    std::memcpy(&out, bytes.data() + at, 4);
    return out;
}
GlbParts parts_of(const std::string& bytes) {
    const std::size_t json = word_at(bytes, 12);
    return {Json::parse(bytes.substr(20, json)), bytes.substr(28 + json, word_at(bytes, 20 + json))};
}
std::string glb_of(const GlbParts& parts) {
    std::string json = parts.json.dump(), out;
    json.resize((json.size() + 3) / 4 * 4, ' ');
    const auto put = [&](std::size_t value) {
        const auto word = static_cast<std::uint32_t>(value);
        out.append(reinterpret_cast<const char*>(&word), 4);
    };
    put(0x46546C67), put(2), put(28 + json.size() + parts.binary.size());
    put(json.size()), put(0x4E4F534A), out += json;
    put(parts.binary.size()), put(0x004E4942), out += parts.binary;
    return out;
}

// A strip along x whose right half follows the second of two joints.
struct Strip {
    Mesh mesh = sheet(4, 100, [](double, double) { return 0.0; });
    std::vector<Joint> joints{{"root", -1, Vec3(-50, 0, 0)}, {"arm", 0, Vec3(0, 0, 0)}};
    SkinWeights weights;
    Strip() {
        for (const Vec3& p : mesh.positions) {
            weights.joint.push_back({0, 1, 0, 0});
            weights.weight.push_back({p.x() > 1 ? 0.25 : 1.0, p.x() > 1 ? 0.75 : 0.0, 0, 0});
        }
    }
    std::string glb() const {
        GlbModel model;
        model.mesh = &mesh, model.joints = &joints, model.weights = &weights;
        Points up(mesh.positions.size(), Vec3(0, 0, 3));
        model.targets.push_back({"up", up, 0, {}});
        return glb_bytes(model);
    }
};

Index at_place(const Points& points, const Vec3& p) {
    for (Index v = 0; v < points.size(); ++v) {
        if ((points[v] - p).norm() < 1e-4) return v;  // floats
    }
    return kNone;
}

// Made once for all cases: somebody else's rigged bust, and the kit made from it.
struct RiggedBust {
    Scratch scratch;
    std::string file = scratch / "bust.glb";
    MadeUpBase truth;
    MadeUpRig rig;
    std::optional<MadeKit> made;
    RiggedBust() {
        BaseOptions o;
        o.seed = 6, o.figure = false, o.edge_mm = 5;
        truth = make_base(*demo_kit(), o);
        rig = rig_of(truth);
        REQUIRE(write_file(file, rigged_glb(truth, rig)));
        FaceNetwork network;
        KitRecipe recipe;
        recipe.file = file;
        auto result = make_kit(network, *demo_kit(), recipe, {});
        REQUIRE(result);
        made = std::move(*result);
    }
};
const RiggedBust& bust() {
    static const RiggedBust all;
    return all;
}

double sum_of(const std::array<double, 4>& weights) { return weights[0] + weights[1] + weights[2] + weights[3]; }

}  // namespace

TEST_CASE("Own rigs: joints and weights of a GLB, parents first") {
    const Strip strip;
    const auto file = parse_gltf(strip.glb(), "strip.glb", "");
    REQUIRE(file);
    REQUIRE(file->skin);
    REQUIRE(file->skin->joints.size() == 2);
    CHECK(file->skin->joints[1].name == "arm");
    CHECK(file->skin->joints[1].parent == 0);
    CHECK((file->skin->joints[0].position - Vec3(-0.05, 0, 0)).norm() < 1e-6);
    for (Index v = 0; v < file->mesh.positions.size(); ++v) {
        const Index w = at_place(strip.mesh.positions, 1000 * file->mesh.positions[v]);
        REQUIRE(w != kNone);
        CHECK(sum_of(file->skin->weights.weight[v]) == Approx(1));
        const bool right = strip.mesh.positions[w].x() > 1;
        CHECK(file->skin->weights.weight[v][0] == Approx(right ? 0.75 : 1));
        CHECK(file->skin->weights.joint[v][0] == (right ? 1 : 0));
    }
    SECTION("what a skin moves stands as its joints stand, wherever its node is") {
        GlbParts parts = parts_of(strip.glb());
        for (Json& node : parts.json["nodes"]) {
            if (node.contains("mesh")) node["translation"] = {7, 7, 7};
            if (node.value("name", "") == "arm") node["translation"] = {0.05, 0.2, 0};  // of its parent: 0.2 m up
        }
        const auto posed = parse_gltf(glb_of(parts), "strip.glb", "");
        REQUIRE(posed);
        for (Index v = 0; v < posed->mesh.positions.size(); ++v) {
            const double up = file->mesh.positions[v].x() > 0.001 ? 0.75 * 0.2 : 0;
            CHECK((posed->mesh.positions[v] - file->mesh.positions[v] - Vec3(0, up, 0)).norm() < 1e-6);
        }
        CHECK(posed->skin->joints[1].position.y() == Approx(0.2));
    }
    SECTION("weights that do not add up to 1 are taken by their shares, and it is said") {
        GlbParts parts = parts_of(strip.glb());
        const Json& primitive = parts.json["meshes"][0]["primitives"][0];
        const Json& a = parts.json["accessors"][primitive["attributes"]["WEIGHTS_0"].get<std::size_t>()];
        const std::size_t at = parts.json["bufferViews"][a["bufferView"].get<std::size_t>()]["byteOffset"];
        for (std::size_t i = 0; i < 4 * a["count"].get<std::size_t>(); ++i) {
            float w = 0;
            std::memcpy(&w, parts.binary.data() + at + 4 * i, 4);
            w *= 0.5f;
            std::memcpy(parts.binary.data() + at + 4 * i, &w, 4);
        }
        const auto halved = parse_gltf(glb_of(parts), "strip.glb", "");
        REQUIRE(halved);
        CHECK(sum_of(halved->skin->weights.weight[0]) == Approx(1));
        REQUIRE(halved->notes.size() == 1);
        CHECK(halved->notes[0].find("do not add up to 1") != std::string::npos);
    }
    SECTION("damaged skins are read without") {
        GlbParts parts = parts_of(strip.glb());
        parts.json["skins"][0]["joints"] = {90, -3};
        const auto read = parse_gltf(glb_of(parts), "strip.glb", "");
        REQUIRE(read);
        CHECK_FALSE(read->skin);
        parts = parts_of(strip.glb());
        for (std::size_t n = 0; n < parts.json["nodes"].size(); ++n) {
            if (parts.json["nodes"][n].value("name", "") == "arm") parts.json["nodes"][n]["children"] = {0, 1, 2, n};
        }
        (void)parse_gltf(glb_of(parts), "strip.glb", "");  // a circle: refused or read, never hung
    }
    SECTION("joints without weights are there, and nothing follows them") {
        GlbParts parts = parts_of(strip.glb());
        parts.json["meshes"][0]["primitives"][0]["attributes"].erase("WEIGHTS_0");
        const auto bare = parse_gltf(glb_of(parts), "strip.glb", "");
        REQUIRE(bare);
        REQUIRE(bare->skin);
        CHECK_FALSE(bare->skin->has_weights);
    }
}

TEST_CASE("Own rigs: a GLB is written again with another shape, all else as it was") {
    const Strip strip;
    GlbParts before = parts_of(strip.glb());
    before.json["extras"] = {{"keep", "this"}};
    const std::string bytes = glb_of(before);
    const auto file = parse_gltf(bytes, "strip.glb", "");
    REQUIRE(file);
    GlbChange change;
    for (const Vec3& p : file->mesh.positions) change.positions.push_back(p + Vec3(0, 0, 0.01 + p.x()));
    change.normals.assign(change.positions.size(), Vec3::UnitZ());
    change.targets.push_back({"mine", R"({"kind":"head"})", Points(change.positions.size(), Vec3(0, 0.5, 0))});
    const auto out = rewrite_glb(bytes, "strip.glb", change);
    REQUIRE(out);
    const auto again = parse_gltf(*out, "strip.glb", "");
    REQUIRE(again);
    CHECK(again->mesh.corner_vertex == file->mesh.corner_vertex);
    for (Index v = 0; v < change.positions.size(); ++v)
        CHECK((again->mesh.positions[v] - change.positions[v]).norm() < 1e-6);
    REQUIRE(again->targets.size() == 2);
    CHECK(again->targets[0].name == "up");
    CHECK(again->targets[0].delta[3].z() == Approx(0.003));
    CHECK(again->targets[1].name == "mine");
    CHECK(again->targets[1].about.find("head") != std::string::npos);
    CHECK(again->targets[1].delta[2].y() == Approx(0.5));
    const GlbParts after = parts_of(*out);
    CHECK(after.json["skins"] == before.json["skins"]);
    CHECK(after.json["nodes"] == before.json["nodes"]);
    CHECK(after.json["extras"] == before.json["extras"]);
    const Json &was = before.json["meshes"][0]["primitives"][0]["attributes"],
               &is = after.json["meshes"][0]["primitives"][0]["attributes"];
    CHECK(is["JOINTS_0"] == was["JOINTS_0"]);
    CHECK(is["WEIGHTS_0"] == was["WEIGHTS_0"]);
    CHECK(after.binary.starts_with(before.binary.substr(0, before.binary.size() - 4)));
    SECTION("another number of vertices is refused") {
        change.positions.pop_back();
        CHECK(rewrite_glb(bytes, "strip.glb", change).error().code == ErrorCode::BadInput);
    }
    SECTION("one mesh in two places that part is refused") {
        GlbParts twice = before;
        Json second;
        for (const Json& node : twice.json["nodes"]) {
            if (node.contains("mesh")) second = node;
        }
        second.erase("skin"), second["translation"] = {1, 0, 0};
        twice.json["scenes"][0]["nodes"].push_back(twice.json["nodes"].size());
        twice.json["nodes"].push_back(second);
        const std::string two = glb_of(twice);
        const auto both = parse_gltf(two, "two.glb", "");
        REQUIRE(both);
        GlbChange apart;
        apart.positions = both->mesh.positions;
        CHECK(rewrite_glb(two, "two.glb", apart));  // nothing moved
        apart.positions.front().z() += 0.5;
        CHECK(rewrite_glb(two, "two.glb", apart).error().code == ErrorCode::BadInput);
    }
    SECTION("no GLB") { CHECK_FALSE(rewrite_glb("glTF and no more", "x.glb", change)); }
}

TEST_CASE("Own rigs: materials that share one list of vertices share it here, and in what is written") {
    const Strip strip;
    GlbParts parts = parts_of(strip.glb());
    Json& primitives = parts.json["meshes"][0]["primitives"];
    primitives.push_back(primitives[0]);
    const auto file = parse_gltf(glb_of(parts), "strip.glb", "");
    REQUIRE(file);
    CHECK(file->mesh.positions.size() == strip.mesh.positions.size());
    GlbChange change;
    for (const Vec3& p : file->mesh.positions) change.positions.push_back(2 * p);
    const auto out = rewrite_glb(glb_of(parts), "strip.glb", change);
    REQUIRE(out);
    const Json written = parts_of(*out).json["meshes"][0]["primitives"];
    CHECK(written[0]["attributes"]["POSITION"] == written[1]["attributes"]["POSITION"]);
}

TEST_CASE("Own rigs: roles are recognised by place and by how joints hang together") {
    for (const unsigned seed : {1u, 2u, 5u}) {
        BaseOptions o;
        o.seed = seed, o.edge_mm = 20, o.parts = false, o.arms_degrees = 20;
        const MadeUpBase base = make_base(*demo_kit(), o);
        const MadeUpRig rig = rig_of(base);
        // as joints that were carried over lie: some millimetres off
        std::vector<Joint> known = base.joints;
        for (std::size_t j = 0; j < known.size(); ++j)
            known[j].position += 3 * Vec3(std::sin(1.7 * j), std::cos(2.3 * j), std::sin(0.9 * j));
        const auto found = recognise_roles(known, rig.joints);
        std::size_t wrong = 0;
        for (const auto& [role, name] : found) wrong += rig.roles.at(role) != name;
        CHECK(wrong == 0);
        CHECK(found.size() == rig.roles.size());
        SECTION("without names that say anything, seed " + std::to_string(seed)) {
            std::vector<Joint> nameless = rig.joints;
            std::map<std::string, std::string> renamed;
            for (std::size_t j = 0; j < nameless.size(); ++j) {
                renamed[nameless[j].name] = "x" + std::to_string(j);
                nameless[j].name = "x" + std::to_string(j);
            }
            const auto by_place = recognise_roles(known, nameless);
            std::size_t off = 0;
            for (const auto& [role, name] : by_place) off += renamed.at(rig.roles.at(role)) != name;
            CHECK(off <= 2);
            CHECK(by_place.size() + 4 >= rig.roles.size());
        }
    }
}

TEST_CASE("Own rigs: weights count for the nearest joint above that has a role") {
    BaseKit kit;
    kit.joints = {{"pelvis", -1, Vec3(0, 900, 0)}, {"upper_arm_l", 0, Vec3(200, 1400, 0)}, {"eye_l", 0, Vec3::Zero()}};
    kit.mesh.positions.resize(3, Vec3::Zero());
    kit.weights.joint.assign(3, {0, 1, 2, 0});
    kit.weights.weight = {{1, 0, 0, 0}, {0.5, 0.5, 0, 0}, {0.25, 0, 0.75, 0}};
    kit.own_rig = KitRig{"",
                         "",
                         {{"floor", -1, Vec3::Zero()},
                          {"hips", 0, Vec3(0, 950, 0)},
                          {"arm", 1, Vec3(210, 1410, 5)},
                          {"arm twist", 2, Vec3(300, 1400, 0)}},
                         {{"pelvis", "hips"}, {"upper_arm_l", "arm"}}};
    SkinWeights own;
    own.joint.assign(3, {1, 2, 3, 0});
    own.weight = {{0, 0.3, 0.7, 0}, {0.4, 0.3, 0.3, 0}, {1, 0, 0, 0}};
    take_own_rig(own, kit);
    CHECK(kit.joints[0].position == Vec3(0, 950, 0));
    CHECK(kit.joints[1].position == Vec3(210, 1410, 5));
    CHECK(kit.joints[2].position == Vec3::Zero());  // nobody stands for it
    const auto weight = [&](std::size_t v, int joint) {
        double out = 0;
        for (std::size_t k = 0; k < 4; ++k) out += kit.weights.joint[v][k] == joint ? kit.weights.weight[v][k] : 0;
        return out;
    };
    CHECK(weight(0, 1) == Approx(1));
    CHECK(weight(1, 0) == Approx(0.4));
    CHECK(weight(1, 1) == Approx(0.6));
    // the hips' share is parted as pelvis and eye had it
    CHECK(weight(2, 0) == Approx(0.25));
    CHECK(weight(2, 2) == Approx(0.75));
}

TEST_CASE("Kit from a rigged GLB: its joints, weights and expressions, and back into the very file") {
    const BaseKit& kit = bust().made->kit;
    const KitReport& report = bust().made->report;
    REQUIRE(kit.own_rig);
    CHECK(report.own_joints == bust().rig.joints.size());
    std::size_t wrong = 0;
    for (const auto& [role, name] : kit.own_rig->roles) wrong += bust().rig.roles.at(role) != name;
    CHECK(wrong == 0);
    for (const char* role : {"neck", "head", "jaw", "eye_l", "eye_r", "clavicle_l"})
        CHECK(kit.own_rig->roles.contains(role));
    // the jaw is exactly where the file has it
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        if (kit.joints[j].name != "jaw") continue;
        CHECK((kit.joints[j].position - bust().truth.joints[j].position).norm() < 0.01);
    }
    CHECK(report.own_expressions == demo_kit()->expressions.size());
    REQUIRE(kit.expressions.contains("their smile"));
    double off = 0;
    const Similarity to_mm = kit.original->to_kit;
    const auto file = read_mesh(bust().file);
    REQUIRE(file);
    for (Index v = 0; v < kit.original->work_of.size(); ++v) {
        const Index w = kit.original->work_of[v];
        for (const FileTarget& t : file->targets) {
            if (t.name != "their smile") continue;
            const Vec3 wanted = to_mm.scale * (to_mm.rotation * t.delta[v]);
            off = std::max(off, (kit.expressions.at(t.name)[w] - kit.mesh.positions[w] - wanted).norm());
        }
    }
    CHECK(off < 1e-5);  // a kit is kept to a millionth of a millimetre

    Scratch scratch;
    REQUIRE(write_base_kit(kit, scratch / "kit", {bust().file}));
    const auto read = read_base_kit(scratch / "kit");
    REQUIRE(read);
    REQUIRE(read->own_rig);
    CHECK(read->own_rig->roles == kit.own_rig->roles);
    CHECK(read->doubts == kit.doubts);
    Morph morph;
    {
        Points longer = read->mesh.positions;
        for (const Index v : read->region("face")) longer[v].z() += 4;
        auto made = make_morph(*read, longer, "longer");
        REQUIRE(made);
        morph = std::move(*made);
        morph.group = "faces";
    }
    const std::string out = scratch / "out.glb";
    REQUIRE(export_glb(*read, {{&morph, 0.0}}, out));
    const auto again = read_mesh(out);
    REQUIRE(again);
    REQUIRE(again->mesh.positions.size() == file->mesh.positions.size());
    for (std::size_t v = 0; v < file->mesh.positions.size(); ++v)
        REQUIRE((again->mesh.positions[v] - file->mesh.positions[v]).norm() < 1e-6);
    REQUIRE(again->skin);
    CHECK(again->skin->weights.weight == file->skin->weights.weight);
    CHECK(again->skin->joints.size() == file->skin->joints.size());
    REQUIRE(again->targets.size() == demo_kit()->expressions.size() + 1);
    CHECK(again->targets.back().name == "longer");
    // and in again
    const auto back = import_morphs(*read, out, {});
    REQUIRE(back);
    REQUIRE(back->size() == demo_kit()->expressions.size() + 1);
    CHECK(back->back().group == "faces");
    CHECK(back->back().index.size() == morph.index.size());

    SECTION("OBJ goes out in the file's order and unit, and comes back") {
        const std::string obj = scratch / "out.obj";
        REQUIRE(export_morphed_obj(*read, {{&morph, 1.0}}, obj));
        const auto shape = read_mesh(obj);
        REQUIRE(shape);
        CHECK(shape->mesh.positions.size() == file->mesh.positions.size());
        const auto in = import_morphs(*read, obj, {});
        REQUIRE(in);
        CHECK(in->front().index.size() == morph.index.size());
        CHECK((in->front().delta[0] - morph.delta[0]).norm() < 1e-3);
    }
    SECTION("other roles") {
        BaseKit edited = *read;
        const std::size_t jaw = static_cast<std::size_t>(
            std::find_if(edited.joints.begin(), edited.joints.end(), [](const Joint& j) { return j.name == "jaw"; }) -
            edited.joints.begin());
        REQUIRE(set_roles({{"jaw", ""}}, edited));
        CHECK_FALSE(edited.own_rig->roles.contains("jaw"));
        REQUIRE(set_roles({{"jaw", "jaw bone"}}, edited));
        CHECK((edited.joints[jaw].position - read->joints[jaw].position).norm() < 1e-9);
        CHECK(set_roles({{"jaw", "no such"}}, edited).error().code == ErrorCode::BadInput);
        CHECK(set_roles({{"no such", "jaw bone"}}, edited).error().code == ErrorCode::BadInput);
        CHECK(set_roles({{"head", "jaw bone"}}, edited).error().code == ErrorCode::BadInput);  // it is the jaw
        CHECK(set_roles({{"jaw", "jaw bone"}}, *std::make_unique<BaseKit>(*demo_kit())).error().code ==
              ErrorCode::BadInput);
    }
}

TEST_CASE("Kit making: once more from its own file, with what was corrected") {
    const BaseKit& made = bust().made->kit;
    Scratch scratch;
    REQUIRE(write_base_kit(made, scratch / "kit", {bust().file}));
    auto kit = read_base_kit(scratch / "kit");
    REQUIRE(kit);
    auto points = kit->landmarks;
    points["pronasale"] = points.at("subnasale");
    const auto recipe = recipe_again(*kit, points);
    REQUIRE(recipe);
    CHECK(recipe->unit == Unit::Metre);
    CHECK(recipe->up == UpAxis::PlusY);
    REQUIRE(recipe->landmarks.points.size() == 1);
    const Vec3 in_file = recipe->landmarks.points.at("pronasale");
    CHECK((kit->original->to_kit(in_file) - points["subnasale"].at(kit->mesh.positions)).norm() < 1e-6);
    kit->by_hand.insert("gnathion");
    CHECK(recipe_again(*kit, points)->landmarks.points.size() == 2);
    CHECK(recipe_again(*demo_kit(), {}).error().code == ErrorCode::BadInput);
    // from a file without targets: expressions that came from a folder stay
    Mesh plain = read_mesh(bust().file)->mesh;
    REQUIRE(write_mesh(scratch / "plain.obj", plain, 1));
    KitRecipe once;
    once.file = scratch / "plain.obj";
    FaceNetwork network;
    const auto first = make_kit(network, *demo_kit(), once, {});
    REQUIRE(first);
    CHECK(first->report.own_expressions == 0);
    BaseKit with = first->kit;
    with.expressions["wry"] = with.mesh.positions;
    with.expressions["wry"][3].y() += 2;
    std::vector<double> shares(with.mesh.positions.size(), 0);
    for (const Index v : with.region("face")) shares[v] = 1;
    with.joint_ties = *ties_by_shares(with, "head", shares, true);
    const std::size_t tied_to = with.joint_ties.at("head").vertex.size();
    once.before = std::make_shared<BaseKit>(std::move(with));
    const auto second = make_kit(network, *demo_kit(), once, {});
    REQUIRE(second);
    REQUIRE(second->kit.expressions.contains("wry"));
    CHECK((second->kit.expressions.at("wry")[3] - second->kit.mesh.positions[3]).norm() == Approx(2));
    REQUIRE(second->kit.joint_ties.contains("head"));
    CHECK(second->kit.joint_ties.at("head").vertex.size() == tied_to);
    for (std::size_t j = 0; j < second->kit.joints.size(); ++j) {
        const Points told = joint_places(second->kit, second->kit.mesh.positions);
        if (second->kit.joints[j].name == "head") CHECK((told[j] - second->kit.joints[j].position).norm() < 1e-3);
    }
}

TEST_CASE("Base files: a body and its head in two files, eyes in a third, expressions in a folder") {
    BaseOptions o;
    o.seed = 6, o.figure = false, o.edge_mm = 5;
    const MadeUpBase truth = make_base(*demo_kit(), o);
    Scratch scratch;
    // parted at a height, and the eyes by themselves
    const Mesh& whole = truth.mesh;
    const double height = bounding_box(whole.positions).centre().z();
    const auto piece = [&](const auto& belongs, const std::string& name) {
        FaceMask keep(whole.face_count(), 0);
        for (Index f = 0; f < whole.face_count(); ++f) keep[f] = belongs(whole.corner_vertex[whole.face_start[f]], f);
        Mesh mesh = keep_faces(whole, keep).mesh;
        mesh.group_names.clear(), mesh.face_group.clear();
        REQUIRE(write_mesh(scratch / name, mesh, 1));
        return mesh;
    };
    const auto eye = [&](Index v) { return truth.part_of[v].starts_with("eye"); };
    const auto upper = [&](Index f) {
        Vec3 middle = Vec3::Zero();
        for (Index c = whole.face_start[f]; c < whole.face_start[f + 1]; ++c)
            middle += whole.positions[whole.corner_vertex[c]] / whole.face_size(f);
        return middle.z() > height;
    };
    const Mesh head = piece([&](Index v, Index f) { return !eye(v) && upper(f); }, "head.obj"),
               body = piece([&](Index v, Index f) { return !eye(v) && !upper(f); }, "body.obj"),
               eyes = piece([&](Index v, Index) { return eye(v); }, "balls.obj");
    REQUIRE(read_base_files({{scratch / "head.obj", {}}}, {}));
    const auto files =
        read_base_files({{scratch / "head.obj", {}}, {scratch / "body.obj", "skin"}, {scratch / "balls.obj", {}}}, {});
    REQUIRE(files);
    CHECK(files->file_vertices == head.positions.size() + body.positions.size() + eyes.positions.size());
    CHECK(files->mesh.positions.size() == whole.positions.size());  // joined along the seam
    CHECK(files->mesh.face_count() == whole.face_count());
    REQUIRE(files->original.more.size() == 2);
    CHECK(files->original.main_vertices() == head.positions.size());
    CHECK(files->part_of.size() == 1);

    // a kit of it gives each file back
    BaseKit kit;
    kit.folder = scratch.folder();
    kit.mesh = files->mesh, kit.triangulation = triangulate(kit.mesh);
    kit.original = files->original;
    kit.original->file = "head.obj", kit.original->more[0].file = "body.obj", kit.original->more[1].file = "balls.obj";
    Points raised = kit.mesh.positions;
    for (Vec3& p : raised) p.z() += 1;
    const auto main = in_original(kit, raised);
    REQUIRE(main);
    CHECK(main->positions.size() == head.positions.size());
    const auto further = in_further_originals(kit, raised);
    REQUIRE(further);
    REQUIRE(further->size() == 2);
    CHECK((*further)[0].corner_vertex == body.corner_vertex);
    for (std::size_t v = 0; v < eyes.positions.size(); ++v)
        REQUIRE(((*further)[1].positions[v] - eyes.positions[v] - Vec3(0, 0, 1)).norm() < 1e-5);
    REQUIRE(export_shape_obj(kit, raised, "raised", scratch / "raised.obj"));
    CHECK(read_mesh(scratch / "raised_balls.obj")->mesh.positions.size() == eyes.positions.size());

    // expressions of the first file's vertices
    std::filesystem::create_directories(scratch / "faces");
    Mesh smile = head;
    for (Vec3& p : smile.positions) p.x() *= 1.1;
    REQUIRE(write_mesh(scratch / "faces/smile.obj", smile, 1));
    REQUIRE(write_mesh(scratch / "faces/wrong.obj", eyes, 1));
    std::vector<std::string> notes;
    const auto shapes = folder_shapes(scratch / "faces", kit, notes, {});
    REQUIRE(shapes.size() == 1);
    CHECK(shapes.at("smile").size() == kit.mesh.positions.size());
    REQUIRE(notes.size() == 1);
    CHECK(notes[0].find("wrong.obj") != std::string::npos);
    CHECK(folder_shapes(scratch / "nothing", kit, notes, {}).empty());

    SECTION("a .gltf whose data are in other files is kept as one .glb") {
        const Strip strip;
        GlbParts parts = parts_of(strip.glb());
        scratch.write("strip data.bin", parts.binary);
        parts.json["buffers"][0]["uri"] = "strip%20data.bin";
        scratch.write("strip.gltf", parts.json.dump());
        const auto from = read_base_files({{scratch / "strip.gltf", {}}}, {});
        REQUIRE(from);
        CHECK(from->original.file == "original.glb");
        const auto packed = pack_gltf(scratch / "strip.gltf");
        REQUIRE(packed);
        CHECK(original_key(*packed) == from->original.key);
        const auto whole = parse_gltf(*packed, "x.glb", ""), straight = parse_gltf(strip.glb(), "y.glb", "");
        REQUIRE(whole);
        CHECK(whole->mesh.positions == straight->mesh.positions);
        CHECK(whole->mesh.corner_vertex == straight->mesh.corner_vertex);
        CHECK(whole->skin->weights.weight == straight->skin->weights.weight);
        CHECK(whole->targets[0].delta == straight->targets[0].delta);
        GlbChange change;
        change.positions = whole->mesh.positions;
        CHECK(rewrite_glb(*packed, "x.glb", change));
        // what it names is not there, is no glTF, or does not agree
        parts.json["buffers"][0]["uri"] = "gone.bin";
        const auto gone = read_base_files({{scratch.write("gone.gltf", parts.json.dump()), {}}}, {});
        REQUIRE_FALSE(gone);
        CHECK(gone.error().message.find("gone.bin") != std::string::npos);
        CHECK_FALSE(pack_gltf(scratch.write("no.gltf", "no")));
        parts.json["bufferViews"][0]["buffer"] = 7;
        parts.json["buffers"][0]["uri"] = "strip%20data.bin";
        CHECK_FALSE(pack_gltf(scratch.write("seven.gltf", parts.json.dump())));
        parts.json["buffers"][0]["uri"] = "data:application/octet-stream;base64,AAAA";
        parts.json["bufferViews"][0]["buffer"] = 0;
        CHECK(pack_gltf(scratch.write("text.gltf", parts.json.dump())));
    }
}

TEST_CASE("Kit edits: regions, roles and what was looked at, written into the kit's own folder") {
    Scratch scratch;
    const std::string folder = scratch / "kit";
    std::filesystem::copy(demo("kit"), folder, std::filesystem::copy_options::recursive);
    REQUIRE(write_file(folder + "/own_landmarks.json",
                       R"({"format":"veldstone-kit-landmarks","points":{"mole":12},"curves":{}})"));
    auto kit = read_base_kit(folder);
    REQUIRE(kit);
    kit->doubts["pronasale"] = 2.5;
    KitEdits edits;
    edits.regions["face"] = kit->region("nose");
    edits.looked_at = {"pronasale"};
    const auto edited = edited_kit(*kit, edits);
    REQUIRE(edited);
    CHECK(edited->region("face") == kit->region("nose"));
    CHECK(edited->doubts.empty());
    REQUIRE(update_base_kit(*edited));
    const auto again = read_base_kit(folder);
    REQUIRE(again);
    CHECK(again->region("face") == edited->region("face"));
    CHECK(again->landmarks == edited->landmarks);
    CHECK(again->landmarks.contains("mole"));
    CHECK_FALSE(std::filesystem::exists(folder + "/own_landmarks.json"));
    CHECK(again->head_vertices == kit->head_vertices);  // what nobody edits is as it was
    CHECK(again->mesh.images.size() == kit->mesh.images.size());
    REQUIRE(copy_base_kit(*edited, scratch / "copy"));
    CHECK(read_base_kit(scratch / "copy")->region("face") == edited->region("face"));
    CHECK(copy_base_kit(*edited, folder).error().code == ErrorCode::BadInput);
    CHECK(copy_base_kit(*edited, folder + "/inside").error().code == ErrorCode::BadInput);
    CHECK_FALSE(std::filesystem::exists(folder + "/inside"));
    // somebody put another base's kit there meanwhile
    const std::string other = scratch.read("copy/figure.json");
    Json changed = Json::parse(other);
    changed["counts"]["vertices"] = 7;
    REQUIRE(write_file(scratch / "copy/figure.json", changed.dump()));
    BaseKit stale = *edited;
    stale.folder = scratch / "copy";
    CHECK(update_base_kit(stale).error().code == ErrorCode::BadFile);
    CHECK(Json::parse(scratch.read("copy/figure.json")) == changed);
    edits.regions["face"] = {static_cast<Index>(kit->mesh.positions.size())};
    CHECK(edited_kit(*kit, edits).error().code == ErrorCode::BadInput);
    edits.regions.clear(), edits.roles["jaw"] = "x";
    CHECK(edited_kit(*kit, edits).error().code == ErrorCode::BadInput);
}
