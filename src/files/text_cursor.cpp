#include "files/text_cursor.h"
#include <charconv>
#include <cmath>
#include <cstring>
#include <filesystem>
#include <fstream>

namespace burin {

bool LineCursor::next(std::string_view& line) {
    if (at_ >= text_.size())
        return false;
    const char* const begin = text_.data() + at_;
    const char* const last = text_.data() + text_.size();
    const auto* newline =
        static_cast<const char*>(std::memchr(begin, '\n', static_cast<std::size_t>(last - begin)));
    const char* end = newline == nullptr ? last : newline;
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
    std::error_code error;
    if (std::filesystem::is_directory(path, error))
        return refuse(path, "this is a folder", "Choose a file");
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return refuse(path, "the file cannot be opened", "Check that it is there and may be read");
    const auto size = std::filesystem::file_size(path, error);
    if (!error && size > mostBytes)
        return refuse(path, "the file is larger than " + std::to_string(mostBytes >> 20U) + " MiB",
                      "A sweep of one run is far smaller; choose another file");
    std::string out;
    // What cannot tell its size (a pipe) is read to its end.
    if (error) {
        out.assign(std::istreambuf_iterator<char>(in), {});
        return out;
    }
    out.resize(size);
    in.read(out.data(), static_cast<std::streamsize>(size));
    out.resize(static_cast<std::size_t>(in.gcount()));
    return out;
}

} // namespace burin
