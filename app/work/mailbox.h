#pragma once
// How worker threads hand what they have to the interface thread.
#include <QObject>
#include <deque>
#include <functional>
#include <mutex>

namespace veld {

// Letters are opened one at a time by the interface thread's event loop, in the order in which they were posted. What
// they carry changes hands under our own mutex; Qt's event only wakes the loop. So ThreadSanitizer, for which Qt is a
// black box, sees the order, and everything it reports counts.
class Mailbox : public QObject {
    Q_OBJECT
 public:
    using Letter = std::function<void()>;
    explicit Mailbox(QObject* parent = nullptr) : QObject(parent) {}
    void post(Letter letter);  // from any thread; the mailbox outlives those who post

 protected:
    bool event(QEvent* event) override;

 private:
    std::mutex mutex_;
    std::deque<Letter> letters_;
};

}  // namespace veld
