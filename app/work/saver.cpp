#include "app/work/saver.h"

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

Saver::Saver(QObject* parent) : QObject(parent) { thread_.setMaxThreadCount(1); }

Saver::~Saver() { thread_.waitForDone(); }

void Saver::write(const std::string& path, const ProjectState& state, SaveSlot slot, const SaveMark& mark,
                  std::function<void(const Status&)> done) {
    for (const auto& earlier : requests_) {
        if (earlier->path == path && earlier->slot == SaveSlot::Autosave) earlier->superseded = true;
    }
    auto request = std::make_shared<Request>();
    request->path = path, request->state = state, request->slot = slot, request->mark = mark,
    request->done = std::move(done);
    requests_.push_back(request);
    ++waiting_;
    if (slot == SaveSlot::Saved) ++saves_;
    thread_.start([this, request] {
        try {
            if (!request->superseded)
                request->result = save_project(request->path, request->state, request->slot, request->mark);
        } catch (const std::exception& e) {
            request->result = Error{ErrorCode::Limit, "Cannot write the project '" + request->path + "': " + e.what() +
                                                          ". Free some memory and save again."};
        }
        request->state = {};
        QMetaObject::invokeMethod(
            this, [this, request] { finish(request); }, Qt::QueuedConnection);
    });
    emit changed();
}

void Saver::finish(const std::shared_ptr<Request>& request) {
    if (request->finished) return;
    request->finished = true;
    std::erase(requests_, request);
    --waiting_;
    if (request->slot == SaveSlot::Saved) --saves_;
    if (request->done) request->done(request->result);
    emit changed();
}

void Saver::wait() {
    thread_.waitForDone();
    for (const auto& request : std::vector(requests_)) finish(request);
}

}  // namespace veld
