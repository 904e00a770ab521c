#pragma once
// A value that follows from others, made when it is first asked for.
#include <functional>
#include <memory>
#include <mutex>

namespace veld {

// Runs it so that this thread, while it waits inside, takes up no other work, which could ask for the same value.
void run_isolated(const std::function<void()>& work);

// Any thread may ask; those that come while it is being made wait for it. A copy makes its own: whoever copies
// something mostly means to change it.
template <class T>
class MadeOnce {
 public:
    MadeOnce() = default;
    MadeOnce(const MadeOnce&) {}
    MadeOnce& operator=(const MadeOnce&) {
        const std::lock_guard lock(mutex_);
        value_.reset();
        return *this;
    }

    template <class Make>
    const T& get(Make&& make) const {
        const std::lock_guard lock(mutex_);
        if (!value_) run_isolated([&] { value_ = std::make_unique<const T>(make()); });
        return *value_;
    }

 private:
    mutable std::mutex mutex_;
    mutable std::unique_ptr<const T> value_;
};

}  // namespace veld
