#include "app/driven.h"
#include "app/terminate/screen_scale.h"

using namespace burin;

/// Drives the Terminate stage: the card of an end, its connector, its drawing at true size.
class TestTerminate : public Driven {
    Q_OBJECT
public:
    TestTerminate() : Driven(terminateStage) {}

private:
    void choose(const char* label) {
        session().select(job().runLabelled(label)->id, {});
        SOON_VERIFY(find<QLabel>("endHead")->text().contains(QStringLiteral(" on ")));
    }
    [[nodiscard]] QString text(const char* name) { return find<QLabel>(name)->text(); }
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
        QVERIFY(find<EndView>("endView")->accessibleDescription().contains(
            QStringLiteral("centre bare: 6.4 mm · 0.25 in")));
        QVERIFY(text("endFirst").startsWith(QStringLiteral("First: ")));
        QVERIFY(
            text("endProofs")
                .contains(QStringLiteral("pin beyond the nut's face: 1.6–3.2 mm · 0.06–0.13 in")));
        QVERIFY(!find<PinsView>("pins")->isVisible());
        // Pins, in the order of the job, both for data and for what uses fewer.
        choose("SL-D01");
        QVERIFY(find<PinsView>("pins")->isVisible());
        QVERIFY(find<PinsView>("pins")->accessibleName().contains(
            QStringLiteral("1 white-orange, 2 orange")));
        choose("CR-T01");
        QVERIFY(find<EndView>("endView")->accessibleDescription().contains(
            QStringLiteral("at most 6 mm")));
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
        for (const double density : {1.0, 1.5, 2.0}) {
            QImage image(view->size() * density, QImage::Format_Grayscale8);
            image.setDevicePixelRatio(density);
            image.fill(Qt::white);
            view->render(&image);
            // The line of the centre's 6.4 mm and that of the braid's 6 mm, in device pixels.
            const double pixel = measured * density;
            const double tick = density; // a pixel of the screen
            QList<double> runs;
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width();) {
                    const int from = x;
                    while (x < image.width() && image.constScanLine(y)[x] < 235)
                        ++x;
                    if (x - from > 4 * pixel)
                        runs << x - from;
                    x = std::max(x, from + 1);
                }
            for (const double mm : {6.4, 6.0})
                QVERIFY2(std::any_of(runs.begin(), runs.end(),
                                     [&](double run) {
                                         return std::abs(run - tick - mm * pixel) <= density;
                                     }),
                         qPrintable(QStringLiteral("%1 mm at %2").arg(mm).arg(density)));
        }
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
    Theme::loadFonts(QStringLiteral(BURIN_SOURCE "/assets/fonts"));
    TestTerminate test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_terminate.moc"
