#include "files/job_seal.h"
#include "core/job/job_json.h"
#include "core/job/system_json.h"
#include "core/site/plan_json.h"
#include <QCryptographicHash>

namespace burin {
namespace {

constexpr qsizetype sealBytes = 16;

template <typename T> QByteArray sealOf(const T& thing) {
    const std::string text = toJson(thing).dump();
    return QCryptographicHash::hash(QByteArrayView(text.data(), qsizetype(text.size())),
                                    QCryptographicHash::Sha256)
        .left(sealBytes);
}

} // namespace

void JobSeal::mix(std::string_view kind, const QByteArray& seal) {
    auto& tally = tallies_[std::string(kind)];
    if (tally.isEmpty())
        tally.fill('\0', sealBytes);
    for (qsizetype i = 0; i < sealBytes; ++i)
        tally[i] = static_cast<char>(tally[i] ^ seal[i]);
}

void JobSeal::take(const Edit& edit) {
    for (const auto& change : edit.changes)
        std::visit(
            [&](const auto& c) {
                if (c.before)
                    mix(kindOf(change), sealOf(*c.before));
                if (c.after)
                    mix(kindOf(change), sealOf(*c.after));
            },
            change);
}

JobSeal JobSeal::of(const Job& job) {
    JobSeal out;
    everyThing(job, [&]<typename T>(const T& thing) {
        out.mix(jobKinds[AnyChange(Change<T>{}).index()], sealOf(thing));
    });
    return out;
}

QByteArray JobSeal::hex(std::string_view kind) const {
    const auto it = tallies_.find(kind);
    return (it == tallies_.end() ? QByteArray(sealBytes, '\0') : it->second).toHex();
}

QByteArray sealOfLogLine(const std::string& who, const std::string& title,
                         const std::string& editJson) {
    QCryptographicHash hash(QCryptographicHash::Sha256);
    for (const std::string* text : {&who, &title, &editJson}) {
        hash.addData(QByteArrayView(text->data(), qsizetype(text->size())));
        hash.addData(QByteArrayView("\0", 1));
    }
    return hash.result().left(sealBytes).toHex();
}

} // namespace burin
