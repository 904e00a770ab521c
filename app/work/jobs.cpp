#include "app/work/jobs.h"

#include <QFile>
#include <QTimer>
#include <algorithm>
#include <cmath>
#include <exception>
#include <new>
#include <system_error>
#include <thread>

namespace veld {
namespace {

constexpr int kTellEveryMs = 100, kLiveEveryMs = 180;
constexpr double kTooEarlySeconds = 2, kTooEarlyShare = 0.04;
using Clock = std::chrono::steady_clock;

// Half of what the machine can give now.
std::size_t usual_budget() {
    QFile file("/proc/meminfo");
    if (file.open(QIODevice::ReadOnly)) {
        for (const QByteArray& line : file.readAll().split('\n')) {
            if (line.startsWith("MemAvailable:"))
                return line.mid(13).trimmed().split(' ').front().toULongLong() * 1024 / 2;
        }
    }
    return std::size_t{2} << 30;
}

}  // namespace

int seconds_left(double fraction, double seconds) {
    if (fraction < kTooEarlyShare || fraction > 1 || seconds < kTooEarlySeconds) return -1;
    return static_cast<int>(std::lround(seconds * (1 - fraction) / fraction));
}

struct Jobs::Job {
    JobId id = 0;
    JobInfo info;
    std::function<Status(const Progress&)> work;
    std::function<void(const Status&)> done;
    std::thread thread;  // joined by finish() or wait_all()
    std::atomic<bool> cancelled{false}, dropped{false}, told{false}, live_under_way{false};
    bool running = false;  // of the interface thread
    Clock::time_point began;
    Status result{Done{}};
    std::mutex said;  // guards fraction and stage
    double fraction = -1;
    std::string stage;
};

Jobs::Jobs(QObject* parent) : QObject(parent), memory_budget_(usual_budget()) {
    side_by_side_ = std::max(2, static_cast<int>(std::thread::hardware_concurrency()) / 2);
}

Jobs::~Jobs() {
    drop_all();
    wait_all();
}

JobId Jobs::enqueue(JobInfo info, std::function<Status(const Progress&)> work,
                    std::function<void(const Status&)> done) {
    auto job = std::make_shared<Job>();
    job->id = ++last_;
    job->info = std::move(info), job->work = std::move(work), job->done = std::move(done);
    jobs_.push_back(job);
    start_what_can();
    emit changed();
    return job->id;
}

bool Jobs::may_run(const Job& job) const {
    if (job.info.light) return true;
    std::size_t memory = job.info.memory_bytes;
    int running = 0;
    for (const auto& other : jobs_) {
        if (!other->running || other->info.light) continue;
        if (other->info.subject == job.info.subject) return false;
        memory += other->info.memory_bytes;
        ++running;
    }
    return running == 0 || (running < side_by_side_ && memory <= memory_budget_);
}

void Jobs::start_what_can() {
    std::vector<SubjectId> waiting;  // of one subject the older goes first, whatever room there is
    for (const auto& job : std::list(jobs_)) {
        if (job->running) continue;
        const bool turn =
            job->info.light || std::find(waiting.begin(), waiting.end(), job->info.subject) == waiting.end();
        if (turn && may_run(*job))
            run(job);
        else
            waiting.push_back(job->info.subject);
    }
}

Progress Jobs::progress_of(const std::shared_ptr<Job>& job) {
    Progress out;
    out.cancelled = [job] { return job->cancelled.load(); };
    out.report = [this, job](double fraction, const std::string& stage) {
        {
            const std::lock_guard lock(job->said);
            job->fraction = fraction, job->stage = stage;
        }
        // one event under way is enough
        if (job->told.exchange(true)) return;
        mailbox_.post([this, job] {
            job->told = false;
            if (!job->dropped) emit progressed(job->id);
        });
    };
    if (!job->info.live) return out;
    out.live = [this, job, last = std::make_shared<Clock::time_point>()](const Points& x) {
        const auto now = Clock::now();
        if (now - *last < std::chrono::milliseconds(kLiveEveryMs)) return;
        // A window that draws slowly gets fewer of them: else they queue up, and it answers nobody any more.
        if (job->live_under_way.exchange(true)) return;
        *last = now;
        mailbox_.post([this, job, copy = std::make_shared<Points>(x)] {
            if (!job->dropped && job->running) job->info.live(copy);
            // after what it drew and what the user did meanwhile
            QTimer::singleShot(0, this, [job] { job->live_under_way = false; });
        });
    };
    return out;
}

void Jobs::work_through(Job& job, const Progress& progress) {
    if (job.cancelled) {
        job.result = Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    } else {
        try {
            job.result = job.work(progress);
        } catch (const std::bad_alloc&) {
            job.result = Error{ErrorCode::Limit,
                               "There is not enough memory for this; nothing was changed. Reduce the mesh first, "
                               "or close what else is open."};
        } catch (const std::exception& e) {
            job.result = Error{ErrorCode::BadInput, std::string("This went wrong inside the program (") + e.what() +
                                                        "); nothing was changed. Save the project and report it."};
        }
    }
    job.work = nullptr;  // what it holds is let go here, not while the window waits
}

void Jobs::run(const std::shared_ptr<Job>& job) {
    job->running = true;
    job->began = Clock::now();
    try {
        job->thread = std::thread([this, job, progress = progress_of(job)] {
            work_through(*job, progress);
            mailbox_.post([this, job] { finish(job); });
        });
    } catch (const std::system_error&) {
        job->work = nullptr;
        job->result =
            Error{ErrorCode::Limit, "The system gives no more threads; nothing was changed. Close what else is open."};
        mailbox_.post([this, job] { finish(job); });
    }
}

void Jobs::finish(const std::shared_ptr<Job>& job) {
    if (job->thread.joinable()) job->thread.join();  // it posted this letter as its last deed
    job->running = false;
    jobs_.remove(job);
    const auto done = std::move(job->done);
    if (!job->dropped && done) done(job->result);
    start_what_can();
    emit changed();
}

bool Jobs::busy(SubjectId subject) const {
    return std::any_of(jobs_.begin(), jobs_.end(),
                       [&](const auto& j) { return !j->dropped && !j->info.light && j->info.subject == subject; });
}
bool Jobs::any_heavy() const {
    return std::any_of(jobs_.begin(), jobs_.end(), [](const auto& j) { return !j->dropped && !j->info.light; });
}
bool Jobs::has(JobKind kind, SubjectId subject) const {
    return std::any_of(jobs_.begin(), jobs_.end(), [&](const auto& j) {
        return !j->dropped && j->info.kind == kind && j->info.subject == subject;
    });
}
bool Jobs::has(JobKind kind) const {
    return std::any_of(jobs_.begin(), jobs_.end(), [&](const auto& j) { return !j->dropped && j->info.kind == kind; });
}

std::vector<JobRow> Jobs::rows() const {
    std::vector<JobRow> out;
    for (const auto& job : jobs_) {
        if (job->dropped || job->info.light) continue;
        JobRow row{job->id, job->info.kind, job->info.title, {}, job->info.subject};
        row.running = job->running, row.cancelling = job->cancelled;
        const std::lock_guard lock(job->said);
        row.fraction = job->fraction, row.stage = QString::fromStdString(job->stage);
        if (job->running)
            row.seconds_left =
                seconds_left(job->fraction, std::chrono::duration<double>(Clock::now() - job->began).count());
        out.push_back(row);
    }
    return out;
}

void Jobs::cancel(JobId id) {
    std::shared_ptr<Job> waits;
    for (const auto& job : jobs_) {
        if (job->id != id) continue;
        job->cancelled = true;
        if (!job->running) waits = job;
    }
    if (waits) {  // it never began
        waits->result = Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        return finish(waits);
    }
    emit changed();
}

void Jobs::cancel_of(SubjectId subject) {
    for (const auto& job : std::list(jobs_)) {
        if (!job->info.light && job->info.subject == subject) cancel(job->id);
    }
}
void Jobs::cancel_kind(JobKind kind) {
    for (const auto& job : std::list(jobs_)) {
        if (job->info.kind == kind) cancel(job->id);
    }
}
void Jobs::cancel_all() {
    for (const auto& job : std::list(jobs_)) cancel(job->id);
}

void Jobs::drop_all() {
    for (const auto& job : jobs_) job->dropped = job->cancelled = true;
    std::erase_if(jobs_, [](const auto& job) { return !job->running; });
    emit changed();
}

void Jobs::wait_all() {
    for (const auto& job : jobs_) {
        if (job->thread.joinable()) job->thread.join();
    }
}

}  // namespace veld
