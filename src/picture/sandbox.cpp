#include "picture/sandbox.h"
#include <cerrno>
#include <fcntl.h>
#include <initializer_list>
#include <linux/landlock.h>
#include <sched.h>
#include <seccomp.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

// By the address sanitizer: each compiler says so in its own way.
#if defined(__SANITIZE_ADDRESS__)
#define BURIN_WATCHED
#elif defined(__has_feature)
#if __has_feature(address_sanitizer)
#define BURIN_WATCHED
#endif
#endif

namespace burin {
namespace {

/// Lets this process read below these folders and touch nothing else of the file system.
bool fontsAlone() {
    landlock_ruleset_attr attributes{};
    attributes.handled_access_fs =
        LANDLOCK_ACCESS_FS_EXECUTE | LANDLOCK_ACCESS_FS_WRITE_FILE | LANDLOCK_ACCESS_FS_READ_FILE |
        LANDLOCK_ACCESS_FS_READ_DIR | LANDLOCK_ACCESS_FS_REMOVE_DIR |
        LANDLOCK_ACCESS_FS_REMOVE_FILE | LANDLOCK_ACCESS_FS_MAKE_CHAR |
        LANDLOCK_ACCESS_FS_MAKE_DIR | LANDLOCK_ACCESS_FS_MAKE_REG | LANDLOCK_ACCESS_FS_MAKE_SOCK |
        LANDLOCK_ACCESS_FS_MAKE_FIFO | LANDLOCK_ACCESS_FS_MAKE_BLOCK | LANDLOCK_ACCESS_FS_MAKE_SYM;
    const long rules =
        ::syscall(SYS_landlock_create_ruleset, &attributes, sizeof attributes.handled_access_fs, 0);
    if (rules < 0)
        return false;
    for (const char* folder :
         {"/usr/share/fonts", "/usr/local/share/fonts", "/usr/share/poppler"}) {
        landlock_path_beneath_attr beneath{};
        beneath.parent_fd = ::open(folder, O_PATH | O_CLOEXEC);
        if (beneath.parent_fd < 0)
            continue;
        beneath.allowed_access = LANDLOCK_ACCESS_FS_READ_FILE | LANDLOCK_ACCESS_FS_READ_DIR;
        ::syscall(SYS_landlock_add_rule, rules, LANDLOCK_RULE_PATH_BENEATH, &beneath, 0);
        ::close(beneath.parent_fd);
    }
    const bool held = ::syscall(SYS_landlock_restrict_self, rules, 0) == 0;
    ::close(static_cast<int>(rules));
    return held;
}

/// What reading, drawing and answering take; everything else is refused, not fatal: a library that
/// looks for a font and finds none goes on without.
constexpr int allowed[] = {SCMP_SYS(read),
                           SCMP_SYS(readv),
                           SCMP_SYS(pread64),
                           SCMP_SYS(write),
                           SCMP_SYS(writev),
                           SCMP_SYS(lseek),
                           SCMP_SYS(close),
                           SCMP_SYS(fstat),
                           SCMP_SYS(mmap),
                           SCMP_SYS(munmap),
                           SCMP_SYS(mremap),
                           SCMP_SYS(brk),
                           SCMP_SYS(madvise),
                           SCMP_SYS(futex),
                           SCMP_SYS(rt_sigaction),
                           SCMP_SYS(rt_sigprocmask),
                           SCMP_SYS(rt_sigreturn),
                           SCMP_SYS(sigaltstack),
                           SCMP_SYS(clock_gettime),
                           SCMP_SYS(clock_nanosleep),
                           SCMP_SYS(gettimeofday),
                           SCMP_SYS(nanosleep),
                           SCMP_SYS(sched_yield),
                           SCMP_SYS(sched_getaffinity),
                           SCMP_SYS(getpid),
                           SCMP_SYS(gettid),
                           SCMP_SYS(tgkill),
                           SCMP_SYS(getrandom),
                           SCMP_SYS(exit),
                           SCMP_SYS(exit_group),
                           SCMP_SYS(set_robust_list),
                           SCMP_SYS(rseq),
                           SCMP_SYS(poll),
                           SCMP_SYS(ppoll),
                           SCMP_SYS(restart_syscall),
                           SCMP_SYS(sysinfo),
                           SCMP_SYS(mprotect)};

bool callsAlone(bool fonts) {
    scmp_filter_ctx filter = seccomp_init(SCMP_ACT_ERRNO(EACCES));
    if (filter == nullptr)
        return false;
    bool good = true;
    const auto allow = [&](int call) {
        good = good && seccomp_rule_add(filter, SCMP_ACT_ALLOW, call, 0) == 0;
    };
    for (const int call : allowed)
        allow(call);
    const auto allowWhere = [&](int call, const scmp_arg_cmp& argument) {
        good = good && seccomp_rule_add_array(filter, SCMP_ACT_ALLOW, call, 1, &argument) == 0;
    };
    // Threads, not processes.
    allowWhere(SCMP_SYS(clone), {0, SCMP_CMP_MASKED_EQ, CLONE_THREAD, CLONE_THREAD});
    good = good && seccomp_rule_add(filter, SCMP_ACT_ERRNO(ENOSYS), SCMP_SYS(clone3), 0) == 0;
#ifdef BURIN_WATCHED
    // How the sanitizers find out whether memory may be read.
    allow(SCMP_SYS(pipe));
    allow(SCMP_SYS(pipe2));
#endif
    // fstat of what is open, as today's C library asks it.
    allowWhere(SCMP_SYS(newfstatat), {3, SCMP_CMP_EQ, AT_EMPTY_PATH, 0});
    if (fonts) {
        allowWhere(SCMP_SYS(openat),
                   {2, SCMP_CMP_MASKED_EQ, O_ACCMODE | O_CREAT | O_TRUNC, O_RDONLY});
        allow(SCMP_SYS(fcntl));
    }
    good = good && seccomp_load(filter) == 0;
    seccomp_release(filter);
    return good;
}

} // namespace

Locked lockIn(Sandbox sandbox, int seconds) {
    const auto time = static_cast<rlim_t>(seconds);
    const rlimit memory{3UL << 30U, 3UL << 30U};
    const rlimit processor{time, time + 1};
    const rlimit none{0, 0};
#ifndef BURIN_WATCHED
    ::setrlimit(RLIMIT_AS, &memory);
#else
    (void)memory;
#endif
    ::setrlimit(RLIMIT_CPU, &processor);
    ::setrlimit(RLIMIT_CORE, &none);
    ::alarm(static_cast<unsigned>(seconds));
    if (::prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) != 0)
        return Locked::Not;
    // Where the kernel has it, the file system is closed by Landlock too, whatever the calls.
    const bool fonts = sandbox == Sandbox::Fonts && fontsAlone();
    if (!callsAlone(fonts))
        return Locked::Not;
    return fonts ? Locked::Fonts : Locked::Closed;
}

} // namespace burin
