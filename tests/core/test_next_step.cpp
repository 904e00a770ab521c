// What comes next, from a new subject to morphs that go out.
#include <catch2/catch.hpp>

#include "core/morph/morph.h"
#include "core/project/bank.h"
#include "core/project/next_step.h"
#include "tests/support/demo_kit.h"

using namespace veld;

TEST_CASE("Next step: from nothing to delivery, one after the other") {
    CHECK(next_step({}) == NextStep::None);
    ProjectState s = new_project(demo_kit());
    CHECK(next_step(s) == NextStep::None);
    s.subjects.push_back({"Ada", {}, {}});
    CHECK(next_step(s) == NextStep::AddSource);

    Source scan;
    scan.name = "scan";
    scan.mesh = std::make_shared<Mesh>();
    s.subjects[0].sources.push_back(scan);
    CHECK(next_step(s) == NextStep::Repair);
    Source& source = s.subjects[0].sources[0];
    source.recipe.push_back({});
    CHECK(next_step(s) == NextStep::FindLandmarks);
    for (const char* name : {"pronasale", "cheilion_l"}) source.landmarks.points[name] = Vec3::Zero();
    CHECK(next_step(s) == NextStep::FindLandmarks);
    source.landmarks.points["cheilion_r"] = Vec3::Zero();
    CHECK(next_step(s) == NextStep::Fit);

    FitRecord fit;
    fit.source_id = source.id;
    fit.figures.landmark_rms = 0.5;
    s.subjects[0].fits.push_back(fit);
    CHECK(next_step(s) == NextStep::KeepMorph);
    s.subjects[0].fits[0].figures_old = true;
    CHECK(next_step(s) == NextStep::None);
    s.subjects[0].fits[0].figures_old = false;
    Points shape = s.kit->mesh.positions;
    shape[0].x() += 1;
    Morph morph = *make_morph(*s.kit, shape, "Ada");
    morph.figures = figures_text(fit.figures);
    add_morph(s, morph, 0);
    CHECK(next_step(s) == NextStep::Deliver);
    s.subjects[0].fits[0].figures.landmark_rms = 0.6;  // another shape by now
    CHECK(next_step(s) == NextStep::KeepMorph);
    // another scan begins anew
    s.subjects[0].sources.push_back(scan);
    s.subjects[0].sources.back().id = SourceId::make();
    CHECK(next_step(s) == NextStep::Repair);
}

TEST_CASE("Next step: photographs without a scan are made into a head") {
    ProjectState s = new_project(demo_kit());
    Subject juniper{"Juniper", {}, {}};
    juniper.photo_sets.push_back({"portraits", {}});
    s.subjects.push_back(juniper);
    CHECK(next_step(s) == NextStep::MakeHead);
    FitRecord fit;
    fit.photo_set_id = juniper.photo_sets[0].id;
    s.subjects[0].fits.push_back(fit);
    CHECK(next_step(s) == NextStep::KeepMorph);
}
