#include "files/text_cursor.h"
#include <charconv>
#include <cmath>
#include <cstring>
#include <fcntl.h>
#include <memory>
#include <sys/stat.h>
#include <unistd.h>

namespace burin {

bool LineCursor::next(std::string_view& line) {
    if (at_ >= text_.size())
        return false;
    const char* const begin = text_.data() + at_;
    const char* const last = text_.data() + text_.size();
    // Where lines end in carriage returns alone there is no newline to find: not for each of them.
    if (newline_ < at_ || line_ == 0) {
        const auto* found = static_cast<const char*>(
            std::memchr(begin, '\n', static_cast<std::size_t>(last - begin)));
        newline_ = found == nullptr ? text_.size() : static_cast<std::size_t>(found - text_.data());
    }
    const char* end = text_.data() + newline_;
    // A carriage return inside is an end of its own; in most files it stands before the newline.
    if (const auto* back = static_cast<const char*>(
            std::memchr(begin, '\r', static_cast<std::size_t>(end - begin))))
        end = back;
    line = {begin, static_cast<std::size_t>(end - begin)};
    if (end != last)
        end += *end == '\r' && end + 1 != last && end[1] == '\n' ? 2 : 1;
    at_ = static_cast<std::size_t>(end - text_.data());
    ++line_;
    return true;
}

Word nextWord(std::string_view line, int lineNumber, std::size_t& at) {
    // By hand: the library's find_first_of costs more than reading the number that follows.
    const auto blank = [](char c) { return c == ' ' || c == '\t' || c == '\f' || c == '\v'; };
    std::size_t begin = at;
    while (begin < line.size() && blank(line[begin]))
        ++begin;
    std::size_t end = begin;
    while (end < line.size() && !blank(line[end]))
        ++end;
    at = end;
    if (begin == end)
        return {};
    return {line.substr(begin, end - begin), lineNumber, static_cast<int>(begin) + 1};
}

bool wordToDouble(std::string_view word, double& value) {
    if (word.starts_with('+'))
        word.remove_prefix(1);
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
    return error == std::errc{} && end == word.data() + word.size() && std::isfinite(value);
}

Outcome<std::string> readWholeFile(const std::string& path, std::size_t mostBytes) {
    // Without waiting: opening a pipe that nobody writes to would never end.
    const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOCTTY);
    if (file < 0)
        return refuse(path,
                      errno == ENOENT
                          ? sentence({"job.no-file", "there is no such file"})
                          : sentence({"file.file-cannot-opened", "the file cannot be opened"}),
                      {"cure.check-read", "Check that it is there and may be read"});
    const std::unique_ptr<const int, void (*)(const int*)> closes(
        &file, [](const int* f) { ::close(*f); });
    struct stat info {};
    if (::fstat(file, &info) != 0 || !S_ISREG(info.st_mode))
        return refuse(path,
                      S_ISDIR(info.st_mode)
                          ? sentence({"file.folder", "this is a folder"})
                          : sentence({"file.pipe-device-not",
                                      "this is a pipe or a device, not a plain file"}),
                      {"cure.choose-file", "Choose a file"});
    const auto tooLarge = [&] {
        return refuse(
            path,
            sentence({"measured.file-larger-mib", "the file is larger than {0} MiB"},
                     asCount(mostBytes >> 20U)),
            {"cure.burin-reads-far", "What Burin reads is far smaller; choose another file"});
    };
    if (static_cast<std::size_t>(info.st_size) > mostBytes)
        return tooLarge();
    std::string out(static_cast<std::size_t>(info.st_size) + 1, '\0');
    std::size_t have = 0;
    for (;;) {
        const auto got = ::read(file, out.data() + have, out.size() - have);
        if (got < 0 && errno == EINTR)
            continue;
        if (got < 0)
            return refuse(path,
                          sentence({"file.file-cannot-read", "the file cannot be read: {0}"},
                                   std::strerror(errno)),
                          {"cure.check-disk", "Check the disk it is on"});
        if (got == 0)
            break;
        have += static_cast<std::size_t>(got);
        // Some files of the system's tell no size, and one may grow while it is read.
        if (have > mostBytes)
            return tooLarge();
        if (have == out.size())
            out.resize(out.size() * 2);
    }
    out.resize(have);
    return out;
}

} // namespace burin
