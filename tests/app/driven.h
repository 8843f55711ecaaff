#pragma once
#include "app/application.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "files/faces.h"
#include <QComboBox>
#include <QFile>
#include <QRegularExpression>
#include <QSettings>
#include <QTemporaryDir>
#include <QTest>

// The disk may take its time on a busy machine; what comes late is still right.
#define SOON_COMPARE(a, b) QTRY_COMPARE_WITH_TIMEOUT(a, b, 30000)
#define SOON_VERIFY(a) QTRY_VERIFY_WITH_TIMEOUT(a, 30000)

namespace burin {

/// What English a screen's text is of: as it is, or taken back from the made-up language where the
/// set is run in that (BURIN_SPEAK).
inline QString english(QString text) {
    if (languageSpoken() != QLatin1String("made-up"))
        return text;
    static const QString marked = QStringLiteral("áéíöüýñçšÁÉÍÖÜÝÑÇŠ");
    static const QString plain = QStringLiteral("aeiouyncsAEIOUYNCS");
    static const QRegularExpression marks(QStringLiteral("·*›|‹"));
    static const QRegularExpression comma(QStringLiteral("(\\d),(\\d)"));
    for (auto& letter : text)
        if (const auto at = marked.indexOf(letter); at >= 0)
            letter = plain[at];
    return text.remove(marks).replace(comma, QStringLiteral("\\1.\\2"));
}
/// Where a list has a choice that reads so; −1 where it has none.
inline int choiceIn(const QComboBox* box, const QString& text) {
    for (int i = 0; i < box->count(); ++i)
        if (english(box->itemText(i)) == text)
            return i;
    return -1;
}

/// The stages that are built, in their order.
enum BuiltStage { surveyStage, budgetStage, pullStage, terminateStage, testStage, stageCount };

/// An application of its own for each test, with a job in a folder that goes with it.
class Driven : public QObject {
public:
    explicit Driven(int stage) : stage_(stage) {}

protected:
    QTemporaryDir folder_;
    std::unique_ptr<Application> app_;
    int count_ = 0;

    Session& session() { return app_->session; }
    const Job& job() { return app_->session.job(); }
    template <typename T> T* find(const char* name) {
        T* widget = app_->window->findChild<T*>(QLatin1String(name));
        if (widget == nullptr)
            qFatal("no widget %s", name);
        return widget;
    }
    QString path() { return folder_.filePath(QStringLiteral("job%1.burin").arg(count_)); }
    void start() {
        ++count_;
        if (const QString language = qEnvironmentVariable("BURIN_SPEAK"); !language.isEmpty())
            QVERIFY(speak(language, {}));
        QSettings::setPath(QSettings::IniFormat, QSettings::UserScope, folder_.path());
        auto catalogue = loadCatalogue(BURIN_CATALOGUE);
        QVERIFY(catalogue.has_value());
        app_ = std::make_unique<Application>(*catalogue);
        app_->window->showStage(stage_);
        app_->window->show();
        // Without a window manager nobody makes a window active, and shortcuts wait for one.
        QApplication::setActiveWindow(app_->window.get());
    }
    void startEmpty() {
        start();
        session().store().create(path(), QStringLiteral("Test"));
        SOON_VERIFY(session().hasJob());
        app_->window->showStage(stage_); // past the ways to begin
    }
    void startFrom(const QString& file) {
        start();
        session().store().importJson(file, path());
        SOON_VERIFY(session().hasJob());
        SOON_COMPARE(session().findings().size(), job().runs.size());
    }
    void startDemo() { startFrom(QStringLiteral(BURIN_SOURCE "/demo/kittiwake.json")); }

private:
    int stage_;
};

} // namespace burin
