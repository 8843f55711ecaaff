// The painted widgets and small windows, each alone.
#include "app/application.h"
#include "app/budget/bus_view.h"
#include "app/budget/tree_view.h"
#include "app/frame/loss_plot.h"
#include "app/frame/user_cable.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/edit/system_edit.h"
#include "core/units/render.h"
#include "files/faces.h"
#include <QApplication>
#include <QImage>
#include <QPainter>
#include <QPlainTextEdit>
#include <QRawFont>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTest>

// The disk may take its time on a busy machine; what comes late is still right.
#define SOON_COMPARE(a, b) QTRY_COMPARE_WITH_TIMEOUT(a, b, 30000)
#define SOON_VERIFY(a) QTRY_VERIFY_WITH_TIMEOUT(a, 30000)

using namespace burin;

namespace {

QImage drawn(const std::function<void(QPainter&)>& draw) {
    QImage image(60, 24, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    draw(painter);
    return image;
}

int pixelsOf(const QImage& image, const QColor& colour) {
    int count = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            count += image.pixelColor(x, y) == colour ? 1 : 0;
    return count;
}

/// A distribution of one splitter and so many outlets, each 10 m farther away than the one before.
Job televisionJob(int outlets) {
    Job job;
    job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
    Distribution d;
    for (int i = 0; i <= outlets; ++i) {
        Run run;
        run.id = run.label = "TV" + std::to_string(i);
        run.roomId = "r";
        run.serviceId = "tv";
        run.cableId = "coax-s6";
        run.stretches = {{"tray", 10.0 * (i + 1), 20, 0, Surroundings::FreeAir}};
        job.runs.push_back(run);
        if (i == 0)
            d = newDistribution(run);
        // Eight hang on each splitter, which hangs on the one before.
        const std::string on = i == 0 ? "" : "part" + std::to_string((i - 1) / 7 * 7);
        d = hungOn(d, run, on, false);
        d.parts.back().id = "part" + std::to_string(i);
        if (i % 7 == 0) {
            d.parts.back().unit.part = TreePart::Splitter;
            d.parts.back().unit.ways = 8;
            d.parts.back().name = "splitter";
        }
    }
    d.headLevel = 74;
    job.distributions = {d};
    return job;
}

QImage grabbed(QWidget& widget) {
    return widget.grab().toImage();
}

} // namespace

class TestViews : public QObject {
    Q_OBJECT
private slots:
    void initTestCase() {
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        Theme::instance().setDark(false);
    }

    void statesDifferInFormNotColourAlone() {
        const State states[] = {State::Untested, State::Pass, State::MarginalGood,
                                State::MarginalBad, State::Fail};
        std::vector<QImage> forms;
        for (const State state : states) {
            // Black and white: what is left when colour says nothing.
            const QImage grey = drawn([state](QPainter& p) {
                                    drawState(p, QRectF(4, 4, 50, 16), state);
                                }).convertToFormat(QImage::Format_Mono, Qt::ThresholdDither);
            for (const auto& other : forms)
                QVERIFY2(grey != other, stateName(state).data());
            forms.push_back(grey);
        }
    }

    void predictionNeverLooksLikeAPass() {
        const QImage pass =
            drawn([](QPainter& p) { drawState(p, QRectF(4, 4, 50, 16), State::Pass); });
        for (const Outlook outlook :
             {Outlook::Unknown, Outlook::Holds, Outlook::Tight, Outlook::Fails}) {
            const QImage image =
                drawn([outlook](QPainter& p) { drawOutlook(p, QRectF(4, 4, 50, 16), outlook); });
            QVERIFY(image != pass);
            QCOMPARE(pixelsOf(image, lightTokens().verdigris), 0);
        }
    }

    void shareBarMarksLimitPredictionAndMeasurement() {
        const auto bar = [](double predicted, double measured) {
            return drawn(
                [=](QPainter& p) { drawShareBar(p, QRectF(0, 0, 60, 24), predicted, measured); });
        };
        const QColor copper = lightTokens().copper;
        QVERIFY(pixelsOf(bar(0.8, 0), copper) > pixelsOf(bar(0.4, 0), copper));
        QCOMPARE(pixelsOf(bar(0.5, 0), lightTokens().blue), 0);
        QVERIFY(pixelsOf(bar(0.5, 0.6), lightTokens().blue) > 10);
        QVERIFY(pixelsOf(bar(0.5, 0), lightTokens().ink) > 10);
    }

    void tapesDiffer() {
        std::vector<QImage> tapes;
        for (int i = 0; i < 15; ++i) {
            tapes.push_back(drawn([i](QPainter& p) { drawTape(p, QRectF(0, 0, 60, 24), i); }));
            for (int k = 0; k < i; ++k)
                QVERIFY2(tapes[static_cast<std::size_t>(k)] != tapes.back(),
                         qPrintable(QStringLiteral("%1 %2").arg(k).arg(i)));
        }
    }

    void stageLineByMouseAndKeys() {
        StageLine line({QStringLiteral("Budget"), QStringLiteral("Test")});
        line.resize(line.sizeHint());
        line.show();
        QSignalSpy chosen(&line, &StageLine::chosen);
        QTest::keyClick(&line, Qt::Key_Right);
        QCOMPARE(chosen.count(), 1);
        QCOMPARE(chosen.last().at(0).toInt(), 1);
        line.setCurrent(1);
        QTest::keyClick(&line, Qt::Key_Right);
        QCOMPARE(chosen.count(), 1); // nothing beyond the last
        QTest::mouseClick(&line, Qt::LeftButton, {},
                          QPoint(Theme::instance().px(40), line.height() / 2));
        QCOMPARE(chosen.last().at(0).toInt(), 0);
        line.setDone({0.0, 0.0});
        const QImage bare = line.grab().toImage();
        line.setDone({1.0, 0.5});
        QVERIFY(pixelsOf(line.grab().toImage(), lightTokens().copper) >
                pixelsOf(bare, lightTokens().copper));
    }

    void plotSaysInWordsWhatItShows() {
        LossPlot plot;
        PlotContent content;
        content.title = QStringLiteral("Insertion loss");
        content.curves.append(
            {PlotContent::Kind::Limit, QStringLiteral("limit, class E"), {1, 10, 100}, {4, 8, 24}});
        content.curves.append(
            {PlotContent::Kind::Predicted, QStringLiteral("predicted"), {1, 10, 100}, {1, 3, 12}});
        content.markText = QStringLiteral("margin 12 dB");
        plot.setContent(content);
        for (const char* word : {"Insertion loss", "limit, class E", "predicted", "margin 12 dB"})
            QVERIFY2(plot.accessibleDescription().contains(QLatin1String(word)), word);
        plot.resize(600, 300);
        plot.show();
        const QImage image = plot.grab().toImage();
        QVERIFY(pixelsOf(image, lightTokens().copper) > 100);
        QVERIFY(pixelsOf(image, lightTokens().ink) > 100);
        // Nothing measured, nothing blue; and an empty plot is no fault.
        QCOMPARE(pixelsOf(image, lightTokens().blue), 0);
        plot.setContent({});
        plot.grab();
    }

    void manyPointsAreThinnedToTheirExtremes() {
        LossPlot plot;
        PlotContent content;
        QVector<double> x;
        QVector<double> y;
        for (int i = 0; i < 20000; ++i) {
            x << 1 + i * 0.02;
            y << (i == 7777 ? 90 : 10);
        }
        content.curves.append({PlotContent::Kind::Measured, QStringLiteral("m"), x, y});
        plot.setContent(content);
        plot.resize(600, 300);
        plot.show();
        const QImage image = plot.grab().toImage();
        int spike = 0;
        for (int row = 40; row < 200; ++row)
            for (int column = 0; column < image.width(); ++column)
                spike +=
                    image.pixelColor(column, row).blue() > image.pixelColor(column, row).red() + 30
                        ? 1
                        : 0;
        QVERIFY2(spike > 40, qPrintable(QString::number(spike)));
    }

    void pairsShowWhereTheFaultIs() {
        Session session{Catalogue{}};
        PairsView view(session, nullptr);
        view.setWires(nullptr);
        QVERIFY(!view.isVisible());
        const WireFinding open = readWireMap(*parseWireMap("1234-678 s"));
        view.setWires(&open);
        view.resize(view.sizeHint());
        view.show();
        QCOMPARE(view.accessibleDescription(), QStringLiteral("5 open"));
        QVERIFY(pixelsOf(view.grab().toImage(), lightTokens().rust) > 20);
        const WireFinding whole = readWireMap(*parseWireMap("12345678"));
        view.setWires(&whole);
        QCOMPARE(pixelsOf(view.grab().toImage(), lightTokens().rust), 0);
    }

    void marginBarsAreChosenByArrowKeys() {
        MarginBars bars;
        std::vector<MarginBars::Row> rows(3);
        for (std::size_t i = 0; i < 3; ++i) {
            rows[i].result.points = 1;
            rows[i].result.unit = "dB";
            rows[i].result.accuracy = 1;
            rows[i].result.marginWorst = static_cast<double>(i) - 1;
        }
        bars.setRows(rows, {});
        bars.resize(bars.sizeHint());
        bars.show();
        QSignalSpy chosen(&bars, &MarginBars::rowChosen);
        QTest::keyClick(&bars, Qt::Key_Up);
        QCOMPARE(chosen.count(), 0);
        QTest::keyClick(&bars, Qt::Key_Down);
        QTest::keyClick(&bars, Qt::Key_Down);
        QTest::keyClick(&bars, Qt::Key_Down);
        QCOMPARE(bars.chosen(), 2);
        QTest::mouseClick(&bars, Qt::LeftButton, {}, QPoint(20, 5));
        QCOMPARE(bars.chosen(), 0);
        bars.grab();
    }

    void figuresAreEquallyWideAndParenthesesRound() {
        const QFontMetricsF metrics(Theme::instance().figures());
        for (const QChar digit : QStringLiteral("023456789"))
            QCOMPARE(metrics.horizontalAdvance(digit), metrics.horizontalAdvance(QLatin1Char('1')));
        // The point stands close: no figure is torn at it.
        QVERIFY(metrics.horizontalAdvance(QStringLiteral(".")) <
                0.7 * metrics.horizontalAdvance(QStringLiteral("1")));
        // Its own parentheses look like square brackets: those of the second face are drawn.
        const auto ours = QRawFont::fromFont(Theme::instance().text());
        QCOMPARE(ours.familyName(), QStringLiteral("B612"));
        for (const char c : {'(', ')'})
            QVERIFY(!ours.supportsCharacter(QLatin1Char(c)));
        for (const QString& text : {QStringLiteral("[]1lI0Oµ"), QStringLiteral("Ω−→≤")})
            for (const QChar c : text)
                QVERIFY(ours.supportsCharacter(c));
        QVERIFY(metrics.horizontalAdvance(QStringLiteral("(")) > 0);
    }
    void aFontThatIsNoneComesBackAsItWas() {
        QFile file(QStringLiteral(BURIN_SOURCE "/assets/fonts/B612-Regular.otf"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray font = file.readAll();
        QVERIFY(withoutCharacters(font, "()") != font);
        for (const QByteArray& other : {QByteArray(), QByteArray("font"), font.left(200)})
            QCOMPARE(withoutCharacters(other, "()"), other);
        for (qsizetype cut = 0; cut < 3000; cut += 7)
            withoutCharacters(font.left(cut), "()"); // ends, wherever it was cut
    }

    void sizeAndSetChangeTheFonts() {
        auto& theme = Theme::instance();
        const int before = theme.text().pixelSize();
        theme.setScale(1.5);
        QCOMPARE(theme.text().pixelSize(), before * 3 / 2);
        theme.setScale(9);
        QCOMPARE(theme.scale(), 2.0);
        theme.setScale(0.1);
        QCOMPARE(theme.scale(), 0.8);
        theme.setScale(1);
        QVERIFY(theme.small().pixelSize() < theme.text().pixelSize());
        QVERIFY(theme.text().pixelSize() < theme.headline().pixelSize());
    }

    void userCableFromTypedPoints() {
        QTemporaryDir folder;
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        app.session.store().create(folder.filePath(QStringLiteral("u.burin")), QStringLiteral("u"));
        SOON_VERIFY(app.session.hasJob());
        auto* window = new UserCableWindow(app.session, app.window.get());
        window->show();
        auto* points = window->findChild<QPlainTextEdit*>();
        auto* keep = window->findChild<QPushButton*>();
        QVERIFY(points != nullptr && keep != nullptr);
        QVERIFY(!keep->isEnabled());
        points->setPlainText(QStringLiteral("100 6.5\nfive hundred 14.9"));
        QVERIFY(!keep->isEnabled());
        points->setPlainText(QStringLiteral("100 6.5\n500 14.9\n1000 21.4\n"));
        QVERIFY(keep->isEnabled());
        window->findChild<QLineEdit*>()->setText(QStringLiteral("Blue drum in the van"));
        QTest::mouseClick(keep, Qt::LeftButton);
        SOON_COMPARE(app.session.job().cables.size(), 1U);
        const auto& id = app.session.job().cables[0].id;
        const Cable* cable = app.session.catalogue().cable(id);
        QVERIFY(cable != nullptr && cable->userDefined);
        QVERIFY(qAbs(attenuationDbPer100m(*cable, 500) - 14.9) < 0.3);
        app.session.undo();
        SOON_VERIFY(app.session.job().cables.empty());
    }

    void logbookTellsWhatWasDone() {
        QTemporaryDir folder;
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        app.session.store().create(folder.filePath(QStringLiteral("l.burin")), QStringLiteral("l"));
        SOON_VERIFY(app.session.hasJob());
        app.session.addRun(QStringLiteral("SL-D01 20 m"));
        SOON_COMPARE(app.session.job().runs.size(), 1U);
        app.session.undo();
        SOON_COMPARE(app.session.job().runs.size(), 0U);
        QString log;
        connect(&app.session.store(), &StoreThread::logRead, this,
                [&log](const QString& text) { log = text; });
        app.session.store().askLog();
        SOON_VERIFY(!log.isEmpty());
        QVERIFY2(log.contains(QStringLiteral("add SL-D01")), qPrintable(log));
        QVERIFY(log.contains(QStringLiteral("taken back")));
    }

    void aFileThatIsNoJobIsRefusedAndTheOldOneStays() {
        QTemporaryDir folder;
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        app.session.store().create(folder.filePath(QStringLiteral("a.burin")), QStringLiteral("a"));
        SOON_VERIFY(app.session.hasJob());
        QSignalSpy messages(&app.session, &Session::message);
        app.session.store().open(QStringLiteral(BURIN_SOURCE "/README.md"));
        SOON_COMPARE(messages.count(), 1);
        QVERIFY(messages[0][0].toString().contains(QStringLiteral("no job")));
        app.session.addRun(QStringLiteral("SL-D01 20 m"));
        SOON_COMPARE(app.session.job().runs.size(), 1U);
    }

    void manyEditsInARowAllArrive() {
        QTemporaryDir folder;
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        app.session.store().create(folder.filePath(QStringLiteral("m.burin")), QStringLiteral("m"));
        SOON_VERIFY(app.session.hasJob());
        // Faster than the disk answers: each builds on the one before.
        for (int i = 0; i < 40; ++i)
            QVERIFY(app.session.addRun(QStringLiteral("SL-D%1 20 m").arg(i)));
        SOON_COMPARE(app.session.job().runs.size(), 40U);
        QCOMPARE(app.session.job().rooms.size(), 1U);
        SOON_COMPARE(app.session.findings().size(), 40U);
    }

    void aTreeIsDrawnChosenAndScrolled() {
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        const auto catalogue = *loadCatalogue(BURIN_CATALOGUE);
        const Job job = televisionJob(6);
        const auto finding = std::make_shared<DistributionFinding>(
            findDistribution(job, job.distributions[0], catalogue));
        QVERIFY2(finding->faults.empty(),
                 finding->faults.empty() ? "" : render(finding->faults[0], {}).c_str());
        TreeView view(app.session);
        view.resize(600, 400);
        QVERIFY(!view.answers());
        const Tokens& t = Theme::instance().tokens();
        QCOMPARE(pixelsOf(grabbed(view), t.copper), 0); // nothing to show yet
        view.setFinding(&job.distributions[0], finding);
        QVERIFY(view.answers());
        QImage image = grabbed(view);
        QVERIFY(pixelsOf(image, t.copper) > 100);
        QCOMPARE(pixelsOf(image, t.rust), 0); // every outlet is in its window
        // Weaker at the head: those that get too little are in rust.
        Job weak = job;
        weak.distributions[0].headLevel = 60;
        const auto poor = std::make_shared<DistributionFinding>(
            findDistribution(weak, weak.distributions[0], catalogue));
        QVERIFY(!poor->good);
        view.setFinding(&weak.distributions[0], poor);
        QVERIFY(pixelsOf(grabbed(view), t.rust) > 20);
        // A click on a row chooses the part, arrow keys the next; the ends hold.
        QSignalSpy chosen(&view, &TreeView::partChosen);
        QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, QPoint(60, 24 + 40 + 10));
        QCOMPARE(chosen.count(), 1);
        QCOMPARE(view.chosen(), 0);
        QTest::keyClick(&view, Qt::Key_Down);
        QCOMPARE(view.chosen(), 1);
        for (int i = 0; i < 20; ++i)
            QTest::keyClick(&view, Qt::Key_Down);
        QCOMPARE(view.chosen(), 6);
        for (int i = 0; i < 20; ++i)
            QTest::keyClick(&view, Qt::Key_Up);
        QCOMPARE(view.chosen(), -1);
        QCOMPARE(view.accessibleDescription(), QStringLiteral("head"));
        // 200 outlets ask for room to be scrolled in, and are drawn as fast as a screen wants.
        const Job large = televisionJob(200);
        view.setFinding(&large.distributions[0],
                        std::make_shared<DistributionFinding>(
                            findDistribution(large, large.distributions[0], catalogue)));
        QVERIFY(view.sizeHint().height() > 200 * 24);
        // A finding of another shape than the job is not shown: it is one edit old.
        view.setFinding(&large.distributions[0], finding);
        QVERIFY(!view.answers());
    }

    void aBusIsDrawnAndWalkedAlong() {
        Application app(*loadCatalogue(BURIN_CATALOGUE));
        const auto catalogue = *loadCatalogue(BURIN_CATALOGUE);
        Job job;
        job.rooms.push_back({"r", "SL", "Sail loft", 0, 0});
        for (const char* label : {"R1", "R2"}) {
            Run run;
            run.id = run.label = run.far.text = label;
            run.roomId = "r";
            run.serviceId = "rs485";
            run.cableId = "bus-120";
            run.stretches = {{"tray", 60, 20, 0, Surroundings::FreeAir}};
            job.runs.push_back(run);
        }
        BusChain bus = goingOn(newBus(job, job.runs[0]), job, job.runs[1], 1);
        bus.devices[2].terminatorOhm = 120;
        bus.supplyV = 13.6;
        bus.devices[2].ampere = 0.3;
        bus.devices[2].leastV = 11;
        job.buses = {bus};
        const auto finding = std::make_shared<BusChainFinding>(findBusChain(job, bus, catalogue));
        QVERIFY(finding->faults.empty());
        BusView view(app.session);
        view.resize(600, 400);
        view.setFinding(&bus, finding);
        const Tokens& t = Theme::instance().tokens();
        const QImage image = grabbed(view);
        QVERIFY(pixelsOf(image, t.copper) > 200); // the wave of the device chosen
        QVERIFY(pixelsOf(image, t.rust) > 50);    // the reader that gets too few volts
        QCOMPARE(view.chosen(), 0);
        QSignalSpy chosen(&view, &BusView::deviceChosen);
        QTest::keyClick(&view, Qt::Key_Down);
        QCOMPARE(view.chosen(), 1);
        QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, QPoint(60, 400 - 12));
        QCOMPARE(view.chosen(), 2);
        QCOMPARE(chosen.count(), 2);
        QTest::keyClick(&view, Qt::Key_Down); // there is none behind the last
        QCOMPARE(view.chosen(), 2);
        QVERIFY(grabbed(view) != image);
        view.setFinding(nullptr, nullptr);
        QVERIFY(!view.answers());
        QCOMPARE(pixelsOf(grabbed(view), t.copper), 0);
    }
};

QTEST_MAIN(TestViews)
#include "test_views.moc"
