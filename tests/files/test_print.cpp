#include "core/connector/card.h"
#include "core/finding/days.h"
#include "core/says.h"
#include "files/end_print.h"
#include "files/faces.h"
#include "files/job_export.h"
#include "files/paper.h"
#include "files/pull_print.h"
#include "printed.h"
#include <QGuiApplication>
#include <QTemporaryDir>
#include <QTest>
#include <memory>

using namespace burin;

/// What goes on paper, read back from the PDF: sizes, words, pages.
class TestPrint : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    Catalogue catalogue_;
    Job job_;
    SitePlan site_;
    PullPlan plan_;
    EndPlan ends_;

    static constexpr double pointsPerMm = 72 / 25.4;

    /// Words with where they stand, mm.
    static std::vector<std::pair<QRectF, QString>> wordsOf(const Poppler::Document& pdf, int page) {
        std::vector<std::pair<QRectF, QString>> out;
        for (const auto& word : std::unique_ptr<Poppler::Page>(pdf.page(page))->textList()) {
            const QRectF box = word->boundingBox();
            out.emplace_back(QRectF(box.x() / pointsPerMm, box.y() / pointsPerMm,
                                    box.width() / pointsPerMm, box.height() / pointsPerMm),
                             word->text());
        }
        return out;
    }

private slots:
    void initTestCase() {
        QLocale::setDefault(QLocale::c());
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        catalogue_ = *loadCatalogue(BURIN_CATALOGUE);
        QFile file(QStringLiteral(BURIN_SOURCE "/demo/kittiwake.json"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        auto store = importJob(file.readAll().toStdString(), "kittiwake.json",
                               folder_.filePath(QStringLiteral("demo.burin")), "t");
        QVERIFY(store.has_value());
        job_ = (*store)->job();
        site_ = planSite(job_, catalogue_);
        plan_ = planPulls(job_, catalogue_, site_);
        ends_ = findEndPlan(job_, catalogue_, {}, "2026-11-24");
    }

    void labelsAreTheSizeTheySayAndHoldTheirWords() {
        auto labels = endLabels(job_);
        QCOMPARE(labels.size(), 4 * job_.runs.size());
        labels[0].here = "a very long name of a place that goes on and on, µΩ ≤ 3, port 27 left";
        labels[0].label = "VERYLONG-D0001";
        for (const auto& sheet : catalogue_.labels) {
            const auto pdf = readPdf(labelsPdf(labels, sheet, "Kittiwake Wharf"));
            const auto aPage = std::size_t(sheet.columns * sheet.rows);
            QCOMPARE(pdf->numPages(), int((labels.size() + aPage - 1) / aPage));
            const QSizeF page = std::unique_ptr<Poppler::Page>(pdf->page(0))->pageSizeF();
            QVERIFY2(std::abs(page.width() / pointsPerMm - sheet.pageWidthMm) < 0.2,
                     sheet.id.c_str());
            QVERIFY2(std::abs(page.height() / pointsPerMm - sheet.pageHeightMm) < 0.2,
                     sheet.id.c_str());
            QVERIFY(textOf(*pdf).contains(QStringLiteral("SL-D03")));
            // Each word of the first page lies in the written part of some label.
            for (const auto& [box, word] : wordsOf(*pdf, 0)) {
                bool inside = false;
                for (int row = 0; row < sheet.rows; ++row)
                    for (int column = 0; column < sheet.columns; ++column)
                        inside =
                            inside || QRectF(sheet.leftMm + column * sheet.pitchXMm - 0.2,
                                             sheet.topMm + row * sheet.pitchYMm - 0.6,
                                             sheet.labelWidthMm + 0.4, sheet.printHeightMm + 1.2)
                                          .contains(box);
                QVERIFY2(inside, qPrintable(QStringLiteral("%1: %2 at %3, %4")
                                                .arg(QString::fromStdString(sheet.id), word)
                                                .arg(box.x())
                                                .arg(box.y())));
            }
            const QString text = textOf(*pdf);
            for (const QChar sign : {QChar(0xB5), QChar(0x3A9), QChar(0x2264)})
                QVERIFY2(text.contains(sign), sheet.id.c_str());
        }
    }

    void listHasEveryPullThatIsLeftAndRoomForItsMarks() {
        for (const PaperSize size : {PaperSize::A4, PaperSize::Letter}) {
            const auto pdf = readPdf(pullListPdf(job_, plan_, site_, UnitSystem::Metric, size));
            const QSizeF page = std::unique_ptr<Poppler::Page>(pdf->page(0))->pageSizeF();
            QVERIFY(std::abs(page.width() / pointsPerMm - (size == PaperSize::A4 ? 210 : 215.9)) <
                    0.2);
            const QString text = textOf(*pdf);
            for (const auto& pull : plan_.pulls)
                for (const auto& one : pull.runs)
                    QCOMPARE(text.contains(QString::fromStdString(job_.run(one.runId)->label)),
                             pull.state != PullState::Pulled);
            QVERIFY(text.contains(QStringLiteral("Care. ")));
            QVERIFY(text.contains(QStringLiteral("near 0630 ft")));
            for (int i = 0; i < pdf->numPages(); ++i)
                for (const auto& [box, word] : wordsOf(*pdf, i))
                    QVERIFY2(box.left() > 13 && box.right() < page.width() / pointsPerMm - 13 &&
                                 box.bottom() < page.height() / pointsPerMm - 13,
                             qPrintable(word));
        }
        const auto feet =
            textOf(*readPdf(pullListPdf(job_, plan_, site_, UnitSystem::Imperial, PaperSize::A4)));
        QVERIFY(feet.contains(QStringLiteral("212.0 ft"))); // 64.6 m
    }

    void materialsAndDaysArePrinted() {
        const auto lines = findMaterials(job_, catalogue_, site_, plan_, ends_);
        const QString text =
            textOf(*readPdf(materialsPdf(lines, job_, UnitSystem::Metric, PaperSize::A4)));
        for (const auto& line : lines)
            QVERIFY2(
                text.simplified().contains(
                    QString::fromStdString(english(line.name)).split(QLatin1Char(' ')).front()),
                english(line.name).c_str());
        const auto feet =
            textOf(*readPdf(materialsPdf(lines, job_, UnitSystem::Imperial, PaperSize::A4)));
        QVERIFY(text.contains(QStringLiteral(" m\n")) && !text.contains(QStringLiteral(" ft")));
        QVERIFY(feet.contains(QStringLiteral(" ft")) && !feet.contains(QStringLiteral(" m\n")));
        const auto days =
            planDays(job_, catalogue_, plan_, ends_, closings(job_, site_, {}), "2026-11-24");
        QVERIFY(days.has_value());
        const QString when =
            textOf(*readPdf(daysPdf(*days, job_, plan_, UnitSystem::Metric, PaperSize::A4)));
        QVERIFY(when.contains(QStringLiteral("Tuesday 24 November 2026")));
        QVERIFY(when.contains(QStringLiteral("SL-D03")));
    }

    void codesAreWhatTheyAreOf() {
        const auto code = squareCode("0123456789abcdef");
        QCOMPARE(code.size(), code.front().size());
        QVERIFY(code.size() >= 21);
        // Three corners carry its finder, a ring of seven around a block of three.
        for (const auto& [y, x] : {std::pair<std::size_t, std::size_t>{0, 0},
                                   {0, code.size() - 7},
                                   {code.size() - 7, 0}})
            for (std::size_t i = 0; i < 7; ++i) {
                QVERIFY(code[y][x + i] && code[y + 6][x + i] && code[y + i][x] &&
                        code[y + i][x + 6]);
                QVERIFY(code[y + 3][x + 3]);
            }
        QVERIFY(squareCode("0123456789abcdef") != squareCode("0123456789abcdee"));
    }

    void nothingIsCutHoweverLongItIs() {
        Paper paper(60, 20, QStringLiteral("t"));
        const QString text = QStringLiteral("one two three four five six seven eight nine ten");
        paper.line({2, 2, 20, 6}, text, 14);
        const auto pdf = readPdf(paper.bytes());
        QString got;
        for (const auto& [box, word] : wordsOf(*pdf, 0)) {
            got += word + QLatin1Char(' ');
            QVERIFY(QRectF(1.5, 1, 21, 8).contains(box));
        }
        QCOMPARE(got.trimmed(), text);
    }

    /// Lengths measured back from the page: the dimension lines, and the rule of 100 mm.
    void anEndIsDrawnAsLongAsItIs_data() {
        QTest::addColumn<QString>("connection");
        QTest::addColumn<QString>("cable");
        QTest::addColumn<QList<double>>("mm");
        QTest::newRow("F on quad shield") << "f-compression"
                                          << "coax-s6-quad" << QList<double>{6, 6.4, 6.4, 100};
        QTest::newRow("UHF") << "uhf"
                             << "coax-rg213" << QList<double>{11, 16, 28.6, 100};
        QTest::newRow("jack") << "conn-cat6"
                              << "cat6-utp" << QList<double>{6, 40, 100};
        QTest::newRow("screw terminal") << "screw"
                                        << "bus-120" << QList<double>{8, 100};
    }
    void anEndIsDrawnAsLongAsItIs() {
        QFETCH(QString, connection);
        QFETCH(QString, cable);
        QFETCH(QList<double>, mm);
        const CardFinding card = findCard(*catalogue_.connection(connection.toStdString()),
                                          *catalogue_.cable(cable.toStdString()), catalogue_);
        for (const PaperSize size : {PaperSize::A4, PaperSize::Letter}) {
            const auto pdf = readPdf(cardPdf(card, "Kittiwake Wharf", UnitSystem::Metric, size));
            constexpr double perInch = 600;
            constexpr double perMm = perInch / 25.4;
            const QImage page =
                std::unique_ptr<Poppler::Page>(pdf->page(0))
                    ->renderToImage(perInch, perInch, 0, 0, int(215 * perMm), int(110 * perMm))
                    .convertToFormat(QImage::Format_Grayscale8);
            // Dark runs of a row, those that go on in the rows below counted once.
            QList<double> found;
            for (int y = 0; y < page.height(); ++y) {
                const uchar* row = page.constScanLine(y);
                for (int x = 0; x < page.width();) {
                    const int from = x;
                    while (x < page.width() && row[x] < 110)
                        ++x;
                    if ((x - from) / perMm > 4)
                        found << (x - from) / perMm;
                    x = std::max(x, from + 1);
                }
            }
            // From the middle of one tick to the middle of the other: less as much as a tick is
            // thick.
            constexpr double hairMm = 3 / perMm, ruleMm = 0.2;
            for (const double length : mm)
                QVERIFY2(std::any_of(found.begin(), found.end(),
                                     [&](double f) {
                                         const double thick = length == 100 ? ruleMm : hairMm;
                                         return std::abs(f - thick - length) < 0.1;
                                     }),
                         qPrintable(QStringLiteral("no line of %1 mm").arg(length)));
            // No word over the edge.
            const double paperMm = size == PaperSize::A4 ? 210 : 215.9;
            for (int i = 0; i < pdf->numPages(); ++i)
                for (const auto& [box, word] : wordsOf(*pdf, i))
                    QVERIFY2(box.left() > 10 && box.right() < paperMm - 10, qPrintable(word));
            const QString text = textOf(*pdf);
            QVERIFY(text.contains(QStringLiteral("Kittiwake Wharf")));
            for (const auto& step : card.card->steps)
                QVERIFY2(QString(text).simplified().contains(
                             QString::fromStdString(step).section(QLatin1Char(' '), 0, 1)),
                         step.c_str());
            for (const auto& caution : card.card->cautions)
                QVERIFY(text.simplified().contains(QString::fromStdString(caution)));
        }
    }
};

int main(int argc, char** argv) {
    qputenv("FONTCONFIG_FILE", BURIN_SOURCE "/assets/fonts/none.conf");
    QGuiApplication app(argc, argv);
    TestPrint test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_print.moc"
