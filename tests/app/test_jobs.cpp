// The runner of background work, and the one writer of project files, without a window.
#include <catch2/catch.hpp>

#include <QTest>
#include <atomic>
#include <new>
#include <thread>

#include "app/prepared_source.h"
#include "app/session.h"
#include "app/work/jobs.h"
#include "app/work/jobs_bar.h"
#include "app/work/mailbox.h"
#include "app/work/saver.h"
#include "core/project/pager.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

namespace veld {
namespace {

bool wait_for(const std::function<bool()>& done, int most_ms = 20000) { return QTest::qWaitFor(done, most_ms); }

JobInfo heavy(SubjectId subject, std::size_t memory = 0) {
    JobInfo info;
    info.kind = JobKind::Fit, info.title = "work", info.subject = subject, info.memory_bytes = memory;
    return info;
}

// Work that ends when it is told to, and says whether it is running.
struct Gate {
    std::atomic<bool> running{false}, open{false};
    std::function<Result<int>(const Progress&)> work(int gives) {
        return [this, gives](const Progress& progress) -> Result<int> {
            running = true;
            while (!open && !progress.is_cancelled()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
            running = false;
            if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "stopped"};
            return gives;
        };
    }
};

}  // namespace

TEST_CASE("Jobs: two of one subject run one after the other, those of two subjects side by side") {
    Jobs jobs;
    jobs.set_memory_budget(1000);
    const SubjectId a = SubjectId::make(), b = SubjectId::make();
    Gate first, second, other;
    std::vector<int> arrived;
    const auto take = [&](Result<int>&& r) { arrived.push_back(*r); };
    jobs.start<int>(heavy(a), first.work(1), take);
    jobs.start<int>(heavy(a), second.work(2), take);
    jobs.start<int>(heavy(b), other.work(3), take);
    REQUIRE(wait_for([&] { return first.running && other.running; }));
    CHECK_FALSE(second.running);
    CHECK(jobs.busy(a));
    REQUIRE(jobs.rows().size() == 3);
    CHECK_FALSE(jobs.rows()[1].running);
    first.open = other.open = true;
    REQUIRE(wait_for([&] { return second.running.load(); }));
    second.open = true;
    REQUIRE(wait_for([&] { return arrived.size() == 3; }));
    CHECK(arrived.back() == 2);
    CHECK_FALSE(jobs.any());
}

TEST_CASE("Jobs: what memory has no room for waits, and runs alone when it never has") {
    Jobs jobs;
    jobs.set_memory_budget(100);
    Gate large, small;
    int arrived = 0;
    const auto take = [&](Result<int>&&) { ++arrived; };
    jobs.start<int>(heavy(SubjectId::make(), 500), large.work(1), take);
    jobs.start<int>(heavy(SubjectId::make(), 10), small.work(2), take);
    REQUIRE(wait_for([&] { return large.running.load(); }));
    QTest::qWait(30);
    CHECK_FALSE(small.running);
    large.open = true;
    REQUIRE(wait_for([&] { return small.running.load(); }));
    small.open = true;
    REQUIRE(wait_for([&] { return arrived == 2; }));
}

TEST_CASE("Jobs: cancelled ones say so, also while they wait") {
    Jobs jobs;
    const SubjectId a = SubjectId::make();
    Gate first, second;
    std::vector<ErrorCode> codes;
    const auto take = [&](Result<int>&& r) {
        REQUIRE_FALSE(r);
        codes.push_back(r.error().code);
    };
    const JobId one = jobs.start<int>(heavy(a), first.work(1), take);
    const JobId two = jobs.start<int>(heavy(a), second.work(2), take);
    REQUIRE(wait_for([&] { return first.running.load(); }));
    jobs.cancel(two);
    CHECK(codes.size() == 1);  // it never began
    jobs.cancel(one);
    CHECK(jobs.rows().front().cancelling);
    REQUIRE(wait_for([&] { return codes.size() == 2; }));
    CHECK(codes == std::vector{ErrorCode::Cancelled, ErrorCode::Cancelled});
    CHECK_FALSE(second.running);
}

TEST_CASE("Jobs: what was dropped is never heard of again") {
    Jobs jobs;
    Gate gate;
    bool heard = false;
    JobInfo info = heavy(SubjectId::make());
    info.live = [&](std::shared_ptr<Points>) { heard = true; };
    jobs.start<int>(
        std::move(info),
        [&](const Progress& progress) -> Result<int> {
            progress.live(Points(3, Vec3::Zero()));
            return gate.work(1)(progress);
        },
        [&](Result<int>&&) { heard = true; });
    jobs.drop_all();
    CHECK_FALSE(jobs.any_heavy());
    CHECK(jobs.rows().empty());
    REQUIRE(wait_for([&] { return !jobs.any(); }));
    QTest::qWait(30);
    CHECK_FALSE(heard);
}

TEST_CASE("Jobs: a window that draws slowly is shown less, not later") {
    Jobs jobs;
    const auto began = std::chrono::steady_clock::now();
    const auto now_ms = [began] {
        return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - began).count();
    };
    double latest = 0;
    int shown = 0;
    JobInfo info = heavy(SubjectId::make());
    info.live = [&](const std::shared_ptr<Points>& x) {
        latest = std::max(latest, now_ms() - x->front().x());
        ++shown;
        std::this_thread::sleep_for(std::chrono::milliseconds(500));  // it draws
    };
    bool done = false;
    jobs.start<int>(
        info,
        [&](const Progress& progress) -> Result<int> {
            while (now_ms() < 3000) {
                progress.live({Vec3(now_ms(), 0, 0)});
                std::this_thread::sleep_for(std::chrono::milliseconds(10));
            }
            return 1;
        },
        [&](Result<int>&&) { done = true; });
    REQUIRE(wait_for([&] { return done; }));
    CHECK(shown >= 3);
    CHECK(latest < 600);  // nothing waited behind another that was being drawn
}

TEST_CASE("Jobs: a lack of memory and other exceptions arrive as errors") {
    Jobs jobs;
    std::vector<ErrorCode> codes;
    const auto take = [&](Result<int>&& r) { codes.push_back(r.error().code); };
    jobs.start<int>(
        heavy(SubjectId::make()), [](const Progress&) -> Result<int> { throw std::bad_alloc(); }, take);
    REQUIRE(wait_for([&] { return codes.size() == 1; }));
    jobs.start<int>(
        heavy(SubjectId::make()), [](const Progress&) -> Result<int> { throw std::runtime_error("odd"); }, take);
    REQUIRE(wait_for([&] { return codes.size() == 2; }));
    CHECK(codes == std::vector{ErrorCode::Limit, ErrorCode::BadInput});
}

TEST_CASE("Jobs: the bar shows title, stage and cancel, and is gone when nothing runs") {
    Jobs jobs;
    Saver saver;
    QWidget window;
    auto& bar = *new JobsBar(jobs, saver, &window);
    window.show();
    CHECK_FALSE(bar.isVisible());
    Gate gate;
    bool ended = false;
    JobInfo info = heavy(SubjectId::make());
    info.title = "Fit of Ottoline";
    jobs.start<int>(
        std::move(info),
        [&](const Progress& progress) -> Result<int> {
            progress.say(0.25, "bending");
            return gate.work(1)(progress);
        },
        [&](Result<int>&&) { ended = true; });
    auto* text = bar.findChild<QLabel*>("jobs_text");
    REQUIRE(wait_for([&] { return text->text().contains("bending"); }));
    CHECK(text->text().contains("Fit of Ottoline"));
    CHECK(bar.findChild<QProgressBar*>("jobs_progress")->value() == 250);
    QTest::mouseClick(bar.findChild<QToolButton*>("jobs_cancel"), Qt::LeftButton);
    REQUIRE(wait_for([&] { return ended; }));
    CHECK_FALSE(bar.isVisible());
}

TEST_CASE("Jobs: time left is told when there is something to tell it from") {
    CHECK(seconds_left(0.5, 1) == -1);
    CHECK(seconds_left(0.01, 60) == -1);
    CHECK(seconds_left(0.25, 30) == 90);
    CHECK(time_left_words(-1).isEmpty());
    CHECK(time_left_words(12) == "12 s left");
    CHECK(time_left_words(63) == "65 s left");
    CHECK(time_left_words(150) == "3 min left");
}

TEST_CASE("Mailbox: letters are opened one an event, each thread's in its order, on the thread of the events") {
    constexpr int kThreads = 4, kEach = 200;
    Mailbox box;
    std::vector<int> last(kThreads, -1);
    int opened = 0;
    bool elsewhere = false, out_of_order = false;
    const auto here = std::this_thread::get_id();
    std::vector<std::thread> threads;
    for (int t = 0; t < kThreads; ++t) {
        threads.emplace_back([&, t] {
            for (int i = 0; i < kEach; ++i) {
                box.post([&, t, i] {
                    elsewhere |= std::this_thread::get_id() != here;
                    out_of_order |= last[static_cast<std::size_t>(t)] != i - 1;
                    last[static_cast<std::size_t>(t)] = i;
                    ++opened;
                });
            }
        });
    }
    for (std::thread& t : threads) t.join();
    CHECK(opened == 0);  // nobody looked yet
    REQUIRE(wait_for([&] { return opened == kThreads * kEach; }));
    CHECK_FALSE(elsewhere);
    CHECK_FALSE(out_of_order);
}

TEST_CASE("Mailbox: a letter may post another, and what is unopened when it goes is let go of") {
    auto held = std::make_shared<int>(1);
    const std::weak_ptr<int> watched = held;
    {
        Mailbox box;
        std::vector<int> order;
        box.post([&] {
            order.push_back(1);
            box.post([&] { order.push_back(3); });
        });
        box.post([&] { order.push_back(2); });
        REQUIRE(wait_for([&] { return order.size() == 3; }));
        CHECK(order == std::vector{1, 2, 3});
        box.post([kept = std::move(held)] {});
    }
    CHECK(watched.expired());
    QTest::qWait(10);  // its event is gone as well
}

TEST_CASE("Saver: requests reach the file in their order, the last one stays") {
    Scratch scratch;
    Saver saver;
    const std::string path = scratch / "p.veldstone";
    const ProjectId project = ProjectId::make();
    ProjectState state = new_project(demo_kit());
    state.subjects.push_back({"as saved", {}, {}});
    std::vector<int> told;
    for (int i = 1; i <= 6; ++i) {
        state.subjects[0].name = "state " + std::to_string(i);
        saver.write(path, state, i % 2 ? SaveSlot::Autosave : SaveSlot::Saved,
                    {project, static_cast<std::uint64_t>(i)}, [&told, i](const Status& ok) {
                        REQUIRE(ok);
                        told.push_back(i);
                    });
    }
    CHECK(saver.writing());
    saver.wait();
    CHECK_FALSE(saver.writing());
    CHECK(told == std::vector{1, 2, 3, 4, 5, 6});
    const auto back = load_project(path);
    REQUIRE(back);
    CHECK(back->state.subjects[0].name == "state 6");
    CHECK_FALSE(back->autosave_is_newer);
    std::string why;
    saver.write("/proc/none/p.veldstone", state, SaveSlot::Saved, {project, 9},
                [&](const Status& ok) { why = ok ? "" : ok.error().message; });
    saver.wait();
    CHECK(why.find("/proc/none/p.veldstone") != std::string::npos);
}

TEST_CASE("Threads: views are prepared and files written while the document changes, pages out and is undone") {
    Scratch scratch;
    Jobs jobs;
    Saver saver;
    ProjectState state = new_project(demo_kit());
    for (const char* name : {"A", "B"}) {
        Source source;
        source.mesh = std::make_shared<Mesh>(sphere(40, 100));
        state.subjects.push_back({name, {source}, {}});
    }
    Document document(state, std::make_unique<Pager>(1 << 16));  // old meshes go to the disk at once
    const std::string path = scratch / "p.veldstone";
    const ProjectId project = ProjectId::make();
    int prepared = 0, written = 0, shown = 0;
    constexpr int kRounds = 40;
    for (int i = 0; i < kRounds; ++i) {
        ProjectState next = document.state();
        Source& source = next.subjects[static_cast<std::size_t>(i % 2)].sources[0];
        Mesh mesh = *source.mesh;
        for (Vec3& p : mesh.positions) p *= 1.001;
        source.mesh = std::make_shared<Mesh>(std::move(mesh));
        document.apply("step", next);
        const auto made = source.mesh;
        JobInfo info = heavy(next.subjects[static_cast<std::size_t>(i % 2)].id);
        info.live = [&](const std::shared_ptr<Points>& x) { shown += x->size() > 0; };
        jobs.start<std::shared_ptr<PreparedSource>>(
            std::move(info),
            [made, kept = document.state()](const Progress& progress) -> Result<std::shared_ptr<PreparedSource>> {
                progress.say(0.5, "preparing");
                progress.live(kept.subjects[0].sources[0].mesh->positions);
                return prepare_for_window(made);
            },
            [&, made](Result<std::shared_ptr<PreparedSource>>&& result) {
                REQUIRE(result);
                CHECK((*result)->mesh == made);
                CHECK((*result)->query->closest(Vec3(0, 300, 0), 1e9));
                ++prepared;
            });
        saver.write(path, document.state(), i % 3 ? SaveSlot::Autosave : SaveSlot::Saved,
                    {project, static_cast<std::uint64_t>(i + 1)}, [&](const Status& ok) {
                        CHECK(ok);
                        ++written;
                    });
        if (i % 5 == 4) document.undo(), document.undo(), document.redo();
        QTest::qWait(i % 4);
    }
    REQUIRE(wait_for([&] { return prepared == kRounds && written == kRounds; }, 120000));
    CHECK(shown > 0);
    while (document.can_undo()) document.undo();
    CHECK(document.state().subjects[0].sources[0].mesh->positions == state.subjects[0].sources[0].mesh->positions);
    CHECK(load_project(path));
}

}  // namespace veld
