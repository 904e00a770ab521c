// Things of a project kept in order: renamed, removed, moved, duplicated.
#include <catch2/catch.hpp>

#include "core/morph/morph.h"
#include "core/project/bank.h"
#include "core/project/records/photo_record.h"
#include "core/project/things.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

Source scan(const std::string& name) {
    Source out;
    out.name = name;
    out.mesh = std::make_shared<Mesh>();
    return out;
}

FitRecord fit_of(const std::string& name, SourceId source) {
    FitRecord out;
    out.name = name;
    out.source_id = source;
    return out;
}

// Two people; Ada has two scans, a set of photographs and two fits, of which the first is the current one.
ProjectState two_people() {
    ProjectState s = new_project(demo_kit());
    Subject ada{"Ada", {scan("first"), scan("second")}, {}};
    ada.photo_sets.push_back({"portraits", {}});
    ada.fits = {fit_of("head fit", ada.sources[0].id), fit_of("head fit 2", ada.sources[1].id)};
    ada.current_fit = 0;
    s.subjects = {ada, {"Bo", {scan("bo")}, {}}};
    s.subject = 1;
    return s;
}

std::vector<std::string> names(const std::vector<Source>& row) {
    std::vector<std::string> out;
    for (const Source& one : row) out.push_back(one.name);
    return out;
}

}  // namespace

TEST_CASE("Things: a name that is taken beside it gets a number; elsewhere it is free") {
    ProjectState s = two_people();
    const Subject& ada = s.subjects[0];
    CHECK(rename_thing(s, ada.sources[0].id, "second"));
    CHECK(ada.sources[0].name == "second 2");
    CHECK(rename_thing(s, s.subjects[1].sources[0].id, "second"));
    CHECK(s.subjects[1].sources[0].name == "second");
    CHECK(rename_thing(s, ada.id, "Bo"));
    CHECK(ada.name == "Bo 2");
    CHECK_FALSE(rename_thing(s, ada.id, ""));
    CHECK_FALSE(rename_thing(s, ada.id, "Bo 2"));  // it has it
    CHECK_FALSE(rename_thing(s, FitId{987654}, "gone"));
    CHECK(name_of(s, FitId{987654}).empty());
}

TEST_CASE("Things: what goes takes along only what it has, and the current ones stay current") {
    ProjectState s = two_people();
    const SubjectId bo = s.subjects[1].id;
    const FitId second = s.subjects[0].fits[1].id;
    CHECK(remove_thing(s, s.subjects[0].sources[0].id));
    CHECK(s.subjects[0].fits.size() == 2);  // what was made from it stays
    CHECK(remove_thing(s, s.subjects[0].fits[0].id));
    CHECK(s.subjects[0].fit()->id == second);
    CHECK(remove_thing(s, s.subjects[0].photo_sets[0].id));
    CHECK(s.subjects[0].photo_sets.empty());
    CHECK(remove_thing(s, s.subjects[0].id));
    REQUIRE(s.subjects.size() == 1);
    CHECK(s.current()->id == bo);
    CHECK(remove_thing(s, bo));
    CHECK(s.current() == nullptr);
    CHECK(s.subject == 0);
    CHECK_FALSE(remove_thing(s, bo));
}

TEST_CASE("Things: order changes within the row and no further") {
    ProjectState s = two_people();
    Subject& ada = s.subjects[0];
    const FitId current = ada.fit()->id;
    CHECK_FALSE(move_thing(s, ada.sources[0].id, -1));
    CHECK(move_thing(s, ada.sources[0].id, 1));
    CHECK(names(ada.sources) == std::vector<std::string>{"second", "first"});
    CHECK_FALSE(move_thing(s, ada.sources[1].id, 1));
    CHECK(move_thing(s, current, 1));
    CHECK(ada.fits[1].id == current);
    CHECK(ada.fit()->id == current);
    const SubjectId bo = s.subjects[1].id;
    CHECK(move_thing(s, bo, -1));
    CHECK(s.subjects[0].id == bo);
    CHECK(s.current()->id == bo);
}

TEST_CASE("Things: a copy has ids of its own, and its fits are of its own scans") {
    ProjectState s = two_people();
    const Subject original = s.subjects[0];
    const SubjectId bo = s.subjects[1].id;
    const auto made = duplicate_thing(s, original.id);
    REQUIRE(made);
    REQUIRE(s.subjects.size() == 3);
    const Subject& copy = s.subjects[1];
    CHECK(copy.id == std::get<SubjectId>(*made));
    CHECK(copy.name == "Ada 2");
    CHECK(s.current()->id == bo);
    for (std::size_t i = 0; i < 2; ++i) {
        CHECK_FALSE(copy.sources[i].id == original.sources[i].id);
        CHECK_FALSE(copy.fits[i].id == original.fits[i].id);
        CHECK(copy.fits[i].source_id == copy.sources[i].id);
        CHECK(copy.sources[i].mesh == original.sources[i].mesh);  // heavy things are shared
    }
    CHECK(find_fit(s, original.fits[0].id) == &s.subjects[0].fits[0]);

    REQUIRE(duplicate_thing(s, s.subjects[0].sources.back().id));
    CHECK(names(s.subjects[0].sources) == std::vector<std::string>{"first", "second 2", "second"});
    REQUIRE(duplicate_thing(s, s.subjects[0].fits[0].id));
    CHECK(s.subjects[0].fits[1].name == "head fit 3");
    CHECK(s.subjects[0].fit()->name == "head fit");
    CHECK_FALSE(duplicate_thing(s, SourceId{987654}));
}

TEST_CASE("Things: morphs of the bank as well") {
    ProjectState s = new_project(demo_kit());
    for (const char* name : {"Ada", "Bo"}) {
        Points shape = s.kit->mesh.positions;
        shape[0].x() += 1;
        add_morph(s, std::move(*make_morph(*s.kit, shape, name)), 0.5);
    }
    const MorphId ada = s.bank[0].id;
    CHECK(move_thing(s, ada, 1));
    CHECK(s.bank[1].id == ada);
    CHECK(rename_thing(s, ada, "Bo"));
    CHECK(name_of(s, ada) == "Bo 2");
    const auto made = duplicate_thing(s, ada);
    REQUIRE(made);
    CHECK(s.bank.size() == 3);
    CHECK(s.bank[2].amount == 0);
    CHECK(remove_thing(s, ada));
    CHECK(name_of(s, ada).empty());
    CHECK(s.bank.size() == 2);
}

TEST_CASE("Things: one photograph goes, and what the others are known by stays theirs") {
    ProjectState s = two_people();
    Subject& ada = s.subjects[0];
    const auto image = [](const char* name) { return Image{name, "image/png", {1}}; };
    PhotoSet& set = ada.photo_sets[0];
    set.photos = std::make_shared<std::vector<Image>>(std::vector<Image>{image("a"), image("b"), image("c")});
    set.marks.resize(3);
    set.marks[2].points["pronasale"] = Vec2(5, 6);
    PhotoHeadSettings settings;
    settings.lenses.resize(3);
    settings.lenses[2].focal_35mm = 85;
    settings.places = {{{}, 1, Vec2(1, 1)}, {{}, 2, Vec2(2, 2)}};
    set.settings = std::make_shared<const PhotoHeadSettings>(settings);
    PhotoRecord record;
    record.settings = settings;
    record.photos.resize(3);
    record.photos[2].name = "c";
    record.hand.keeps = {0, 1, 2};
    record.solved = std::make_shared<const Points>();
    ada.fits[0].photo_set_id = set.id;
    ada.fits[0].photo = std::make_shared<const PhotoRecord>(record);
    const ProjectState before = s;

    CHECK_FALSE(remove_photo(s, set.id, 3));
    CHECK_FALSE(remove_photo(s, PhotoSetId{99}, 0));
    REQUIRE(remove_photo(s, set.id, 1));
    REQUIRE(set.photos->size() == 2);
    CHECK((*set.photos)[1].name == "c");
    CHECK(set.marks[1].points.contains("pronasale"));
    for (const PhotoHeadSettings& now : {*set.settings, ada.fits[0].photo->settings}) {
        CHECK(now.lenses[1].focal_35mm == 85);
        REQUIRE(now.places.size() == 1);
        CHECK(now.places[0].photo == 1);
        CHECK(now.places[0].pixel == Vec2(2, 2));
    }
    CHECK(ada.fits[0].photo->photos[1].name == "c");
    CHECK(ada.fits[0].photo->hand.keeps == std::vector<int>{0, 1});
    // an earlier state is as it was: undo gives it back
    CHECK(before.subjects[0].photo_sets[0].photos->size() == 3);
    CHECK(before.subjects[0].fits[0].photo->hand.keeps.size() == 3);
    REQUIRE(remove_photo(s, set.id, 0));
    REQUIRE(remove_photo(s, set.id, 0));
    CHECK(ada.photo_sets.empty());
}
