#pragma once
// Project files are written here and nowhere else: one after the other on a thread of its own, in the order in which
// they were asked for, so that no save waits for the window, none overtakes another, and the program never finds its
// own file locked by itself.
#include <QObject>
#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <thread>

#include "app/work/mailbox.h"
#include "core/project/store.h"

namespace veld {

class Saver : public QObject {
    Q_OBJECT
 public:
    explicit Saver(QObject* parent = nullptr);
    ~Saver() override;  // what was asked for is written first

    // The state is a value of shared, unchanging parts: the user goes on meanwhile. done: on the interface thread.
    // An autosave that waits is given up when anything newer is asked for of the same file.
    void write(const std::string& path, const ProjectState& state, SaveSlot slot, const SaveMark& mark,
               std::function<void(const Status&)> done);
    bool writing() const { return !requests_.empty(); }
    bool saving() const { return saves_ > 0; }  // by hand
    // Blocks until all is written; what was asked for by then has been told of.
    void wait();

 signals:
    void changed();

 private:
    struct Request;
    void work();  // of the thread
    void finish(const std::shared_ptr<Request>& request);

    // Of the interface thread
    std::vector<std::shared_ptr<Request>> requests_;  // not finished yet
    int saves_ = 0;
    // Of both, under mutex_
    std::mutex mutex_;
    std::condition_variable asked_, written_;
    std::deque<std::shared_ptr<Request>> queue_;
    bool busy_ = false, leaving_ = false;

    Mailbox mailbox_;
    std::thread thread_;
};

}  // namespace veld
