#pragma once
// Background work: one runner starts, queues, cancels, shows and waits for all of it.
//
// A job knows what it works for by ids, reads its own copy of the state on a worker thread, and hands its result to
// the interface thread, where whoever started it looks its place up by id and applies it, or says that the place is
// gone. When another project is opened, the jobs of the old one are dropped: cancelled, and never heard of again.
//
// Heavy jobs of one subject (and those of the project as a whole) run one after the other; of different subjects side
// by side, as long as there are processors and memory for it. Light ones (a look, a figure) run at once.
#include <QObject>
#include <QString>
#include <atomic>
#include <chrono>
#include <functional>
#include <list>
#include <memory>
#include <mutex>

#include "app/work/mailbox.h"
#include "core/base/id.h"
#include "core/base/progress.h"
#include "core/base/result.h"

namespace veld {

enum class JobKind {
    Read,
    Detect,
    Joints,
    Tidy,
    Fit,
    Photos,
    Lens,
    Measure,
    FitCache,
    Survey,
    Check,
    Export,
    Prepare,
    Skin,
    Shade,
    MakeKit
};

struct JobInfo {
    JobKind kind = JobKind::Read;
    QString title;                                           // "Fit of Ottoline", in the list of what runs
    SubjectId subject;                                       // whose things it works on; none: the project as a whole
    bool light = false;                                      // at once, not shown, nobody is asked about it
    std::size_t memory_bytes = 0;                            // about what it will take on top of what is there
    std::function<void(std::shared_ptr<Points>)> live = {};  // on the interface thread, a few times a second
};

using JobId = std::uint64_t;  // counted up from 1; 0: none

// What is shown of a job.
struct JobRow {
    JobId id = 0;
    JobKind kind = JobKind::Read;
    QString title, stage;
    SubjectId subject;
    double fraction = 0;    // below 0: not known
    int seconds_left = -1;  // -1: too early to tell
    bool running = false;   // else it waits for its turn
    bool cancelling = false;
};

// How many seconds more, from what is done after how long; -1: too early to tell.
int seconds_left(double fraction, double seconds_so_far);

class Jobs : public QObject {
    Q_OBJECT
 public:
    explicit Jobs(QObject* parent = nullptr);
    ~Jobs() override;  // cancels all and waits

    // work runs on a worker thread; done on the interface thread with what it gave, unless the job was dropped. A lack
    // of memory and other exceptions of work arrive as errors.
    template <class T>
    JobId start(JobInfo info, std::function<Result<T>(const Progress&)> work, std::function<void(Result<T>&&)> done) {
        auto result = std::make_shared<Result<T>>(Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."});
        return enqueue(
            std::move(info),
            [result, work = std::move(work)](const Progress& progress) -> Status {
                *result = work(progress);
                return Done{};
            },
            [result, done = std::move(done)](const Status& ran) {
                if (!ran) *result = ran.error();
                done(std::move(*result));
            });
    }

    // Heavy jobs that run or wait. For one subject those of the project as a whole do not count.
    bool busy(SubjectId subject) const;
    bool any_heavy() const;
    bool any() const { return !jobs_.empty(); }
    bool has(JobKind kind, SubjectId subject) const;
    bool has(JobKind kind) const;
    std::vector<JobRow> rows() const;  // heavy ones, the oldest first

    void cancel(JobId id);
    void cancel_of(SubjectId subject);  // heavy ones
    void cancel_kind(JobKind kind);
    void cancel_all();
    // Another project comes: nothing of what runs may reach it.
    void drop_all();
    void wait_all();  // blocks; what they give arrives with the next events

    // What may be taken together; less than what one job wants still runs that one, alone.
    void set_memory_budget(std::size_t bytes) { memory_budget_ = bytes; }

 signals:
    void changed();                   // a job came, began, ended, or is being cancelled
    void progressed(veld::JobId id);  // a few times a second

 private:
    struct Job;
    JobId enqueue(JobInfo info, std::function<Status(const Progress&)> run, std::function<void(const Status&)> done);
    void start_what_can();
    bool may_run(const Job& job) const;
    void run(const std::shared_ptr<Job>& job);
    static void work_through(Job& job, const Progress& progress);  // on its thread
    void finish(const std::shared_ptr<Job>& job);
    Progress progress_of(const std::shared_ptr<Job>& job);

    std::list<std::shared_ptr<Job>> jobs_;
    Mailbox mailbox_;
    JobId last_ = 0;
    std::size_t memory_budget_ = 0;
    int side_by_side_ = 2;
};

}  // namespace veld
