#include "app/work/saver.h"

#include <atomic>
#include <exception>

namespace veld {

struct Saver::Request {
    std::string path;
    ProjectState state;
    SaveSlot slot = SaveSlot::Saved;
    SaveMark mark;
    std::function<void(const Status&)> done;
    std::atomic<bool> superseded{false};
    Status result{Done{}};
    bool finished = false;  // of the interface thread
};

Saver::Saver(QObject* parent) : QObject(parent), thread_([this] { work(); }) {}

Saver::~Saver() {
    {
        const std::lock_guard lock(mutex_);
        leaving_ = true;
    }
    asked_.notify_one();
    thread_.join();
}

void Saver::write(const std::string& path, const ProjectState& state, SaveSlot slot, const SaveMark& mark,
                  std::function<void(const Status&)> done) {
    for (const auto& earlier : requests_) {
        if (earlier->path == path && earlier->slot == SaveSlot::Autosave) earlier->superseded = true;
    }
    auto request = std::make_shared<Request>();
    request->path = path, request->state = state, request->slot = slot, request->mark = mark,
    request->done = std::move(done);
    requests_.push_back(request);
    if (slot == SaveSlot::Saved) ++saves_;
    {
        const std::lock_guard lock(mutex_);
        queue_.push_back(request);
    }
    asked_.notify_one();
    emit changed();
}

void Saver::work() {
    for (;;) {
        std::shared_ptr<Request> request;
        {
            std::unique_lock lock(mutex_);
            busy_ = false;
            written_.notify_all();
            asked_.wait(lock, [this] { return leaving_ || !queue_.empty(); });
            if (queue_.empty()) return;
            request = queue_.front();
            queue_.pop_front();
            busy_ = true;
        }
        try {
            if (!request->superseded)
                request->result = save_project(request->path, request->state, request->slot, request->mark);
        } catch (const std::exception& e) {
            request->result = Error{ErrorCode::Limit, "Cannot write the project '" + request->path + "': " + e.what() +
                                                          ". Free some memory and save again."};
        }
        request->state = {};
        mailbox_.post([this, request = std::move(request)] { finish(request); });
    }
}

void Saver::finish(const std::shared_ptr<Request>& request) {
    if (request->finished) return;
    request->finished = true;
    std::erase(requests_, request);
    if (request->slot == SaveSlot::Saved) --saves_;
    if (request->done) request->done(request->result);
    emit changed();
}

void Saver::wait() {
    {
        std::unique_lock lock(mutex_);
        written_.wait(lock, [this] { return queue_.empty() && !busy_; });
    }
    for (const auto& request : std::vector(requests_)) finish(request);
}

}  // namespace veld
