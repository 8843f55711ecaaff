#include "cli/commands.h"
#include "core/base/lookup.h"
#include "core/describe/json_reader.h"
#include "core/finding/cable_choice.h"
#include "core/site/jacket_print.h"
#include "files/data_folder.h"
#include "files/faces.h"
#include "files/job_store.h"
#include "files/picture.h"
#include "files/plan_drawing.h"
#include <QBuffer>
#include <QSvgGenerator>

namespace burin {

void loadShippedFaces() {
    loadFaces(QString::fromStdString(dataFolder()) + QStringLiteral("/fonts"));
}

namespace {

OutJson pointJson(const PlanPoint& p) {
    return OutJson::array({p.xM, p.yM});
}

PlanStyle paperStyle() {
    PlanStyle out;
    out.plate = Qt::white;
    out.rule = QColor(0xD9, 0xD1, 0xC1);
    out.ink = QColor(0x1E, 0x2B, 0x33);
    out.ink2 = QColor(0x5B, 0x67, 0x70);
    out.copper = QColor(0xA9, 0x54, 0x2A);
    out.copperSoft = QColor(0xE9, 0xCD, 0xB9);
    out.rust = QColor(0x9E, 0x2B, 0x2F);
    out.rustSoft = QColor(0xF0, 0xD3, 0xCF);
    out.ochre = QColor(0x7F, 0x56, 0x00);
    out.verdigris = QColor(0x2B, 0x7A, 0x68);
    out.small = faceOf(12);
    out.bold = faceOf(12, true);
    return out;
}

struct PlanOptions {
    std::string job, svg, floor, run;
};

void plan(const PlanOptions& o) {
    const auto store = openJob(o.job);
    const Job& job = store->job();
    const Catalogue catalogue = catalogueOf(shippedCatalogue(), job, nullptr);
    const SitePlan site = planSite(job, catalogue);
    PlanContent content;
    content.job = &job;
    content.plan = &site;
    for (const auto& floor : job.floors)
        if (content.floorId.empty() && (o.floor.empty() || floor.name == o.floor))
            content.floorId = floor.id;
    const Floor* floor = byId(job.floors, content.floorId);
    if (floor == nullptr)
        throw BadInput{
            {named(o.job),
             0,
             0,
             o.floor.empty() ? sentence({"command.job-no-floor", "the job has no floor"})
                             : sentence({"command.no-floor", "there is no floor “{0}”"}, o.floor),
             {"cure.draw-survey-name", "Draw one in Survey, or name one that is there"}}};
    if (!o.run.empty())
        content.runId = runOf(job, o.run).id;
    loadShippedFaces();
    PlanScale scale;
    scale.pxPerM = 1200 / std::max(floor->widthM, floor->depthM);
    scale.origin = {10, 10};
    const QSize size(static_cast<int>(floor->widthM * scale.pxPerM) + 20,
                     static_cast<int>(floor->depthM * scale.pxPerM) + 20);
    QSvgGenerator generator;
    QBuffer buffer;
    generator.setOutputDevice(&buffer);
    generator.setSize(size);
    generator.setViewBox(QRect(QPoint(0, 0), size));
    // The generator writes the title as it stands.
    generator.setTitle(QString::fromStdString(job.info.name + ": " + floor->name).toHtmlEscaped());
    QPainter painter(&generator);
    drawPlan(painter, content, scale, paperStyle(), QRectF(QPointF(0, 0), QSizeF(size)));
    painter.end();
    writeWhole(o.svg, buffer.data().toStdString(), {o.job});
    printBeside(o.svg, {{"drawn", o.svg},
                        {"floor", floor->name},
                        {"widthM", floor->widthM},
                        {"depthM", floor->depthM},
                        {"routes", site.routes.size()},
                        {"findings", site.findings.size()}});
}

void jacket(const std::string& text) {
    const JacketPrint read = orBadInput(readJacketPrint(text, shippedCatalogue()));
    OutJson out = {{"kind", read.kind},
                   {"screen", read.screen},
                   {"rating", read.rating},
                   {"jacket", jacketWords[read.jacket]}};
    if (!read.fireClass.empty())
        out["fireClass"] = read.fireClass;
    if (read.lowSmoke)
        out["lowSmoke"] = true;
    if (!read.warnings.empty())
        out["warnings"] = read.warnings;
    putIf(out, "awg", read.awg);
    putIf(out, "stranded", read.stranded);
    putIf(out, "pairs", read.pairs);
    putIf(out, "impedanceOhm", read.impedanceOhm);
    putIf(out, "markM", read.markM);
    out["cables"] = read.cableIds;
    out["notUnderstood"] = read.left;
    print(out);
}

struct PictureOptions {
    std::string file, out;
    int page = 1, most = 4096;
};

void picture(const PictureOptions& o) {
    const Picture read = orBadInput(readPictureFileApart(o.file, o.page - 1, o.most));
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    if (!read.image.save(&buffer, "PNG", 60))
        throw BadInput{{named(o.file),
                        0,
                        0,
                        {"picture.not-written", "the picture cannot be written as PNG"},
                        {"cure.try-another-picture", "Try another"}}};
    writeWhole(o.out, bytes.toStdString(), {o.file});
    OutJson out = {{"picture", o.out},
                   {"widthPx", read.image.width()},
                   {"heightPx", read.image.height()},
                   {"fullWidthPx", read.fullWidth},
                   {"fullHeightPx", read.fullHeight},
                   {"pages", read.pages},
                   {"scaled", read.scaled}};
    if (!read.takenOn.empty())
        out["takenOn"] = read.takenOn;
    if (!read.note.empty())
        out["note"] = read.note;
    printBeside(o.out, out);
}

} // namespace

OutJson toJson(const RunRoute& route) {
    OutJson out;
    if (route.fault) {
        out["fault"] = told(*route.fault);
        return out;
    }
    out["linkM"] = route.linkM;
    out["pullM"] = route.pullM;
    out["routeM"] = route.routeM;
    out["parts"] = OutJson::array();
    for (const auto& part : route.parts)
        out["parts"].push_back(
            {{"name", part.name}, {"lengthM", part.lengthM}, {"inLink", part.inLink}});
    out["stretches"] = OutJson::array();
    for (const auto& s : route.stretches)
        out["stretches"].push_back({{"name", s.name},
                                    {"lengthM", s.lengthM},
                                    {"temperatureC", s.temperatureC},
                                    {"bundle", s.neighbours + 1}});
    out["jacket"] = jacketWords[route.jacket];
    out["jacketWhy"] = route.jacketWhy;
    out["spareCost"] = route.spareCost;
    out["pullAgainCost"] = route.repullCost;
    return out;
}

OutJson toJson(const SiteFinding& f, const Job& job) {
    OutJson out = {{"matter", siteMatterKey(f.matter)},
                   {"bad", f.bad},
                   {"title", f.title},
                   {"reason", f.reason},
                   {"cure", f.cure}};
    if (!f.caution.empty())
        out["caution"] = f.caution;
    out["source"] = f.source;
    if (const Floor* floor = byId(job.floors, f.floorId)) {
        out["floor"] = floor->name;
        out["from"] = pointJson(f.from);
        out["to"] = pointJson(f.to);
    }
    if (f.lengthM > 0)
        out["lengthM"] = f.lengthM;
    if (f.wantedMm > 0) {
        out["haveMm"] = f.haveMm;
        out["wantedMm"] = f.wantedMm;
    }
    out["runs"] = OutJson::array();
    for (const auto& on : f.runs)
        if (const Run* run = job.run(on.runId))
            out["runs"].push_back({{"label", run->label}, {"fromM", on.fromM}, {"toM", on.toM}});
    return out;
}

OutJson toJson(const std::vector<CableChoice>& choices) {
    OutJson out = OutJson::array();
    for (const auto& c : choices)
        out.push_back({{"cable", c.cableId},
                       {"now", c.now},
                       {"holds", c.holds},
                       {"spareM", c.spareM},
                       {"jacket", jacketWords[c.jacket]},
                       {"reasons", c.reasons}});
    return out;
}

void addSiteCommands(CLI::App& app) {
    auto* planCommand = app.add_subcommand("plan", "a floor of a job as SVG");
    auto p = std::make_shared<PlanOptions>();
    planCommand->add_option("JOB", p->job)->required();
    planCommand->add_option("--svg", p->svg, "the file to write")->required();
    planCommand->add_option("--floor", p->floor, "its name; the first one without");
    planCommand->add_option("--run", p->run, "a run whose way is drawn");
    planCommand->callback([p] { plan(*p); });

    auto* jacketCommand = app.add_subcommand("jacket", "what a jacket's print says");
    auto text = std::make_shared<std::string>();
    jacketCommand->add_option("PRINT", *text)->required();
    jacketCommand->callback([text] { jacket(*text); });

    auto* pictureCommand =
        app.add_subcommand("picture", "a PNG, JPEG, SVG or PDF page as PNG of at most so many px");
    auto o = std::make_shared<PictureOptions>();
    pictureCommand->add_option("FILE", o->file)->required();
    pictureCommand->add_option("--out", o->out)->required();
    pictureCommand->add_option("--page", o->page, "of a PDF, from 1")->check(CLI::Range(1, 100000));
    pictureCommand->add_option("--most", o->most, "px on the longer side")
        ->check(CLI::Range(16, 16384));
    pictureCommand->callback([o] { picture(*o); });
}

} // namespace burin
