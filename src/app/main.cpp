#include "app/application.h"
#include "app/frame/user_settings.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "files/data_folder.h"
#include "files/faces.h"
#include "files/man_page.h"
#include "files/spoken.h"
#include <QApplication>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QSocketNotifier>
#include <QStyleFactory>
#include <QTimer>
#include <csignal>
#include <cstdio>
#include <fcntl.h>
#include <filesystem>
#include <functional>
#include <string_view>
#include <unistd.h>

namespace {

/// Takes a picture of the window once the findings are there, and ends the program.
void pictureThenQuit(burin::Application& app, const QString& file) {
    auto* timer = new QTimer(app.window.get());
    timer->setSingleShot(true);
    timer->setInterval(400);
    QObject::connect(timer, &QTimer::timeout, app.window.get(), [&app, file] {
        const bool good = app.window->grab().save(file);
        if (!good)
            std::fprintf(stderr, "burin: %s cannot be written\n", qPrintable(file));
        QApplication::exit(good ? 0 : 3);
    });
    const auto settled = [&app, timer] {
        if (app.session.curesAreIn() && app.session.cableChoices() != nullptr)
            timer->start();
    };
    QObject::connect(&app.session, &burin::Session::findingsChanged, timer, settled);
    QObject::connect(&app.session, &burin::Session::cableChoicesChanged, timer, settled);
    // An empty window has no findings to wait for.
    QTimer::singleShot(5000, timer, qOverload<>(&QTimer::start));
}

/// The border of the screen's thread: what nobody foresaw in handling an event ends in a message.
class Program : public QApplication {
public:
    using QApplication::QApplication;
    std::function<void(const QString&)> say;

    bool notify(QObject* receiver, QEvent* event) override {
        try {
            return QApplication::notify(receiver, event);
        } catch (const std::exception& unforeseen) {
            std::fprintf(stderr, "burin: %s\n", unforeseen.what());
            if (say)
                say(QObject::tr("That was not done: %1. The job is as it was.")
                        .arg(QString::fromUtf8(unforeseen.what())));
            return false;
        }
    }
};

int endPipe[2] = {-1, -1};

/// SIGTERM, SIGINT and SIGHUP (log-off, a closed terminal) close the window as its button does.
void closeWhenAsked(burin::Application& app) {
    if (::pipe2(endPipe, O_CLOEXEC | O_NONBLOCK) != 0)
        return;
    auto* asked = new QSocketNotifier(endPipe[0], QSocketNotifier::Read, &app.session);
    QObject::connect(asked, &QSocketNotifier::activated, &app.session, [&app, asked] {
        asked->setEnabled(false);
        app.window->close();
        QApplication::quit();
    });
    struct sigaction action {};
    action.sa_handler = [](int) {
        const char byte = 1;
        [[maybe_unused]] const auto done = ::write(endPipe[1], &byte, 1);
    };
    for (const int signal : {SIGTERM, SIGINT, SIGHUP})
        ::sigaction(signal, &action, nullptr);
}

/// What the program takes on its command line.
struct Options {
    QCommandLineParser parser;
    QString stage, run, dark, imperial, language, today, size, picture, paint, from;

    Options() {
        parser.setApplicationDescription(
            QObject::tr("Plan, budget and prove coax and copper links"));
        parser.addHelpOption();
        parser.addVersionOption();
        parser.addPositionalArgument(QStringLiteral("JOB"), QObject::tr("a .burin file"));
        stage = add("stage", QObject::tr("survey, budget, pull, terminate or test"), "NAME");
        run = add("run", QObject::tr("select the run of this label"), "LABEL");
        dark = add("dark", QObject::tr("dark set"));
        imperial = add("imperial", QObject::tr("feet and °F"));
        language = add("language", QObject::tr("of the screen, as en"), "CODE");
        today = add("today", QObject::tr("the day work is laid out from"), "DATE");
        size = add("size", QObject::tr("window size, 1280x800"), "WxH");
        picture = add("screenshot", QObject::tr("save a picture and end"), "FILE");
        from = add("import", QObject::tr("make JOB of this export where it is not there yet"),
                   "EXPORT");
        paint = add("first-paint", QObject::tr("say when the job was first painted, and end"));
    }
    QString add(const char* name, const QString& what, const char* value = nullptr) {
        parser.addOption(
            {QLatin1String(name), what, value != nullptr ? QLatin1String(value) : QString()});
        return QString::fromLatin1(name);
    }
};

/// What was asked for, else what the user chose last, else the system's language, else English.
void speakFirst(const QString& asked) {
    const QString folder = burin::languageFolder();
    if (!asked.isEmpty() && burin::speak(asked, folder))
        return;
    if (!asked.isEmpty())
        std::fprintf(stderr, "burin: there is no language %s\n", qPrintable(asked));
    const QString system = QLocale::system().name();
    const QString chosen = burin::UserSettings().value(QStringLiteral("language")).toString();
    for (const QString& code : {chosen, system, system.section(u'_', 0, 0)})
        if (burin::languagesIn(folder).contains(code) && burin::speak(code, folder))
            return;
    burin::speak(QStringLiteral("en"), folder);
}

void nameProgram() {
    QCoreApplication::setApplicationName(QStringLiteral("burin"));
    QCoreApplication::setApplicationVersion(QStringLiteral(BURIN_VERSION));
}

/// Help, version and manual are told where there is no display too; true: that was all.
bool toldOfItself(int argc, char** argv) {
    const std::string_view asked = argc == 2 ? argv[1] : "";
    const bool manual = asked == "--man";
    if (!manual && asked != "--help" && asked != "-h" && asked != "--help-all" &&
        asked != "--version" && asked != "-v")
        return false;
    const QCoreApplication qt(argc, argv);
    nameProgram();
    Options options;
    if (!manual)
        options.parser.process(qt);                 // tells it, and ends the program
    const QString told = options.parser.helpText(); // its first lines name where it lies
    std::printf("%s", burin::manPage(
                          "burin", "plan, budget and prove coax and copper links", BURIN_VERSION,
                          {{"SYNOPSIS", "burin [OPTIONS] [JOB]"},
                           {"OPTIONS", told.mid(told.indexOf(QStringLiteral("  -"))).toStdString()},
                           {"SEE ALSO", "burin-cli(1)"}})
                          .c_str());
    return true;
}

} // namespace

int main(int argc, char** argv) {
    QElapsedTimer sinceStart;
    sinceStart.start();
    if (toldOfItself(argc, argv))
        return 0;
    std::error_code error;
    burin::prepareFonts(std::filesystem::read_symlink("/proc/self/exe", error).string());
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    Program qt(argc, argv);
    nameProgram();
    QApplication::setDesktopFileName(QStringLiteral("burin"));
    Options options;
    options.parser.process(qt);

    const std::string data = burin::dataFolder();
    auto catalogue = burin::loadCatalogue(data + "/catalogue");
    if (!catalogue) {
        std::fprintf(stderr, "burin: %s\n", said(catalogue.error()).toUtf8().constData());
        return 3;
    }
    if (!burin::loadFaces(QString::fromStdString(data + "/fonts")))
        std::fprintf(stderr, "burin: the shipped fonts are missing from %s/fonts\n", data.c_str());
    speakFirst(options.parser.value(options.language));
    burin::Theme::instance().setDark(options.parser.isSet(options.dark));
    burin::Application app(std::move(*catalogue));
    closeWhenAsked(app);
    qt.say = [&app](const QString& text) { emit app.session.message(text, true); };
    app.session.setToday(options.parser.value(options.today).toStdString());
    if (options.parser.isSet(options.imperial))
        app.window->findChild<QToolButton*>(QStringLiteral("units"))->click();
    const QStringList stages{QStringLiteral("survey"), QStringLiteral("budget"),
                             QStringLiteral("pull"), QStringLiteral("terminate"),
                             QStringLiteral("test")};
    if (const auto index = stages.indexOf(options.parser.value(options.stage)); index >= 0)
        app.window->showStage(static_cast<int>(index));
    const auto wh = options.parser.value(options.size).split(QLatin1Char('x'));
    if (wh.size() == 2)
        app.window->resize(wh[0].toInt(), wh[1].toInt());
    QObject::connect(&app.session, &burin::Session::jobOpened, app.window.get(), [&] {
        const auto* wanted =
            app.session.job().runLabelled(options.parser.value(options.run).toStdString());
        if (wanted != nullptr)
            app.session.select(wanted->id, {});
    });
    app.window->setRemembers(!options.parser.isSet(options.picture) &&
                             !options.parser.isSet(options.paint));
    if (options.parser.isSet(options.picture))
        pictureThenQuit(app, options.parser.value(options.picture));
    if (options.parser.isSet(options.paint))
        QObject::connect(
            &app.session, &burin::Session::jobOpened, app.window.get(),
            [&] {
                app.window->grab();
                std::printf("%lld ms\n", static_cast<long long>(sinceStart.elapsed()));
                QApplication::exit(0);
            },
            Qt::QueuedConnection);
    const auto jobs = options.parser.positionalArguments();
    const QString from = options.parser.value(options.from);
    if (!jobs.isEmpty() && !from.isEmpty() && !QFileInfo::exists(jobs.first()))
        app.session.store().importJson(from, jobs.first());
    else if (!jobs.isEmpty())
        app.session.store().open(jobs.first());
    else if (!from.isEmpty())
        std::fprintf(stderr, "burin: --import wants the JOB that is to be made\n");
    app.window->show();
    const int result = QApplication::exec();
    qt.say = {};
    return result;
}
