// Documents and project files: undo, ids, autosave, damaged files.
#include <catch2/catch.hpp>

#include "tests/core/project_support.h"

TEST_CASE("Document: undo and redo bring back every state") {
    Document d(small_project());
    int told = 0;
    d.changed = [&] { ++told; };
    REQUIRE_FALSE(d.is_modified());
    for (int i = 0; i < 5; ++i) {
        ProjectState next = d.state();
        next.bank[0].amount = i;
        d.apply("step " + std::to_string(i), next);
    }
    REQUIRE(told == 5);
    REQUIRE(d.undo_label() == "step 4");
    for (int i = 3; i >= 0; --i) {
        d.undo();
        REQUIRE(d.state().bank[0].amount == i);
    }
    d.undo();
    REQUIRE(d.state().bank[0].amount == 0.25);
    REQUIRE_FALSE(d.is_modified());
    REQUIRE_FALSE(d.can_undo());
    d.undo();
    d.redo();
    REQUIRE(d.state().bank[0].amount == 0);
    SECTION("a new change cuts the redone future off") {
        d.apply("other", d.state());
        REQUIRE_FALSE(d.can_redo());
    }
    SECTION("a drag is one step, two drags are two") {
        const std::size_t before = d.labels().size();
        for (int drag = 0; drag < 2; ++drag) {
            d.seal();
            for (int i = 0; i < 10; ++i) {
                ProjectState next = d.state();
                next.bank[0].amount += 0.1;
                d.apply("slide", next, "slide 0");
            }
        }
        REQUIRE(d.position() == 3);
        REQUIRE(d.labels().size() <= before);
    }
    SECTION("go to any step") {
        d.go_to(5);
        REQUIRE(d.state().bank[0].amount == 4);
        d.go_to(99);
        REQUIRE(d.position() == 5);
    }
}

TEST_CASE("Project file: everything comes back") {
    Scratch scratch;
    ProjectState s = small_project();
    REQUIRE_FALSE(s.base_curves.empty());
    s.base_curves.erase(s.base_curves.begin());  // the kit has it, this project does not want it
    RestWork work{rest_pose(s.kit->joints), true, 0x1234567890abcdef, {3, 1}, 2.5};
    work.pose.turns[3] = Eigen::AngleAxisd(0.5, Vec3::UnitX()).toRotationMatrix();
    s.rest_work = std::make_shared<const RestWork>(work);
    s.weights = {12, 8};
    s.kit_edits.ties["head"] = {{1591, 1404}, {0.25, 0.75}};
    const std::string path = scratch / "p.veldstone";
    REQUIRE(save_project(path, s));
    const auto back = load_project(path);
    REQUIRE(back);
    const ProjectState& t = back->state;
    REQUIRE(t.rest_work);
    REQUIRE(*t.rest_work == work);
    REQUIRE(t.weights == s.weights);
    REQUIRE(t.kit_edits == s.kit_edits);
    REQUIRE(t.kit->joint_ties.at("head") == s.kit_edits.ties["head"]);
    REQUIRE(t.base_curves == s.base_curves);
    REQUIRE(t.subjects.size() == 1);
    const Source& source = t.subjects[0].sources[0];
    REQUIRE(source.mesh->positions == s.source()->mesh->positions);
    REQUIRE(source.mesh->corner_uv == s.source()->mesh->corner_uv);
    REQUIRE(source.mesh->group_names == s.source()->mesh->group_names);
    REQUIRE(source.landmarks == s.source()->landmarks);
    REQUIRE(source.unit == Unit::Inch);
    REQUIRE(source.notes == s.source()->notes);
    REQUIRE(*t.fit()->positions == *s.fit()->positions);
    REQUIRE(t.fit()->figures.coverage == 0.5);
    REQUIRE(t.fit()->source_to_kit.scale == 25.4);
    REQUIRE(*t.bank[0].morph == *s.bank[0].morph);
    REQUIRE(t.bank[0].amount == 0.25);
    REQUIRE(t.settings == s.settings);
    REQUIRE(t.base_points == s.base_points);
    REQUIRE_FALSE(back->autosave_is_newer);
}

TEST_CASE("Project file: autosave is kept apart from what was saved") {
    Scratch scratch;
    const std::string path = scratch / "p.veldstone";
    ProjectState s = small_project();
    REQUIRE(save_project(path, s));
    s.bank[0].amount = 0.9;
    REQUIRE(save_project(path, s, SaveSlot::Autosave));
    const auto saved = load_project(path);
    REQUIRE(saved->autosave_is_newer);
    REQUIRE(saved->state.bank[0].amount == 0.25);
    REQUIRE(load_project(path, SaveSlot::Autosave)->state.bank[0].amount == 0.9);
    SECTION("dropped") {
        REQUIRE(drop_autosave(path));
        REQUIRE_FALSE(load_project(path)->autosave_is_newer);
    }
    SECTION("made obsolete by saving") {
        REQUIRE(save_project(path, s));
        REQUIRE_FALSE(load_project(path)->autosave_is_newer);
        REQUIRE(load_project(path)->state.bank[0].amount == 0.9);
    }
}

TEST_CASE("Project file: of one window's requests the last one counts, in whatever order they arrive") {
    Scratch scratch;
    const std::string path = scratch / "p.veldstone";
    ProjectState s = small_project();
    const ProjectId window = ProjectId::make();
    const auto named = [&](const char* name) {
        s.subjects[0].name = name;
        return s;
    };
    SECTION("an autosave that was asked for before the save comes after it") {
        REQUIRE(save_project(path, named("saved"), SaveSlot::Saved, {window, 2}));
        REQUIRE(save_project(path, named("older"), SaveSlot::Autosave, {window, 1}));
        const auto back = load_project(path);
        CHECK_FALSE(back->autosave_is_newer);
        CHECK(back->state.subjects[0].name == "saved");
    }
    SECTION("one that was asked for after it is newer, even when it arrives first") {
        REQUIRE(save_project(path, named("newer"), SaveSlot::Autosave, {window, 2}));
        REQUIRE(save_project(path, named("saved"), SaveSlot::Saved, {window, 1}));
        CHECK(load_project(path)->autosave_is_newer);
        CHECK(load_project(path, SaveSlot::Autosave)->state.subjects[0].name == "newer");
    }
    SECTION("another window's autosave is newer when it was written later") {
        REQUIRE(save_project(path, named("saved"), SaveSlot::Saved, {window, 8}));
        REQUIRE(save_project(path, named("newer"), SaveSlot::Autosave, {ProjectId::make(), 1}));
        CHECK(load_project(path)->autosave_is_newer);
    }
}

TEST_CASE("Project file: ids stay, and no two objects share one") {
    Scratch scratch;
    ProjectState s = small_project();
    s.subjects.push_back({"Second", {}, {}});
    REQUIRE(save_project(scratch / "p.veldstone", s));
    const auto back = load_project(scratch / "p.veldstone");
    REQUIRE(back);
    const ProjectState& t = back->state;
    CHECK(t.subjects[0].id == s.subjects[0].id);
    CHECK(t.subjects[1].id == s.subjects[1].id);
    CHECK(t.source()->id == s.source()->id);
    CHECK(t.fit()->id == s.fit()->id);
    CHECK(t.fit()->source_id == s.fit()->source_id);
    CHECK(t.bank[0].id == s.bank[0].id);
    CHECK(find_source(t, s.source()->id) == t.source());
    CHECK(subject_of(t, s.fit()->id) == t.current());
    CHECK(find_source(t, SourceId{}) == nullptr);
    CHECK(find_fit(t, FitId::make()) == nullptr);
    CHECK(id_value(id_text(s.subjects[0].id.value)) == s.subjects[0].id.value);
    CHECK(id_value("no id") == 0);
    s.subjects[1].id = s.subjects[0].id;
    REQUIRE(save_project(scratch / "twice.veldstone", s));
    const auto refused = load_project(scratch / "twice.veldstone");
    REQUIRE_FALSE(refused);
    CHECK(refused.error().message.find("one id") != std::string::npos);
}

TEST_CASE("Project file: one from before there were ids opens, and its fits know their sources") {
    Scratch scratch;
    const std::string path = scratch / "old.veldstone";
    std::filesystem::copy_file(std::string(VELDSTONE_SOURCE) + "/tests/data/before_ids.veldstone", path);
    const auto old = load_project(path, SaveSlot::Saved, demo("kit"));
    REQUIRE(old);
    const ProjectState& s = old->state;
    REQUIRE(s.subjects.size() == 2);
    REQUIRE(s.subjects[0].fits.size() == 1);
    CHECK(s.subjects[0].fits[0].source_id == s.subjects[0].sources[0].id);
    CHECK(s.subjects[0].id != s.subjects[1].id);
    REQUIRE(s.subjects[1].photo_sets.size() == 1);
    CHECK(s.bank.size() == 1);
    CHECK(s.base_curves.contains(kInnerLips[0]));  // curves that kits did not have then are no change of the kit
    CHECK_FALSE(kit_is_changed(s));
    REQUIRE(save_project(path, s));
    const auto again = load_project(path, SaveSlot::Saved, demo("kit"));
    REQUIRE(again);
    CHECK(again->state.subjects[0].fits[0].id == s.subjects[0].fits[0].id);
    CHECK(again->state.subjects[0].fits[0].source_id == s.subjects[0].fits[0].source_id);
    CHECK(again->state.subjects[1].photo_sets[0].id == s.subjects[1].photo_sets[0].id);
}

TEST_CASE("Project: an own landmark's new name is known to the fits that were made with it") {
    ProjectState s = small_project();
    s.base_points["scar"] = s.base_points.begin()->second;
    Source& source = s.current()->sources.back();
    source.landmarks.points["scar"] = Vec3(1, 2, 3);
    source.landmarks.trust["scar"].accepted = true;
    FitRecord& fit = *s.current()->fit();
    fit.source_id = source.id, fit.landmarks = source.landmarks, fit.ignored = source.ignored,
    fit.settings = s.settings;
    fit.figures.landmark_mm["scar"] = 0.4;
    REQUIRE_FALSE(outdated(s));
    REQUIRE(rename_landmark(s, "scar", "old scar"));
    CHECK_FALSE(outdated(s));
    CHECK(s.base_points.contains("old scar"));
    CHECK(s.source()->landmarks.points.at("old scar") == Vec3(1, 2, 3));
    CHECK(s.source()->landmarks.trust.at("old scar").accepted);
    CHECK(s.fit()->figures.landmark_mm.at("old scar") == 0.4);
    for (const char* wrong : {"", "pronasale", "a#b"}) CHECK_FALSE(rename_landmark(s, "old scar", wrong));
    CHECK_FALSE(rename_landmark(s, "pronasale", "tip"));
}

TEST_CASE("Project file: killed in the middle of a save it opens with the last complete state") {
    Scratch scratch;
    const std::string path = scratch / "p.veldstone";
    ProjectState s = small_project();
    s.bank[0].amount = 1;
    REQUIRE(save_project(path, s));
    for (int round = 0; round < 12; ++round) {
        const pid_t child = ::fork();
        if (child == 0) {
            for (int i = 2;; ++i) {
                // another heavy array each time, so that there is always much to write
                ProjectState next = s;
                auto moved = std::make_shared<Points>(*s.fit()->positions);
                for (Vec3& p : *moved) p.x() += i;
                next.current()->fits.back().positions = moved;
                next.bank[0].amount = i;
                if (!save_project(path, next)) ::_exit(1);
            }
        }
        ::usleep(static_cast<useconds_t>(20000 + 7919 * round));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        const auto back = load_project(path);
        INFO("round " << round);
        REQUIRE(back);
        const double amount = back->state.bank[0].amount;
        const double shift = (*back->state.fit()->positions)[0].x() - (*s.fit()->positions)[0].x();
        REQUIRE(shift == Approx(amount == 1 ? 0 : amount));  // the pieces belong to one state
    }
}

TEST_CASE("Project file: bad files and places are refused with the reason") {
    Scratch scratch;
    REQUIRE(load_project(scratch / "none.veldstone").error().message.find("no project file") != std::string::npos);
    REQUIRE(load_project(scratch.write("text.veldstone", std::string(5000, 'x'))).error().code == ErrorCode::BadFile);
    REQUIRE_FALSE(load_project(scratch.write("empty.veldstone", "")));
    const std::string path = scratch / "p.veldstone";
    REQUIRE(save_project(path, small_project()));
    SECTION("cut short or garbled") {
        const std::string good = scratch.read("p.veldstone");
        for (std::size_t keep : {std::size_t{90}, good.size() / 3, good.size() / 2, good.size() - 5000}) {
            const auto f = load_project(scratch.write("cut.veldstone", good.substr(0, keep)));
            if (!f) REQUIRE_FALSE(f.error().message.empty());
        }
        for (std::size_t at = 100; at < good.size(); at += good.size() / 40) {
            std::string bad = good;
            for (std::size_t i = at; i < std::min(at + 64, bad.size()); ++i) bad[i] = static_cast<char>(0xA5 ^ i);
            const auto f = load_project(scratch.write("bad.veldstone", bad));
            if (!f) REQUIRE_FALSE(f.error().message.empty());
        }
    }
    SECTION("the kit has moved") {
        ProjectState s = small_project();
        auto moved = std::make_shared<BaseKit>(*s.kit);
        moved->folder = scratch / "gone";
        s.kit = moved;
        REQUIRE(save_project(path, s));
        REQUIRE(load_project(path).error().message.find("select the kit") != std::string::npos);
        REQUIRE(load_project(path, SaveSlot::Saved, demo("kit")));
    }
    SECTION("a full disk: the last saved state is still there") {
        ProjectState bigger = small_project();
        bigger.bank[0].amount = 0.75;
        for (int i = 0; i < 6; ++i) {
            auto moved = std::make_shared<Points>(*bigger.fit()->positions);
            (*moved)[0].x() += i;
            bigger.current()->fits.push_back(bigger.current()->fits.back());
            bigger.current()->fits.back().positions = moved;
        }
        const int code = with_file_limit(std::filesystem::file_size(path) + 100000, [&] {
            const auto ok = save_project(path, bigger);
            return !ok && ok.error().message.find("last complete state") != std::string::npos ? 0 : 1;
        });
        REQUIRE(code == 0);
        REQUIRE(load_project(path)->state.bank[0].amount == 0.25);
    }
    SECTION("a folder that is not there") {
        REQUIRE(save_project(scratch / "no/p.veldstone", small_project()).error().code == ErrorCode::Io);
    }
}

TEST_CASE("Document: heavy meshes of the past wait on the disk and come back whole") {
    ProjectState state = new_project(demo_kit());
    Source source;
    source.name = "ball";
    source.mesh = std::make_shared<Mesh>(sphere(20, 100));
    state.subjects.push_back({"S", {source}, {}});
    const std::size_t one = bytes_of(*source.mesh);
    Document d(state, std::make_unique<Pager>(2 * one + one / 2));
    for (int i = 1; i <= 6; ++i) {
        ProjectState next = d.state();
        Mesh mesh = *next.source()->mesh;
        for (Vec3& p : mesh.positions) p *= 1.1;
        next.current()->sources.back().mesh = std::make_shared<Mesh>(std::move(mesh));
        d.apply("grow", std::move(next));
        ProjectState same = d.state();  // shares the mesh
        same.settings.levels = i;
        d.apply("settings", std::move(same));
    }
    const auto radius = [&] { return d.state().source()->mesh->positions.back().norm(); };
    REQUIRE(radius() == Approx(100 * std::pow(1.1, 6)));
    for (int i = 5; i >= 0; --i) {
        d.undo(), d.undo();
        REQUIRE(d.state().source()->mesh);
        REQUIRE(radius() == Approx(100 * std::pow(1.1, i)));
    }
    REQUIRE_FALSE(d.can_undo());
    REQUIRE(d.state().source()->mesh->face_start == source.mesh->face_start);
    d.go_to(12);
    REQUIRE(radius() == Approx(100 * std::pow(1.1, 6)));
    d.go_to(3);
    REQUIRE(radius() == Approx(121));
    d.apply("other", ProjectState(d.state()));
    REQUIRE_FALSE(d.can_redo());
    const auto left = [] {
        int n = 0;
        for (const auto& e : std::filesystem::directory_iterator(std::filesystem::temp_directory_path()))
            n += e.path().filename().string().starts_with("veldstone-undo-");
        return n;
    };
    REQUIRE(left() > 0);
    d.reset(new_project(demo_kit()));
    d.apply("again", ProjectState(d.state()));
    d = Document();
    REQUIRE(left() == 0);
}
