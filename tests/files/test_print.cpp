#include "core/catalogue/catalogue.h"
#include "core/finding/days.h"
#include "files/job_export.h"
#include "files/paper.h"
#include "files/pull_print.h"
#include <QFontDatabase>
#include <QGuiApplication>
#include <QTemporaryDir>
#include <QTest>
#include <memory>
#include <poppler-qt6.h>

using namespace burin;

/// What goes on paper, read back from the PDF: sizes, words, pages.
class TestPrint : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    Catalogue catalogue_;
    Job job_;
    SitePlan site_;
    PullPlan plan_;

    static constexpr double pointsPerMm = 72 / 25.4;

    static std::unique_ptr<Poppler::Document> read(const std::string& bytes) {
        auto out = Poppler::Document::loadFromData(QByteArray::fromStdString(bytes));
        if (!out)
            qFatal("no PDF");
        return out;
    }
    static QString textOf(const Poppler::Document& pdf) {
        QString out;
        for (int i = 0; i < pdf.numPages(); ++i)
            out += std::unique_ptr<Poppler::Page>(pdf.page(i))->text({});
        return out;
    }
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
        for (const char* face : {"B612-Regular", "B612-Bold"})
            QVERIFY(
                QFontDatabase::addApplicationFont(
                    QStringLiteral(BURIN_SOURCE "/assets/fonts/%1.otf").arg(QLatin1String(face))) >=
                0);
        catalogue_ = *loadCatalogue(BURIN_CATALOGUE);
        QFile file(QStringLiteral(BURIN_SOURCE "/demo/kittiwake.json"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        auto store = importJob(file.readAll().toStdString(), "kittiwake.json",
                               folder_.filePath(QStringLiteral("demo.burin")), "t");
        QVERIFY(store.has_value());
        job_ = (*store)->job();
        site_ = planSite(job_, catalogue_);
        plan_ = planPulls(job_, catalogue_, site_);
    }

    void labelsAreTheSizeTheySayAndHoldTheirWords() {
        auto labels = endLabels(job_);
        QCOMPARE(labels.size(), 4 * job_.runs.size());
        labels[0].here = "a very long name of a place that goes on and on, µΩ ≤ 3, port 27 left";
        labels[0].label = "VERYLONG-D0001";
        for (const auto& sheet : catalogue_.labels) {
            const auto pdf = read(labelsPdf(labels, sheet, "Kittiwake Wharf"));
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
            const auto pdf = read(pullListPdf(job_, plan_, site_, UnitSystem::Metric, size));
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
            textOf(*read(pullListPdf(job_, plan_, site_, UnitSystem::Imperial, PaperSize::A4)));
        QVERIFY(feet.contains(QStringLiteral("212.0 ft"))); // 64.6 m
    }

    void materialsAndDaysArePrinted() {
        const auto lines = findMaterials(job_, catalogue_, site_, plan_);
        const QString text = textOf(*read(materialsPdf(lines, job_, PaperSize::A4)));
        for (const auto& line : lines)
            QVERIFY2(text.simplified().contains(
                         QString::fromStdString(line.name).split(QLatin1Char(' ')).front()),
                     line.name.c_str());
        const auto days =
            planDays(job_, catalogue_, plan_, closings(job_, site_, {}), "2026-11-24");
        QVERIFY(days.has_value());
        const QString when = textOf(*read(daysPdf(*days, job_, plan_, PaperSize::A4)));
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
        const auto pdf = read(paper.bytes());
        QString got;
        for (const auto& [box, word] : wordsOf(*pdf, 0)) {
            got += word + QLatin1Char(' ');
            QVERIFY(QRectF(1.5, 1, 21, 8).contains(box));
        }
        QCOMPARE(got.trimmed(), text);
    }
};

int main(int argc, char** argv) {
    qputenv("FONTCONFIG_FILE", BURIN_SOURCE "/assets/fonts/none.conf");
    QGuiApplication app(argc, argv);
    TestPrint test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_print.moc"
