#include "app/driven.h"
#include "app/terminate/end_checks.h"
#include "app/terminate/end_list.h"
#include "app/terminate/screen_scale.h"
#include <QDragEnterEvent>
#include <QMimeData>

using namespace burin;

/// Drives the Terminate stage: the card of an end, its connector, its drawing at true size.
class TestTerminate : public Driven {
    Q_OBJECT
public:
    TestTerminate() : Driven(terminateStage) {}

private:
    void choose(const char* label) {
        session().select(job().runLabelled(label)->id, {});
        SOON_VERIFY(english(find<QLabel>("endHead")->text()).contains(QStringLiteral(" on ")));
    }
    [[nodiscard]] QString text(const char* name) { return english(find<QLabel>(name)->text()); }
    [[nodiscard]] QString proofsSaid() {
        QStringList out;
        for (const auto* label : find<EndChecks>("endChecks")->findChildren<QLabel*>())
            if (label->isVisible())
                out << english(label->text());
        return out.join(QLatin1Char('\n'));
    }
    EndList* ends() { return find<EndList>("ends"); }
    /// The row whose words begin so; −1: none.
    int rowOf(const QString& begins, const QString& holds = {}) {
        for (int i = 0; i < ends()->model()->rowCount(); ++i) {
            const QString all =
                english(ends()->model()->index(i, 0).data(Qt::AccessibleTextRole).toString());
            if (all.startsWith(begins) && all.contains(holds))
                return i;
        }
        return -1;
    }
    void clickRow(int row) {
        QVERIFY(row >= 0);
        const QModelIndex index = ends()->model()->index(row, 0);
        ends()->scrollTo(index);
        QTest::mouseClick(ends()->viewport(), Qt::LeftButton, {},
                          ends()->visualRect(index).center());
    }
    const EndWork* work(const char* label, End end) {
        const Run* run = job().runLabelled(label);
        const auto findings = session().jobFindings();
        return run == nullptr || !findings ? nullptr : findings->ends.find(run->id, end);
    }
    EndState state(const char* label, End end) {
        const EndWork* found = work(label, end);
        return found == nullptr ? EndState::Unrecorded : found->state;
    }
    /// A panel of so many ports and a run to each, on one floor.
    void startPanel(int ports) {
        startEmpty();
        Edit edit{"panel", {}};
        const auto add = [&](const auto& row) {
            edit.changes.push_back(
                put(std::optional<std::decay_t<decltype(row)>>(), std::optional(row)));
        };
        Floor floor;
        floor.id = floor.name = "g";
        floor.widthM = floor.depthM = 20;
        add(floor);
        Place panel;
        panel.id = "p";
        panel.name = "panel A";
        panel.kind = PlaceKind::Panel;
        panel.floorId = "g";
        panel.ports = ports;
        add(panel);
        Room room;
        room.id = "r";
        room.letters = "SL";
        room.name = "Sail loft";
        add(room);
        for (int i = 1; i <= ports; ++i) {
            Run run;
            run.id = "run" + std::to_string(i);
            run.label = "SL-D" + std::to_string(100 + i);
            run.roomId = "r";
            run.cableId = "cat6-utp";
            run.serviceId = "1g";
            run.order = i;
            run.near.placeId = "p";
            run.near.port = i;
            add(run);
        }
        session().commit(edit);
        SOON_VERIFY(rowOf(QStringLiteral("panel A, %1 of %1").arg(ports)) == 0);
    }
    /// How far apart the ticks at the ends of the lines in a picture of it are that are longer than
    /// `least`, in its device pixels.
    static QList<double> linesOf(QWidget& view, double density, double least) {
        QImage image(view.size() * density, QImage::Format_Grayscale8);
        image.setDevicePixelRatio(density);
        image.fill(Qt::white);
        view.render(&image);
        const auto dark = [&](int x, int y) { return 255.0 - image.constScanLine(y)[x]; };
        // The middle of a tick, a little above its line.
        const auto middle = [&](int x, int y) {
            double sum = 0;
            double weighed = 0;
            const int reach = static_cast<int>(std::ceil(2 * density));
            for (int i = std::max(0, x - reach); i <= std::min(image.width() - 1, x + reach); ++i) {
                const double d = dark(i, y) < 16 ? 0 : dark(i, y);
                sum += d;
                weighed += d * (i + 0.5);
            }
            return sum > 0 ? weighed / sum : -1.0;
        };
        QList<double> out;
        const int up = static_cast<int>(std::lround(2 * density));
        for (int y = up; y < image.height(); ++y)
            for (int x = 0; x < image.width();) {
                const int from = x;
                while (x < image.width() && dark(x, y) > 20)
                    ++x;
                if (x - from > least) {
                    const double left = middle(from, y - up);
                    const double right = middle(x - 1, y - up);
                    if (left >= 0 && right >= 0)
                        out << right - left;
                }
                x = std::max(x, from + 1);
            }
        return out;
    }
    static QString picture(const QTemporaryDir& folder) {
        const QString path = folder.filePath(QStringLiteral("panel.png"));
        QImage image(40, 30, QImage::Format_RGB32);
        image.fill(Qt::gray);
        image.save(path);
        return path;
    }
    std::string connectorOf(const char* label, End end) {
        const Run* run = job().runLabelled(label);
        return findEnd(*run, end, session().catalogue()).card.connection->id;
    }
    void takeConnector(const char* id) {
        auto* list = find<QComboBox>("endConnector");
        const int index = list->findData(QLatin1String(id));
        QVERIFY2(index >= 0, id);
        list->setCurrentIndex(index);
        emit list->activated(index);
    }

private slots:
    void cleanup() { app_.reset(); }

    void theCardOfAnEndIsOneChoiceAway() {
        startDemo();
        choose("SL-C01");
        QCOMPARE(text("endHead"), QStringLiteral("F, compression on Series 6, standard shield"));
        QVERIFY(english(find<EndView>("endView")->accessibleDescription())
                    .contains(QStringLiteral("centre bare: 6.4 mm · 0.25 in")));
        QVERIFY(text("endFirst").startsWith(QStringLiteral("First: ")));
        SOON_VERIFY(proofsSaid().contains(
            QStringLiteral("pin beyond the nut's face: 1.6–3.2 mm · 0.06–0.13 in")));
        QVERIFY(!find<PinsView>("pins")->isVisible());
        // Pins, in the order of the job, both for data and for what uses fewer.
        choose("SL-D01");
        QVERIFY(find<PinsView>("pins")->isVisible());
        QVERIFY(english(find<PinsView>("pins")->accessibleName())
                    .contains(QStringLiteral("1 white-orange, 2 orange")));
        choose("CR-T01");
        QVERIFY(english(find<EndView>("endView")->accessibleDescription())
                    .contains(QStringLiteral("at most 6 mm")));
    }

    /// The section stands beside the end, or is left out: never on its words.
    void theSectionIsThereWhereThereIsRoom() {
        startDemo();
        choose("SL-C01");
        const auto* view = find<EndView>("endView");
        for (const QSize size : {QSize(1280, 800), QSize(1100, 650), QSize(1920, 1080)}) {
            app_->window->resize(size);
            SOON_COMPARE(app_->window->size(), size);
            QTest::qWait(50);
            QVERIFY(!view->showsSection() || view->tipPx() < view->sectionPx());
        }
        QVERIFY(view->showsSection());
    }

    void endsByKey() {
        startDemo();
        choose("SL-C01");
        QVERIFY(!find<QPushButton>("nearEnd")->isEnabled());
        QTest::keyClick(app_->window.get(), Qt::Key_E, Qt::ControlModifier);
        SOON_VERIFY(find<QPushButton>("nearEnd")->isEnabled());
        QVERIFY(!find<QPushButton>("farEnd")->isEnabled());
        QTest::mouseClick(find<QPushButton>("nearEnd"), Qt::LeftButton);
        QVERIFY(!find<QPushButton>("nearEnd")->isEnabled());
    }

    void aConnectorIsAdoptedForOneEndAndForAllAlike() {
        startDemo();
        choose("SL-C01");
        takeConnector("f-crimp");
        SOON_COMPARE(connectorOf("SL-C01", End::Near), std::string("f-crimp"));
        QCOMPARE(connectorOf("SL-C01", End::Far), std::string("f-compression"));
        QCOMPARE(connectorOf("SO-C01", End::Near), std::string("f-compression"));
        SOON_VERIFY(text("endHead").startsWith(QStringLiteral("F, crimp")));
        QTest::mouseClick(find<QPushButton>("alikeConnector"), Qt::LeftButton);
        SOON_COMPARE(connectorOf("SO-C01", End::Near), std::string("f-crimp"));
        QCOMPARE(connectorOf("SO-C01", End::Far), std::string("f-compression"));
        QCOMPARE(connectorOf("RF-C02", End::Near), std::string("f-compression")); // another cable
        session().undo();
        SOON_COMPARE(connectorOf("SO-C01", End::Near), std::string("f-compression"));
        // In its room alone: CR-C01 and CR-C02 are of another.
        choose("CR-C01");
        takeConnector("f-crimp");
        SOON_COMPARE(connectorOf("CR-C01", End::Near), std::string("f-crimp"));
        QTest::mouseClick(find<QPushButton>("roomConnector"), Qt::LeftButton);
        SOON_COMPARE(connectorOf("CR-C02", End::Near), std::string("f-crimp"));
        QCOMPARE(connectorOf("SO-C01", End::Near), std::string("f-compression"));
        for (int i = 0; i < 2; ++i)
            session().undo();
        SOON_COMPARE(connectorOf("CR-C01", End::Near), std::string("f-compression"));
        session().undo();
        SOON_COMPARE(connectorOf("SL-C01", End::Near), std::string("f-compression"));
    }

    void whatDoesNotFitSaysSo() {
        startDemo();
        const auto open = std::find_if(job().runs.begin(), job().runs.end(), [](const Run& run) {
            return run.cableId == "coax-s6" && run.piece.boxId.empty();
        });
        QVERIFY(open != job().runs.end());
        const std::string label = open->label;
        choose(label.c_str());
        QVERIFY(!find<QLabel>("endFit")->isVisible());
        const Run before = *session().pending().runLabelled(label);
        Run after = before;
        after.cableId = "coax-rg174";
        session().commit(Edit{"cable", put(std::optional(before), std::optional(after))});
        SOON_VERIFY(find<QLabel>("endFit")->isVisible());
        QVERIFY(text("endFit").contains(QStringLiteral("Does not fit: ")));
    }

    void whatIsThereIsNamedThoughItIsNotOffered() {
        startDemo();
        choose("FD-V01");
        const Run before = *session().pending().runLabelled("FD-V01");
        Run after = before;
        after.connections.front().connectionId = "block-110";
        session().commit(Edit{"block", put(std::optional(before), std::optional(after))});
        SOON_VERIFY(text("endHead").startsWith(QStringLiteral("110 block")));
        QVERIFY(english(find<QComboBox>("endConnector")->currentText())
                    .startsWith(QStringLiteral("110 block")));
    }

    void nothingChosenAndNoCable() {
        startEmpty();
        auto* addRun = find<QLineEdit>("addRun");
        addRun->setFocus();
        QTest::keyClicks(addRun, QStringLiteral("SL-D01 20 m cat6-utp 1g"));
        QTest::keyClick(addRun, Qt::Key_Return);
        SOON_COMPARE(job().runs.size(), std::size_t(1));
        SOON_VERIFY(text("endHead").startsWith(QStringLiteral("Cat 6")));
        Run after = job().runs[0];
        after.cableId.clear();
        session().commit(Edit{"cable", put(std::optional(job().runs[0]), std::optional(after))});
        SOON_VERIFY(text("endHead").contains(QStringLiteral("has no cable yet")));
        QVERIFY(!find<QPushButton>("printCard")->isEnabled());
    }

    void aPanelIsMadeInAFewActions() {
        startPanel(48);
        int actions = 0;
        const auto press = [&](Qt::Key key) {
            QTest::keyClick(ends(), key);
            ++actions;
        };
        clickRow(0);
        ++actions;
        press(Qt::Key_Space);
        SOON_VERIFY(rowOf(QStringLiteral("panel A, 0 of 48")) == 0);
        QCOMPARE(job().terminations.size(), std::size_t(48));
        QCOMPARE(job().terminations.front().madeOn, session().today());
        // One of them is spoiled and made again, …
        clickRow(5);
        ++actions;
        press(Qt::Key_X);
        SOON_COMPARE(state("SL-D105", End::Near), EndState::ToMake);
        press(Qt::Key_Space);
        SOON_COMPARE(state("SL-D105", End::Near), EndState::Made);
        QCOMPARE(work("SL-D105", End::Near)->spoiled, std::size_t(1));
        // … and a photograph shows them all: dropped on the panel's line.
        QTemporaryDir folder;
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(picture(folder))});
        const QPointF at = ends()->visualRect(ends()->model()->index(0, 0)).center();
        QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(ends()->viewport(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent drop(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(ends()->viewport(), &drop);
        actions += 2;
        SOON_COMPARE(job().photographs.size(), std::size_t(1));
        const auto shown = std::count_if(
            job().terminations.begin(), job().terminations.end(),
            [](const Termination& row) { return !row.photographId.empty() && !row.spoiled; });
        QCOMPARE(shown, std::ptrdiff_t(48));
        QVERIFY2(actions < 12, qPrintable(QString::number(actions)));
        // It is seen beside the end, and large by a click.
        SOON_VERIFY(find<QPushButton>("endPicture")->isVisible());
        QTest::mouseClick(find<QPushButton>("endPicture"), Qt::LeftButton);
        QVERIFY(find<QPushButton>("endPictureLarge")->isVisible());
        QTest::keyClick(find<QPushButton>("endPictureLarge"), Qt::Key_Escape);
        SOON_VERIFY(!find<QPushButton>("endPictureLarge")->isVisible());
        // All of it is one step each.
        session().undo();
        SOON_VERIFY(job().photographs.empty());
    }

    void spaceGoesOnAndWhatWasNotMadeIsTakenBack() {
        startPanel(6);
        clickRow(1);
        for (int i = 0; i < 3; ++i) {
            QTest::keyClick(ends(), Qt::Key_Space);
            SOON_COMPARE(job().terminations.size(), std::size_t(i + 1));
        }
        SOON_COMPARE(state("SL-D103", End::Near), EndState::Made);
        QCOMPARE(session().current()->label, std::string("SL-D104"));
        QCOMPARE(text("endCounts"), QStringLiteral("9 of 12 ends to make"));
        clickRow(2);
        QTest::keyClick(ends(), Qt::Key_Backspace);
        SOON_COMPARE(state("SL-D102", End::Near), EndState::ToMake);
        // What is made is not made twice by one more key.
        clickRow(1);
        QTest::keyClick(ends(), Qt::Key_Space);
        QTest::qWait(50);
        QCOMPARE(job().terminations.size(), std::size_t(2));
        // Several at once.
        clickRow(4);
        QTest::keyClick(ends(), Qt::Key_Down, Qt::ShiftModifier);
        QTest::keyClick(ends(), Qt::Key_Space);
        SOON_COMPARE(job().terminations.size(), std::size_t(4));
        SOON_COMPARE(state("SL-D105", End::Near), EndState::Made);
    }

    void whoMadeWhatWasMeasuredIsWrittenDown() {
        startDemo();
        choose("CR-D02");
        SOON_COMPARE(state("CR-D02", End::Far), EndState::Unrecorded);
        clickRow(rowOf(QStringLiteral("CR-D02"), QStringLiteral("east wall")));
        const std::size_t before = job().terminations.size();
        QTest::keyClick(ends(), Qt::Key_Backspace);
        QTest::qWait(30);
        QCOMPARE(job().terminations.size(), before);
        auto* who = find<QLineEdit>("madeBy");
        who->setText(QStringLiteral("rigger"));
        QTest::keyClick(ends(), Qt::Key_Space);
        SOON_COMPARE(state("CR-D02", End::Far), EndState::Made);
        QCOMPARE(job().terminations.back().madeBy, std::string("rigger"));
        // The list went on to the next end.
        clickRow(rowOf(QStringLiteral("CR-D02"), QStringLiteral("east wall")));
        SOON_VERIFY(text("endRecord").contains(QStringLiteral("by rigger")));
    }

    void checksAreTypedAndJudged() {
        startDemo();
        choose("SO-C01");
        clickRow(rowOf(QStringLiteral("SO-C01"), QStringLiteral("quay kiosk")));
        SOON_COMPARE(state("SO-C01", End::Far), EndState::Again);
        SOON_VERIFY(text("endSaid").contains(QStringLiteral("3.9 mm")));
        auto* pin = find<QLineEdit>("check-pin");
        QCOMPARE(english(pin->text()), QStringLiteral("3.9 mm"));
        pin->setFocus();
        pin->selectAll();
        QTest::keyClicks(pin, QStringLiteral("long"));
        QTest::keyClick(pin, Qt::Key_Return);
        QTest::qWait(30);
        QCOMPARE(state("SO-C01", End::Far), EndState::Again);
        pin->selectAll();
        QTest::keyClicks(pin, QStringLiteral("3/32 in"));
        QTest::keyClick(pin, Qt::Key_Return);
        SOON_COMPARE(state("SO-C01", End::Far), EndState::Made);
        QVERIFY(find<QCheckBox>("check-flush")->isChecked());
        QVERIFY(!find<QCheckBox>("check-pull")->isChecked());
        QTest::mouseClick(find<QCheckBox>("check-pull"), Qt::LeftButton, {}, {6, 8});
        SOON_VERIFY(work("SO-C01", End::Far)->unchecked.empty());
    }

    void toolsAreTypedAndTheirBladesChanged() {
        startPanel(2);
        QCOMPARE(text("toolsDue"), QStringLiteral("No tools are named"));
        QVERIFY(!find<QComboBox>("stripTool")->isVisible());
        QTest::mouseClick(find<QPushButton>("openTools"), Qt::LeftButton);
        auto* line = find<QLineEdit>("newTool");
        SOON_VERIFY(line->hasFocus());
        QTest::keyClicks(line, QStringLiteral("stripper S1, blades 2020-01-01"));
        QTest::keyClick(line, Qt::Key_Return);
        SOON_COMPARE(job().tools.size(), std::size_t(1));
        SOON_VERIFY(text("toolsDue").contains(QStringLiteral("change its blades")));
        QTest::keyClicks(line, QStringLiteral("hammer H"));
        QTest::keyClick(line, Qt::Key_Return);
        QCOMPARE(job().tools.size(), std::size_t(1));
        QCOMPARE(english(line->text()), QStringLiteral("hammer H"));
        line->clear();
        QTest::mouseClick(find<QPushButton>("closeTools"), Qt::LeftButton);
        // Made with them, an end says so.
        auto* strip = find<QComboBox>("stripTool");
        SOON_VERIFY(strip->isVisible());
        strip->setCurrentIndex(1);
        clickRow(1);
        QTest::keyClick(ends(), Qt::Key_Space);
        SOON_VERIFY(work("SL-D101", End::Near)->blunt);
        QCOMPARE(job().terminations.front().stripToolId, job().tools.front().id);
        QTest::mouseClick(find<QPushButton>("openTools"), Qt::LeftButton);
        QTest::mouseClick(find<QPushButton>("blades-S1"), Qt::LeftButton);
        SOON_COMPARE(text("toolsDue"), QStringLiteral("Nothing is due"));
        QCOMPARE(job().tools.front().bladesOn.back(), session().today());
        // With new ones that day, it was made with those.
        SOON_VERIFY(!work("SL-D101", End::Near)->blunt);
    }

    void lengthsOfThePartsSheetAreTyped() {
        startDemo();
        choose("RF-C01");
        QVERIFY(english(find<EndView>("endView")->accessibleDescription())
                    .contains(QStringLiteral("from the part's sheet")));
        QTest::mouseClick(find<QPushButton>("ownLengths"), Qt::LeftButton);
        auto* first = find<QLineEdit>("own-0");
        SOON_VERIFY(first->hasFocus());
        QTest::keyClicks(first, QStringLiteral("5/16 in"));
        QTest::mouseClick(find<QPushButton>("keepOwn"), Qt::LeftButton);
        QVERIFY2(job().cards.empty(), "without a source nothing is kept");
        QTest::keyClicks(find<QLineEdit>("ownSource"), QStringLiteral("sheet of 2026-03"));
        QTest::mouseClick(find<QPushButton>("keepOwn"), Qt::LeftButton);
        SOON_COMPARE(job().cards.size(), std::size_t(1));
        SOON_VERIFY(english(find<EndView>("endView")->accessibleDescription())
                        .contains(QStringLiteral("7.9 mm · 0.31 in")));
        QTest::mouseClick(find<QPushButton>("ownLengths"), Qt::LeftButton);
        QCOMPARE(english(find<QLineEdit>("ownSource")->text()), QStringLiteral("sheet of 2026-03"));
        QTest::mouseClick(find<QPushButton>("dropOwn"), Qt::LeftButton);
        SOON_VERIFY(job().cards.empty());
    }

    /// Measured against a card by keys, kept by screen, and drawn by that to half a pixel at each
    /// density.
    void aScreenIsMeasuredOnceAndHeldTo() {
        startDemo();
        choose("SL-C01");
        auto* view = find<EndView>("endView");
        screen_scale::forget(*view->screen());
        QVERIFY(!view->measured());
        QTest::mouseClick(find<QPushButton>("trueSize"), Qt::LeftButton);
        QVERIFY(text("endScale").contains(QStringLiteral("before anything is held against it")));
        QTest::mouseClick(find<QPushButton>("calibrate"), Qt::LeftButton);
        QVERIFY(view->calibrating());
        QTest::keyClick(view, Qt::Key_Escape);
        QVERIFY(!view->calibrating() && !view->measured());
        const double before = view->drawnPxPerMm();
        QTest::mouseClick(find<QPushButton>("calibrate"), Qt::LeftButton);
        for (int i = 0; i < 5; ++i)
            QTest::keyClick(view, Qt::Key_Plus);
        QTest::keyClick(view, Qt::Key_Left);
        QTest::keyClick(view, Qt::Key_Return);
        QVERIFY(!view->calibrating());
        QVERIFY(view->measured());
        const double measured = view->drawnPxPerMm();
        QVERIFY(std::abs(measured - (before + 39.5 / 85.60)) < 1e-9);
        QCOMPARE(text("endScale"), QStringLiteral("True size: hold the cable against it."));
        // At each density, and at each size of the program's words, to half a pixel: the ticks at
        // both ends of the line of the centre's 6.4 mm and of the braid's 6 mm.
        for (const double density : {1.0, 1.5, 2.0})
            for (const double scale : {1.0, 1.5, 2.0}) {
                Theme::instance().setScale(scale);
                app_->window->resize(QSize(1280, 800) * scale);
                SOON_VERIFY(view->height() >= view->minimumSizeHint().height());
                QTest::qWait(50);
                QCOMPARE(view->drawnPxPerMm(), measured);
                const QList<double> lengths = linesOf(*view, density, 4 * measured * density);
                for (const double mm : {6.4, 6.0}) {
                    const double wanted = mm * measured * density;
                    double off = wanted;
                    for (const double px : lengths)
                        off = std::min(off, std::abs(px - wanted));
                    QVERIFY2(off <= 0.5, qPrintable(QStringLiteral("%1 mm at %2, %3: %4 px off")
                                                        .arg(mm)
                                                        .arg(density)
                                                        .arg(scale)
                                                        .arg(off)));
                }
            }
        Theme::instance().setScale(1);
        app_->window->resize(1280, 800);
        // Another window on this screen knows it.
        app_.reset();
        startDemo();
        QVERIFY(find<EndView>("endView")->measured());
        QVERIFY(!screen_scale::keep(*find<EndView>("endView")->screen(), 0.2));
        QVERIFY(!screen_scale::keep(*find<EndView>("endView")->screen(), 400));
    }
};

int main(int argc, char** argv) {
    // What is measured here is nobody's screen.
    QTemporaryDir settings;
    qputenv("XDG_CONFIG_HOME", settings.path().toUtf8());
    prepareFonts(BURIN_BIN "/burin");
    QApplication application(argc, argv);
    loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts"));
    TestTerminate test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_terminate.moc"
