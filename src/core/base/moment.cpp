#include "core/base/moment.h"
#include <algorithm>
#include <chrono>

namespace burin {
namespace {

/// Reads fixed places of digits from the front of a text.
struct Digits {
    std::string_view left;
    bool good = true;

    int number(std::size_t places, int least, int most) {
        int out = 0;
        good = good && left.size() >= places;
        for (std::size_t i = 0; good && i < places; ++i) {
            const char c = left[i];
            good = c >= '0' && c <= '9';
            out = out * 10 + (c - '0');
        }
        good = good && out >= least && out <= most;
        left.remove_prefix(good ? places : left.size());
        return good ? out : 0;
    }
    bool take(std::string_view any) {
        if (left.empty() || any.find(left.front()) == std::string_view::npos)
            return false;
        left.remove_prefix(1);
        return true;
    }
    void need(std::string_view any) { good = take(any) && good; }
};

int fractionMs(Digits& d) {
    int out = 0;
    for (int worth = 100; !d.left.empty() && d.left.front() >= '0' && d.left.front() <= '9';
         worth /= 10)
        out += worth * d.number(1, 0, 9);
    return out;
}

/// Minutes east of UTC; 0 where none are given.
int offsetMinutes(Digits& d) {
    if (d.take("Zz") || d.left.empty())
        return 0;
    const bool west = d.left.front() == '-';
    d.need("+-");
    const int hours = d.number(2, 0, 14);
    d.take(":");
    const int minutes = hours * 60 + (d.left.empty() ? 0 : d.number(2, 0, 59));
    return west ? -minutes : minutes;
}

/// "2026-11-26" at the front; a day that the calendar does not have is not ok().
std::chrono::year_month_day dateAhead(Digits& d) {
    using namespace std::chrono;
    const int y = d.number(4, 1, 9999);
    d.need("-");
    const int m = d.number(2, 1, 12);
    d.need("-");
    const int day = d.number(2, 1, 31);
    return {year{y}, month{static_cast<unsigned>(m)}, std::chrono::day{static_cast<unsigned>(day)}};
}

} // namespace

std::optional<std::chrono::sys_days> calendarDay(std::string_view text) {
    Digits d{text};
    const auto date = dateAhead(d);
    if (!d.good || !d.left.empty() || !date.ok())
        return std::nullopt;
    return std::chrono::sys_days(date);
}

std::string dayText(std::chrono::sys_days day) {
    return utcText(std::chrono::milliseconds(day.time_since_epoch()).count()).substr(0, 10);
}

std::optional<std::int64_t> utcMs(std::string_view text) {
    using namespace std::chrono;
    Digits d{text};
    const auto date = dateAhead(d);
    d.need("Tt ");
    const int hour = d.number(2, 0, 23);
    d.need(":");
    const int minute = d.number(2, 0, 59);
    const int second = d.take(":") ? d.number(2, 0, 60) : 0;
    const int ms = d.take(".,") ? fractionMs(d) : 0;
    const int east = offsetMinutes(d);
    if (!d.good || !d.left.empty() || !date.ok())
        return std::nullopt;
    const auto at = sys_days{date} + hours{hour} + minutes{minute - east} + seconds{second};
    return duration_cast<milliseconds>(at.time_since_epoch()).count() + ms;
}

std::string utcText(std::int64_t ms) {
    using namespace std::chrono;
    const sys_time<milliseconds> at{milliseconds{ms}};
    const auto day = floor<days>(at);
    const year_month_day date{day};
    const hh_mm_ss time{at - day};
    const auto digits = [](auto value, int places) {
        std::string text = std::to_string(value);
        return std::string(static_cast<std::size_t>(std::max(0, places - int(text.size()))), '0') +
               text;
    };
    return digits(int(date.year()), 4) + '-' + digits(unsigned(date.month()), 2) + '-' +
           digits(unsigned(date.day()), 2) + 'T' + digits(time.hours().count(), 2) + ':' +
           digits(time.minutes().count(), 2) + ':' + digits(time.seconds().count(), 2) + '.' +
           digits(time.subseconds().count(), 3) + 'Z';
}

} // namespace burin
