#pragma once
// Errors as values. A message is written for the person at the desk: what, where, how to repair it.
#include <string>
#include <utility>
#include <variant>

namespace veld {

enum class ErrorCode {
    BadFile,          // the bytes are not what the format promises
    Unsupported,      // valid, but not something that we read
    BadInput,         // wrong counts, non-finite numbers, unknown names
    DegenerateInput,  // too few points, points on one line, empty surface
    Io,               // cannot open, read or write (permissions, full disk)
    NotFound,         // looked for, and not there
    Cancelled,        // the user stopped it; nothing was changed
    KitMissing,       // a project's base kit is not where it was: ask for its folder
    SidesSwapped,     // left and right landmarks look exchanged: offer to swap them
    Gone,             // what a result belongs to was removed or changed meanwhile
    Undecided,        // only a person can tell; nothing was done
    Limit,            // more memory or time than it may take
};

struct Error {
    ErrorCode code = ErrorCode::BadInput;
    std::string message;
};

// Holds a T or an Error. Check with `if (!result)` before `*result`.
template <class T>
class [[nodiscard]] Result {
 public:
    Result(T value) : content_(std::move(value)) {}      // NOLINT(google-explicit-constructor)
    Result(Error error) : content_(std::move(error)) {}  // NOLINT(google-explicit-constructor)

    explicit operator bool() const { return content_.index() == 0; }
    T& operator*() & { return std::get<0>(content_); }
    const T& operator*() const& { return std::get<0>(content_); }
    T&& operator*() && { return std::get<0>(std::move(content_)); }
    T* operator->() { return &std::get<0>(content_); }
    const T* operator->() const { return &std::get<0>(content_); }
    const Error& error() const { return std::get<1>(content_); }

 private:
    std::variant<T, Error> content_;
};

struct Done {};
using Status = Result<Done>;  // for functions that only succeed or fail

}  // namespace veld
