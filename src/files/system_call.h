#pragma once
#include <cerrno>
#include <functional>

namespace burin::detail {

/// For tests alone: asked before each call to the system that writes, by its name; an errno makes
/// the call fail with it, 0 lets it through. Empty in a program that is used.
extern std::function<int(const char* call)> failCall;

/// `work`'s result, or −1 with errno set where a test wants it to fail.
template <typename Work> auto systemCall(const char* name, Work work) -> decltype(work()) {
    if (failCall)
        if (const int error = failCall(name); error != 0) {
            errno = error;
            return -1;
        }
    return work();
}

} // namespace burin::detail
