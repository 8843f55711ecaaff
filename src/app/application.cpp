#include "app/application.h"
#include "app/frame/user_settings.h"
#include "app/look/language.h"
#include <QFileInfo>

namespace burin {

Application::Application(Catalogue catalogue) : session(std::move(catalogue)) {
    makeWindow();
}

void Application::makeWindow() {
    window = std::make_unique<Window>(session, [this](QWidget* parent) {
        survey = new SurveyStage(session, parent);
        budget = new BudgetStage(session, parent);
        pull = new PullStage(session, parent);
        terminate = new TerminateStage(session, parent);
        test = new TestStage(session, parent);
        return QList<StageView>{
            {QObject::tr("Survey"), survey, Strip::Below::RunningLoss, true},
            {QObject::tr("Budget"), budget, Strip::Below::RunningLoss, false},
            {QObject::tr("Pull"), pull, Strip::Below::Force, false},
            {QObject::tr("Terminate"), terminate, Strip::Below::RunningLoss, false},
            {QObject::tr("Test"), test, Strip::Below::MeasuredLength, false}};
    });
    QObject::connect(window.get(), &Window::filesDropped, test,
                     [this](const QString& runId, const QStringList& files) {
                         session.select(runId.toStdString(), {});
                         window->showStage(4);
                         session.bringIn(runId.toStdString(), files, test->entry()->linkKind(),
                                         test->entry()->pair());
                     });
    // From the menu that goes with the window: it ends first.
    QObject::connect(
        window.get(), &Window::languageChosen, &session,
        [this](const QString& code) {
            if (!speakAs(code))
                emit session.message(
                    QObject::tr("The language %1 cannot be read. It stays as it was.").arg(code),
                    true);
        },
        Qt::QueuedConnection);
}

bool Application::speakAs(const QString& code) {
    if (!speak(code, languageFolder()))
        return false;
    UserSettings().setValue(QStringLiteral("language"), code);
    const auto old = std::move(window);
    makeWindow();
    window->takePlaceOf(*old);
    return true;
}

void prepareFonts(const std::string& programPath) {
    // The system's copy of the shipped family would come out monospaced: only ours may count.
    const QString folder = QFileInfo(QString::fromStdString(programPath)).absolutePath();
    const QString given =
        qEnvironmentVariable("BURIN_DATA", folder + QStringLiteral("/../share/burin"));
    const QString file = QFileInfo(given + QStringLiteral("/fonts/fonts.conf")).absoluteFilePath();
    if (qEnvironmentVariableIsEmpty("FONTCONFIG_FILE") && QFileInfo::exists(file))
        qputenv("FONTCONFIG_FILE", file.toUtf8());
}

} // namespace burin
