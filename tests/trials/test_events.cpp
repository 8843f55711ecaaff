// Random hands on the whole window: keys, clicks, drags and wheels over all stages. The program
// goes on, and what it shows is what it kept.
#include "app/driven.h"
#include "core/units/render.h"
#include "trials/trials.h"
#include <QAbstractButton>
#include <QApplication>
#include <QLineEdit>
#include <QMenu>
#include <QTimer>
#include <QWheelEvent>

using namespace burin;

class TestEvents : public Driven {
    Q_OBJECT
public:
    TestEvents() : Driven(surveyStage) {}

private:
    std::mt19937 dice_ = trialDice();

    QPoint anywhere(const QWidget* widget) {
        return {static_cast<int>(
                    upTo(dice_, static_cast<std::size_t>(std::max(1, widget->width() - 1)))),
                static_cast<int>(
                    upTo(dice_, static_cast<std::size_t>(std::max(1, widget->height() - 1))))};
    }
    /// What lies under a point of the window, and the point in it.
    std::pair<QWidget*, QPoint> under(const QPoint& at) {
        QWidget* window = app_->window.get();
        QWidget* widget = window->childAt(at);
        if (widget == nullptr)
            widget = window;
        return {widget, widget->mapFrom(window, at)};
    }
    Qt::KeyboardModifiers modifiers() {
        switch (upTo(dice_, 9)) {
        case 0:
            return Qt::ShiftModifier;
        case 1:
            return Qt::ControlModifier;
        default:
            return Qt::NoModifier;
        }
    }
    void key() {
        static const int keys[] = {
            Qt::Key_Return, Qt::Key_Escape, Qt::Key_Tab,   Qt::Key_Up,    Qt::Key_Down,
            Qt::Key_Left,   Qt::Key_Right,  Qt::Key_Home,  Qt::Key_End,   Qt::Key_PageUp,
            Qt::Key_Delete, Qt::Key_Insert, Qt::Key_F2,    Qt::Key_Space, Qt::Key_Backspace,
            Qt::Key_R,      Qt::Key_H,      Qt::Key_W,     Qt::Key_U,     Qt::Key_O,
            Qt::Key_Z,      Qt::Key_S,      Qt::Key_Plus,  Qt::Key_Minus, Qt::Key_0,
            Qt::Key_1,      Qt::Key_5,      Qt::Key_Period};
        static const int withControl[] = {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_Z, Qt::Key_A,
                                          Qt::Key_D, Qt::Key_U, Qt::Key_L, Qt::Key_F};
        QWidget* to = QApplication::focusWidget();
        if (to == nullptr || !app_->window->isAncestorOf(to))
            to = app_->window.get();
        if (upTo(dice_, 4) == 0)
            QTest::keyClick(to, static_cast<Qt::Key>(oneOf(dice_, withControl)),
                            Qt::ControlModifier);
        else
            QTest::keyClick(to, static_cast<Qt::Key>(oneOf(dice_, keys)), modifiers());
    }
    void type() {
        static const char* const words[] = {"SL-D90 10 m cat6a-utp 10g",
                                            "61.5",
                                            "3' 6\"",
                                            "nan",
                                            "splitter 4",
                                            "-5",
                                            "1234-678",
                                            "<b>x</b>",
                                            "cat6a-utp",
                                            "tray 12 m; riser 4 m 31 °C",
                                            "2026-11-30",
                                            "&&"};
        if (auto* field = qobject_cast<QLineEdit*>(QApplication::focusWidget())) {
            QTest::keyClicks(field, QString::fromUtf8(oneOf(dice_, words)));
            if (upTo(dice_, 1) == 0)
                QTest::keyClick(field, Qt::Key_Return);
        }
    }
    void mouse() {
        const auto [widget, at] = under(anywhere(app_->window.get()));
        // What opens files is tried by tests of its own.
        if (auto* button = qobject_cast<QAbstractButton*>(widget);
            button != nullptr && button->text().endsWith(QStringLiteral("…")))
            return;
        switch (upTo(dice_, 5)) {
        case 0:
            QTest::mouseDClick(widget, Qt::LeftButton, modifiers(), at);
            break;
        case 1:
            QTest::mouseClick(widget, Qt::RightButton, modifiers(), at);
            break;
        case 2: {
            QTest::mousePress(widget, Qt::LeftButton, modifiers(), at);
            for (int i = 0; i < 4; ++i)
                QTest::mouseMove(widget, anywhere(widget));
            QTest::mouseRelease(widget, Qt::LeftButton, Qt::NoModifier, anywhere(widget));
            break;
        }
        case 3: {
            const QPoint turn(0, upTo(dice_, 1) == 0 ? 120 : -120);
            QWheelEvent wheel(at, widget->mapToGlobal(at), {}, turn, Qt::NoButton, modifiers(),
                              Qt::NoScrollPhase, false);
            QApplication::sendEvent(widget, &wheel);
            break;
        }
        default:
            QTest::mouseClick(widget, Qt::LeftButton, modifiers(), at);
        }
    }
    void settle() {
        SOON_VERIFY(session().hasJob());
        SOON_VERIFY(session().snapshot().kept != nullptr &&
                    *session().snapshot().kept == session().pending());
    }

private slots:
    void initTestCase() {
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        Theme::instance().setDark(false);
    }
    void randomHands() {
        startDemo();
        // Menus and dialogs are closed again: nobody is there to answer them.
        QTimer closer;
        connect(&closer, &QTimer::timeout, this, [] {
            if (QWidget* popup = QApplication::activePopupWidget())
                popup->close();
            else if (QWidget* modal = QApplication::activeModalWidget())
                modal->close();
        });
        closer.start(15);
        const int most = rounds(9000, 900);
        for (int i = 0; i < most; ++i) {
            if (i % 300 == 0)
                app_->window->showStage(static_cast<int>(upTo(dice_, stageCount - 1)));
            const auto what = upTo(dice_, 9);
            if (what < 4)
                key();
            else if (what < 5)
                type();
            else
                mouse();
            if (!app_->window->isVisible())
                app_->window->show();
            if (i % 500 == 499)
                settle();
        }
        closer.stop();
        settle();
        const Job shown = *session().snapshot().kept;
        const QString file = session().snapshot().path;
        app_.reset();
        const auto kept = JobStore::open(file, Access::ReadOnly);
        QVERIFY2(kept.has_value(), kept ? "" : render(kept.error(), {}).c_str());
        QVERIFY((*kept)->job() == shown);
        qInfo("%d events, %zu runs at the end", most, shown.runs.size());
    }
};

int main(int argc, char** argv) {
    prepareFonts(BURIN_BIN "/burin");
    QApplication qt(argc, argv);
    TestEvents test;
    return QTest::qExec(&test, argc, argv);
}

#include "test_events.moc"
