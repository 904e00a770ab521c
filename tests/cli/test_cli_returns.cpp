// The command line: what comes back, morphs in and out.
#include <catch2/catch.hpp>

#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/io/mesh_write.h"
#include "core/morph/morph_file.h"
#include "core/proof/proof_file.h"
#include "core/rig/bvh.h"
#include "tests/cli/run_cli.h"

TEST_CASE("CLI: what comes back is checked, repaired and kept as a morph") {
    Scratch scratch;
    const std::string common = "return-check --kit " + kKit + " ";
    const Run repaired = cli(common + demo("returns/warden_reordered.obj") + " --name Warden --out " +
                             (scratch / "w.json") + " --obj " + (scratch / "w.obj") + " --json");
    REQUIRE(repaired.code == 0);
    CHECK(repaired.json()["relative"] == true);
    CHECK(repaired.json()["steps"].size() == 1);
    const auto back = read_mesh(scratch / "w.obj"), clean = read_mesh(demo("returns/warden_clean.obj"));
    REQUIRE(back);
    for (std::size_t v = 0; v < clean->mesh.positions.size(); ++v)
        REQUIRE((back->mesh.positions[v] - clean->mesh.positions[v]).norm() < 2e-4);
    const Run leftover = cli(common + demo("returns/warden_leftover.obj") + " --subtract --json");
    REQUIRE(leftover.json()["leftovers"].size() == 1);
    CHECK(leftover.json()["leftovers"][0]["amount"].get<double>() == Approx(0.6).margin(0.01));
    CHECK(cli(common + demo("returns/unrelated.obj")).code == 0);  // an answer
    CHECK(cli(common + demo("returns/unrelated.obj") + " --out " + (scratch / "u.json")).code == 1);
    CHECK_FALSE(std::filesystem::exists(scratch / "u.json"));
}

TEST_CASE("CLI: sent out, sculpted by the stand-in, damaged, and back as a morph") {
    Scratch scratch;
    const std::string standin = std::string(VELDSTONE_BUILD) + "/bin/sculpt-standin ";
    REQUIRE(cli("morph make --kit " + kKit + " --shape " + demo("kit/expressions/smile.obj") +
                " --name smile --kind expression --group expressions --out " + (scratch / "smile.json"))
                .code == 0);
    const Run sent = cli("send --kit " + kKit + " --out " + (scratch / "base.obj") + " --unit cm --up +Z --morph " +
                         (scratch / "smile.json") + "=0.5 --for nose --json");
    REQUIRE(sent.code == 0);
    CHECK(sent.json()["sent"]["morphs"][0]["amount"] == 0.5);
    REQUIRE(std::system((standin + (scratch / "base.obj") + " " + (scratch / "base.obj") +
                         " --sculpt nose --damage reorder --damage metres >/dev/null")
                            .c_str()) == 0);
    const Run back = cli("return-check --kit " + kKit + " " + (scratch / "base.obj") + " --morph " +
                         (scratch / "smile.json") + " --out " + (scratch / "nose.json") + " --json");
    REQUIRE(back.code == 0);
    CHECK(back.json()["remembered"] == true);
    CHECK(back.json()["for"] == "nose");
    CHECK(back.json()["leftovers"].empty());
    CHECK(back.json()["vertices"].get<int>() < 5000);  // the smile is out again
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.fbx")).code == 1);
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.obj") + " --scope region --of elbow").code == 1);
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.obj") + " --level 5").code == 2);
    CHECK(std::system((standin + "/none.obj " + (scratch / "y.obj") + " 2>/dev/null >/dev/null").c_str()) != 0);
}

TEST_CASE(
    "CLI: a return that was turned, enlarged and moved is a question, and nothing is kept before it is answered") {
    Scratch scratch;
    const std::string standin = std::string(VELDSTONE_BUILD) + "/bin/sculpt-standin ", sculpt = scratch / "sculpt.obj",
                      back = scratch / "back.obj";
    REQUIRE(std::system((standin + demo("kit/figure.obj") + " " + sculpt + " --sculpt nose >/dev/null").c_str()) == 0);
    REQUIRE(std::system((standin + sculpt + " " + back + " --sculpt none --damage rescale >/dev/null").c_str()) == 0);
    const std::string check = "return-check --kit " + kKit + " " + back + " --name Nose --json --out ";
    const Run asked = cli(check + (scratch / "asked.json"));
    CHECK(asked.code == 1);
    CHECK_FALSE(std::filesystem::exists(scratch / "asked.json"));
    CHECK(asked.out.find("--answer") != std::string::npos);
    REQUIRE(cli(check + (scratch / "taken.json") + " --answer take-out --obj " + (scratch / "taken.obj")).code == 0);
    const auto taken = read_mesh(scratch / "taken.obj"), clean = read_mesh(sculpt);
    REQUIRE(taken);
    for (std::size_t v = 0; v < clean->mesh.positions.size(); ++v)
        REQUIRE((taken->mesh.positions[v] - clean->mesh.positions[v]).norm() < 0.01);
    REQUIRE(cli(check + (scratch / "meant.json") + " --answer leave --obj " + (scratch / "meant.obj")).code == 0);
    CHECK(bounding_box(read_mesh(scratch / "meant.obj")->mesh.positions).size().y() ==
          Approx(1.7 * bounding_box(clean->mesh.positions).size().y()).epsilon(0.001));
    CHECK(cli(check + (scratch / "x.json") + " --answer perhaps").code == 2);
}

TEST_CASE("CLI: morphs are split, mixed, mirrored, halved, exported each and taken into a project") {
    Scratch scratch;
    const Run split = cli("morph split --kit " + kKit + " --shape " + demo("returns/tall_carrier.obj") +
                          " --name tall --out " + (scratch / "shares") + " --json");
    REQUIRE(split.code == 0);
    CHECK(split.json()["neck_move_mm"][1].get<double>() < -150);
    CHECK(split.json()["shares"][1]["root_mm"][1].get<double>() > 150);
    const std::string head = scratch / "shares/tall head.json", body = scratch / "shares/tall body.json";
    REQUIRE(cli("morph mix --kit " + kKit + " --morph '" + head + "' --morph '" + body + "' --out " +
                (scratch / "both.obj"))
                .code == 0);
    const auto both = read_mesh(scratch / "both.obj"), tall = read_mesh(demo("returns/tall_carrier.obj"));
    const double lifted = split.json()["lifted_mm"];
    for (std::size_t v = 0; v < tall->mesh.positions.size(); v += 13)
        REQUIRE((both->mesh.positions[v] - tall->mesh.positions[v] - Vec3(0, lifted, 0)).norm() < 1e-6);
    REQUIRE(
        cli("morph mirror --kit " + kKit + " --morph '" + head + "' --name m --out " + (scratch / "m.json")).code ==
        0);
    REQUIRE(cli("morph mirror --symmetric --from right --kit " + kKit + " --morph '" + head + "' --name m --out " +
                (scratch / "sym.json"))
                .code == 0);
    REQUIRE(
        cli("morph half --side left --kit " + kKit + " --morph '" + head + "' --name l --out " + (scratch / "l.json"))
            .code == 0);
    REQUIRE(cli("morph export --each --format csv --pattern {kind}/{name} --kit " + kKit + " --morph '" + head +
                "' --morph '" + body + "' --out " + (scratch / "lists"))
                .code == 0);
    CHECK(std::filesystem::exists(scratch / "lists/body/tall body.csv"));
    REQUIRE(cli("project make --kit " + kKit + " --out " + (scratch / "p.veldstone")).code == 0);
    const Run in = cli("morph import " + (scratch / "lists") + " --project " + (scratch / "p.veldstone") + " --json");
    REQUIRE(in.code == 0);
    CHECK(in.json().size() == 2);
    const auto project = load_project(scratch / "p.veldstone");
    REQUIRE(project);
    REQUIRE(project->state.bank.size() == 2);
    CHECK(cli("morph split --kit " + kKit + " --out " + (scratch / "none")).code == 1);
    CHECK(cli("morph mix --kit " + kKit + " --morph '" + head + "=0' --out " + (scratch / "zero.json")).code == 1);
    CHECK(cli("morph export --each --format fbx --kit " + kKit + " --morph '" + head + "' --out " + (scratch / "f"))
              .code == 1);
}

TEST_CASE("CLI: a pose is taken out of a shape, and a shape stands in the stock poses") {
    Scratch scratch;
    const auto kit = read_base_kit(demo("kit"));
    REQUIRE(kit);
    Pose lower = rest_pose(kit->joints);
    for (std::size_t j = 0; j < kit->joints.size(); ++j)
        if (kit->joints[j].name == "upper_arm_l")
            lower.turns[j] = Eigen::AngleAxisd(-0.4, Vec3::UnitZ()).toRotationMatrix();
    Mesh posed = kit->mesh;
    posed.positions = skin(kit->mesh.positions, kit->joints, kit->weights, lower);
    REQUIRE(write_mesh(scratch / "posed.obj", posed, 0.001));
    const std::string common = "pose take-out --kit " + kKit + " --out " + (scratch / "rest.json");
    const Run out = cli(common + " --shape " + (scratch / "posed.obj") + " --json");
    REQUIRE(out.code == 0);
    REQUIRE(out.json()["turned"].size() == 1);
    CHECK(out.json()["turned"]["upper_arm_l"].get<double>() == Approx(0.4 * 180 / M_PI).margin(0.5));
    const auto rest = read_morph(scratch / "rest.json", *kit);
    REQUIRE(rest);
    double most = 0;
    for (const Vec3& d : rest->delta) most = std::max(most, d.norm());
    CHECK(most < 1);
    CHECK(cli(common + " --json").code == 1);  // of what?
    CHECK(cli(common + " --shape " + demo("returns/unrelated.obj")).code == 1);
    const Run stands = cli("pose stand --kit " + kKit + " --morph " + (scratch / "rest.json") + " --out " +
                           scratch.folder() + " --json");
    REQUIRE(stands.code == 0);
    CHECK(stands.json()["written"].size() == 13);
    const auto sits = read_mesh(scratch / "sit.obj");
    REQUIRE(sits);
    const auto height = [](const Points& p) { return bounding_box(p).size().y(); };
    CHECK(height(sits->mesh.positions) < 0.85 * height(kit->mesh.positions));
}

TEST_CASE("CLI: skin weights of a shape are smoothed and checked; a kit's joint is tied to a region and back") {
    Scratch scratch;
    const std::string fit = "rig fit --kit " + kKit + " --shape " + kKit + "/figure.obj --out ";
    const Run plain = cli(fit + (scratch / "plain.glb") + " --json");
    REQUIRE(plain.code == 0);
    CHECK(plain.json()["weights"]["most_joints"].get<int>() <= 4);
    const Run smooth = cli(fit + (scratch / "smooth.glb") + " --smooth-weights 20 --joints-per-vertex 8 --json");
    REQUIRE(smooth.code == 0);
    CHECK(smooth.json()["weights"]["most_joints"] == 8);
    CHECK(smooth.json()["weights"]["worst_sum_error"].get<double>() < 1e-6);
    CHECK(cli(fit + (scratch / "a.glb") + " --joints-per-vertex 5").code != 0);
    CHECK(cli(fit + (scratch / "a.json") + " --smooth-weights 5").code == 1);  // a list of moves has no weights
    const std::string edit = "kit edit " + kKit + " --out " + (scratch / "kit");
    REQUIRE(cli(edit + " --tie shin_l=shin_l").code == 0);
    const auto tied = read_base_kit(scratch / "kit");
    REQUIRE(tied);
    CHECK(tied->joint_ties.contains("shin_l"));
    CHECK(tied->joint_ties.contains("shin_r"));
    REQUIRE(cli("kit edit " + (scratch / "kit") + " --tie shin_l=").code == 0);
    CHECK(read_base_kit(scratch / "kit")->joint_ties.empty());
    CHECK(cli(edit + "2 --tie shin_l=tail").code == 1);
    CHECK(cli(edit + "2 --tie tail=shin_l").code == 1);
    CHECK(cli(edit + "2 --tie shin_l").code == 1);
}

TEST_CASE("CLI: the kit's expressions as another head makes them, and what each lacks on it") {
    Scratch scratch;
    const auto kit = read_base_kit(kKit);
    REQUIRE(kit);
    const std::string carry = "expressions carry --kit " + kKit + " --out " + scratch.folder() + " ";
    const Run all = cli(carry + "--shape " + demo("returns/warden_clean.obj") + " --json");
    REQUIRE(all.code == 0);
    CHECK(all.json()["expressions"].size() == kit->expressions.size());
    const Json blink = all.json()["expressions"]["blink"];
    CHECK(blink["gap_mm"].get<double>() < 0.1);
    CHECK(blink["plain"]["gap_mm"].get<double>() > 0.3);
    const auto whole = read_morph(scratch / "blink.json", *kit);
    REQUIRE(whole);
    CHECK(whole->kind == MorphKind::Expression);
    REQUIRE(cli(carry + "--shape " + demo("returns/warden_clean.obj") + " --expression blink --corrections").code ==
            0);
    const auto lacks = read_morph(scratch / "blink.json", *kit);
    REQUIRE(lacks);
    REQUIRE(lacks->drivers.size() == 2);
    CHECK(lacks->drivers[0].morph == "warden_clean");
    CHECK(lacks->drivers[1].morph == "blink");
    const auto most = [](const Morph& m) {
        double out = 0;
        for (const Vec3& d : m.delta) out = std::max(out, d.norm());
        return out;
    };
    CHECK(most(*lacks) < 0.5 * most(*whole));
    CHECK(cli(carry + "--shape " + demo("returns/warden_clean.obj") + " --expression wink").code == 1);
    CHECK(cli(carry).code == 1);
}

TEST_CASE("CLI: a shape is proven, with proofs of one's own and a motion; what is unknown is told") {
    Scratch scratch;
    const auto kit = read_base_kit(kKit);
    REQUIRE(kit);
    Proof own{"hers", ProofKind::Face, {{rest_pose(kit->joints), {{"blink", 1}, {"cheek_raise", 1}}}}};
    REQUIRE(write_file(scratch / "own.json", proofs_text({own}, kit->joints)));
    const Motion motion{kit->joints, {rest_pose(kit->joints).turns, rest_pose(kit->joints).turns}, 0.04};
    REQUIRE(write_file(scratch / "still.bvh", bvh_text(motion)));
    const std::string prove = "prove --kit " + kKit + " --shape " + demo("returns/warden_clean.obj") + " ";
    const Run ran = cli(prove + "--proof blink --proof T --own " + (scratch / "own.json") + " --proof hers --motion " +
                        (scratch / "still.bvh") + " --report " + (scratch / "proofs.json") + " --json");
    REQUIRE(ran.code == 0);
    CHECK(ran.json()["stops"] == 4 + 1 + 1 + 2);
    const Json proofs = ran.json()["proofs"];
    for (const char* name : {"blink", "T", "hers", "still"}) CHECK(proofs.contains(name));
    CHECK(proofs["blink"]["lid_gap"]["value"].get<double>() < 0.1);
    CHECK(proofs["blink"]["lid_cuts"]["value"] == 0);
    CHECK(proofs["hers"]["lid_cuts"]["value"] == 0);
    CHECK(Json::parse(read_file(scratch / "proofs.json")->view()) == ran.json());
    const Run none = cli(prove + "--proof dance --json");
    CHECK(none.code == 1);
    CHECK(none.out.find("squat") != std::string::npos);
    CHECK(cli(prove + "--motion " + (scratch / "own.json")).code == 1);
    CHECK(cli(prove + "--own " + (scratch / "still.bvh")).code == 1);
    CHECK(cli(prove + "--skinning none").code != 0);
    // two motions of one name are two proofs
    const std::string still = " --motion " + (scratch / "still.bvh");
    CHECK(cli(prove + "--proof T" + still + still + " --json").json()["stops"] == 1 + 2 + 2);
}

TEST_CASE("CLI: a proof is mended as a correction that its pose brings in; a sheet as PNG and PDF") {
    Scratch scratch;
    const auto kit = read_base_kit(kKit);
    REQUIRE(kit);
    Points shape = kit->mesh.positions;  // with thicker legs, which cut in a squat
    const Points normals = vertex_normals(shape, kit->triangulation.triangles);
    for (const Index v : kit->part("skin")->vertices) {
        const double y = shape[v].y(), share = std::clamp(std::min((y - 250) / 150, (850 - y) / 150), 0.0, 1.0);
        if (std::abs(shape[v].x()) < 250) shape[v] += 12 * share * normals[v];
    }
    REQUIRE(export_shape_obj(*kit, shape, "thick legs", scratch / "thick.obj"));
    const std::string prove = "prove --kit " + kKit + " --shape " + (scratch / "thick.obj") + " ";
    REQUIRE(cli(prove + "--proof blink --proof squat --sheet " + (scratch / "sheet.png")).code == 0);
    CHECK(scratch.read("sheet.png").starts_with("\x89PNG"));
    CHECK(scratch.read("sheet.pdf").starts_with("%PDF"));
    const std::string fix = scratch.folder();
    const Run mended = cli(prove + "--mend push_apart --proof squat --out " + fix + " --json");
    REQUIRE(mended.code == 0);
    const int before = mended.json()["cuts_before"], after = mended.json()["cuts_after"];
    CHECK(after < before);
    std::string corrections;
    const Json made = mended.json()["corrections"];
    REQUIRE(made.size() >= 2);  // at least one for each leg
    for (const Json& c : made) {
        CHECK(c["brought_in_by"].get<std::string>().starts_with("thick, "));
        corrections += " --correction '" + c["out"].get<std::string>() + "'";
    }
    const auto cuts = [&](const std::string& more) {
        return cli(prove + "--proof squat --json" + more).json()["proofs"]["squat"]["cuts"]["value"].get<int>();
    };
    CHECK(cuts("") == before);
    CHECK(cuts(corrections) == after);
    CHECK(cuts(" --head thin" + corrections) == before);              // it belongs to another shape
    CHECK(cli(prove + "--mend push_apart --proof squat").code == 1);  // where to write it is not said
    CHECK(cli(prove + "--mend push_apart --out " + fix).code == 1);   // in which proof
    CHECK(cli(prove + "--mend push_apart --proof rest --out " + fix).code == 1);
    CHECK(cli(prove + "--mend shut_lids --proof squat --out " + fix).code == 1);
    CHECK(cli(prove + "--proof blink --correction " + (scratch / "sheet.png")).code == 1);
}
