#include "files/job_export.h"
#include "core/describe/json_reader.h"
#include "files/measured_file.h"

namespace burin {
namespace {

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
            file.fail("base64", {"export.no-base", "is no base64"},
                      {"cure.export-job-again", "Export the job again"});
        Attachment attachment = attach(file.string("name"), decoded.decoded.toStdString());
        if (attachment.hash != hash)
            file.fail("hash", {"export.does-not-fit", "does not fit the bytes"},
                      {"cure.export-damaged-export", "The export was damaged; export it again"});
        file.close();
        out.push_back(std::move(attachment));
    }
    return out;
}

} // namespace

Outcome<Exported> exportJob(const JobStore& store) {
    const auto kept = store.attachments();
    if (!kept)
        return refuse(kept.error());
    Json out;
    out["format"] = "burin-job";
    out["version"] = formatVersion;
    out["job"] = toJson(store.job());
    out["files"] = Json::array();
    for (const auto& a : kept->files)
        out["files"].push_back(
            {{"hash", a.hash},
             {"name", a.name},
             {"base64", QByteArray::fromStdString(a.bytes).toBase64().toStdString()}});
    return Exported{out.dump(2) + "\n", kept->missing};
}

Outcome<std::unique_ptr<JobStore>> importJob(std::string_view text, const std::string& where,
                                             const QString& path, const std::string& who) {
    auto json = parseJson(text, where);
    if (!json)
        return refuse(json.error());
    try {
        JsonObject in(*json, where, "");
        if (in.string("format") != "burin-job")
            in.fail("format", {"export.not-burin-job", "is not burin-job"},
                    {"cure.give-job-exported", "Give a job exported by Burin"});
        const int version = in.integer("version", 1, 1000000);
        if (version > formatVersion)
            in.fail("version",
                    sentence({"export.newer-burin-reads", "is {0}, newer than this Burin reads"},
                             asCount(version)),
                    {"cure.import-newer-burin", "Import it with the newer Burin"});
        auto job = readJob(in.need("job"), where, version);
        if (!job)
            return refuse(job.error());
        auto files = readAttachments(in);
        if (!files)
            return refuse(files.error());
        in.close();
        *json = nullptr; // a large job need not be held twice
        return JobStore::create(path, *job, *files, "imported from " + where, who);
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
