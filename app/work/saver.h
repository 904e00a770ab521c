#pragma once
// Project files are written here and nowhere else: one after the other on a thread of its own, in the order in which
// they were asked for, so that no save waits for the window, none overtakes another, and the program never finds its
// own file locked by itself.
#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <functional>

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
    bool writing() const { return waiting_ > 0; }
    bool saving() const { return saves_ > 0; }  // by hand
    // Blocks until all is written; what was asked for by then has been told of.
    void wait();

 signals:
    void changed();

 private:
    struct Request;
    QThreadPool thread_;
    std::vector<std::shared_ptr<Request>> requests_;
    std::atomic<int> waiting_{0}, saves_{0};
    void finish(const std::shared_ptr<Request>& request);
};

}  // namespace veld
