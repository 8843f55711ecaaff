#include "files/man_page.h"
#include <sstream>

namespace burin {
namespace {

/// A line as it stands: what would be an instruction or an escape is none.
std::string plain(const std::string& line) {
    std::string out = line.starts_with('.') || line.starts_with('\'') ? "\\&" : "";
    for (const char c : line)
        out += c == '\\' ? "\\e" : c == '-' ? "\\-" : std::string(1, c);
    return out;
}

} // namespace

std::string manPage(const std::string& name, const std::string& does, const std::string& version,
                    const std::vector<ManPart>& parts) {
    std::string out = ".TH \"" + name + "\" 1 \"\" \"Burin " + version + "\"\n.SH NAME\n" +
                      plain(name) + " \\- " + plain(does) + "\n";
    for (const auto& part : parts) {
        const bool within = part.title.starts_with(' ');
        out += (within ? ".SS \"" + plain(part.title.substr(1)) : ".SH \"" + plain(part.title)) +
               "\"\n.nf\n";
        std::istringstream lines(part.text);
        for (std::string line; std::getline(lines, line);)
            out += plain(line) + "\n";
        out += ".fi\n";
    }
    return out;
}

} // namespace burin
