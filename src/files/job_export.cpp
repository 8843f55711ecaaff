#include "files/job_export.h"
#include "core/catalogue/json_reader.h"
#include "core/job/job_json.h"
#include "files/measured_file.h"
#include <QFile>

namespace burin {
namespace {

constexpr int exportVersion = 3;

Outcome<std::vector<Attachment>> readAttachments(JsonObject& in) {
    std::vector<Attachment> out;
    const auto& files = in.array("files");
    for (std::size_t i = 0; i < files.size(); ++i) {
        JsonObject file = in.item("files", files[i], i);
        const std::string hash = file.string("hash");
        const auto decoded =
            QByteArray::fromBase64Encoding(QByteArray::fromStdString(file.string("base64")),
                                           QByteArray::AbortOnBase64DecodingErrors);
        if (!decoded)
            file.fail("base64", "is no base64", "Export the job again");
        Attachment attachment = attach(file.string("name"), decoded.decoded.toStdString());
        if (attachment.hash != hash)
            file.fail("hash", "does not fit the bytes", "The export was damaged; export it again");
        file.close();
        out.push_back(std::move(attachment));
    }
    return out;
}

} // namespace

std::string exportJob(const JobStore& store) {
    Json out;
    out["format"] = "burin-job";
    out["version"] = exportVersion;
    out["job"] = toJson(store.job());
    out["files"] = Json::array();
    for (const auto& a : store.attachments())
        out["files"].push_back(
            {{"hash", a.hash},
             {"name", a.name},
             {"base64", QByteArray::fromStdString(a.bytes).toBase64().toStdString()}});
    return out.dump(2) + "\n";
}

Outcome<std::unique_ptr<JobStore>> importJob(std::string_view text, const std::string& where,
                                             const QString& path, const std::string& who) {
    auto json = parseJson(text, where);
    if (!json)
        return refuse(json.error());
    try {
        JsonObject in(*json, where, "");
        if (in.string("format") != "burin-job")
            in.fail("format", "is not burin-job", "Give a job exported by Burin");
        const int version = in.integer("version", 1, 1000000);
        if (version > exportVersion)
            in.fail("version", "is " + std::to_string(version) + ", newer than this Burin reads",
                    "Import it with the newer Burin");
        auto job = readJob(in.need("job"), where);
        if (!job)
            return refuse(job.error());
        auto files = readAttachments(in);
        if (!files)
            return refuse(files.error());
        in.close();
        auto store = JobStore::create(path, job->info.name);
        if (!store)
            return store;
        Edit edit{"imported from " + where, {}};
        edit.changes.push_back(put(std::optional((*store)->job().info), std::optional(job->info)));
        const auto add = [&](const auto& things) {
            for (const auto& thing : things)
                edit.changes.push_back(
                    put(std::optional<std::decay_t<decltype(thing)>>{}, std::optional(thing)));
        };
        add(job->rooms);
        add(job->runs);
        add(job->measurements);
        add(job->cables);
        add(job->distributions);
        add(job->buses);
        add(job->floors);
        add(job->places);
        add(job->pathways);
        add(job->mains);
        add(job->surfaces);
        add(job->photographs);
        if (auto done = (*store)->commit(edit, who, *files); !done) {
            store->reset();
            QFile::remove(path);
            return refuse(done.error());
        }
        return store;
    } catch (const FaultThrown& thrown) {
        return refuse(thrown.fault);
    }
}

Outcome<MeasuredFile> readMeasurementFile(const JobStore& store, const Measurement& m) {
    const auto bytes = store.attachment(m.fileHash);
    if (!bytes)
        return refuse(bytes.error());
    return readMeasuredFile(*bytes, m.fileName, m.frequencyUnit);
}

} // namespace burin
