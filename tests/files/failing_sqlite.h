#pragma once
#include <cerrno>
#include <fcntl.h>
#include <initializer_list>
#include <sqlite3.h>
#include <unistd.h>

namespace burin {

/// SQLite's own calls to the system, the n-th of which fails from `from` on.
class FailingSQLite {
public:
    FailingSQLite() {
        replace("pwrite", failingWrite);
        replace("pwrite64", failingWrite);
        replace("open", failingOpen);
        replace("unlink", failingUnlink);
        replace("ftruncate", failingTruncate);
    }
    ~FailingSQLite() {
        from(0);
        for (const char* name : {"pwrite", "pwrite64", "open", "unlink", "ftruncate"})
            vfs_->xSetSystemCall(vfs_, name, nullptr);
    }
    FailingSQLite(const FailingSQLite&) = delete;
    FailingSQLite& operator=(const FailingSQLite&) = delete;
    /// Does `work` with its nth call failing; `reached` tells whether it came to that one. In a
    /// loop over nth until it does not, every call has failed once.
    template <typename Work> static auto during(int nth, bool& reached, Work work) {
        from(nth);
        auto out = work();
        reached = seen_ >= nth_;
        from(0);
        return out;
    }

private:
    static void from(int nth) {
        nth_ = nth;
        seen_ = 0;
    }
    static bool fails(int error) {
        if (nth_ == 0 || ++seen_ != nth_)
            return false;
        errno = error;
        return true;
    }
    static ssize_t failingWrite(int file, const void* bytes, size_t size, off_t at) {
        return fails(ENOSPC) ? -1 : ::pwrite(file, bytes, size, at);
    }
    static int failingOpen(const char* path, int flags, int mode) {
        return fails(EMFILE) ? -1 : ::open(path, flags, mode);
    }
    static int failingUnlink(const char* path) { return fails(EIO) ? -1 : ::unlink(path); }
    static int failingTruncate(int file, off_t size) {
        return fails(EIO) ? -1 : ::ftruncate(file, size);
    }
    template <typename Call> void replace(const char* name, Call* call) {
        vfs_->xSetSystemCall(vfs_, name, reinterpret_cast<sqlite3_syscall_ptr>(call));
    }
    static inline int nth_ = 0, seen_ = 0;
    sqlite3_vfs* vfs_ = sqlite3_vfs_find(nullptr);
};

} // namespace burin
