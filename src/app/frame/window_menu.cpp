// The Job menu, the keys of the window, and the page that tells them.
#include "app/frame/key_page.h"
#include "app/frame/window.h"
#include "app/frame/working_view.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "files/data_folder.h"
#include <QActionGroup>
#include <QLocale>
#include <QMenu>
#include <QShortcut>

namespace burin {

void Window::makeMenu(QToolButton* button) {
    auto* menu = new QMenu(button);
    const auto add = [&](const QString& text, const QKeySequence& key, auto slot) {
        auto* action = menu->addAction(text, this, slot);
        action->setShortcut(key);
        addAction(action);
        return action;
    };
    add(tr("New job…"), QKeySequence::New, [this] { newJob(); });
    add(tr("Open…"), QKeySequence::Open, [this] { openJob(); });
    auto* recent = menu->addMenu(tr("Recent jobs"));
    connect(recent, &QMenu::aboutToShow, this, [this, recent] { fillRecent(recent); });
    add(tr("Open the last again"), QKeySequence(QStringLiteral("Ctrl+Shift+O")),
        [this] { reopenLast(); });
    add(tr("Save a copy…"), QKeySequence(QStringLiteral("Ctrl+Shift+S")), [this] { saveCopy(); });
    add(tr("Merge a copy…"), QKeySequence(QStringLiteral("Ctrl+J")), [this] { joinCopy(); });
    add(tr("To decide"), {}, [this] { showOpenEnds(); });
    add(tr("Import JSON…"), {}, [this] { importJob(); });
    add(tr("Export JSON…"), {}, [this] { exportJob(); });
    menu->addSeparator();
    undo_ = add(tr("Undo"), QKeySequence::Undo, [this] { session_.undo(); });
    redo_ =
        add(tr("Redo"), QKeySequence(QStringLiteral("Ctrl+Shift+Z")), [this] { session_.redo(); });
    add(tr("Logbook"), {}, [this] { session_.store().askLog(); });
    connect(&session_.store(), &StoreThread::logRead, this,
            [this](const QString& text) { showText(this, tr("Logbook"), text); });
    menu->addSeparator();
    const auto choices = [&](const QString& title, const QStringList& names, auto current,
                             auto choose) {
        auto* sub = menu->addMenu(title);
        auto* group = new QActionGroup(sub);
        for (int i = 0; i < names.size(); ++i) {
            auto* action = sub->addAction(names[i], this, [choose, i] { choose(i); });
            action->setCheckable(true);
            group->addAction(action);
        }
        connect(sub, &QMenu::aboutToShow, this, [this, sub, current] {
            if (session_.hasJob())
                sub->actions()[current()]->setChecked(true);
        });
    };
    choices(
        tr("Limits"), {tr("ISO/IEC 11801"), tr("ANSI/TIA-568")},
        [this] { return static_cast<int>(session_.job().info.limitSet); },
        [this](int i) {
            changeInfo(QStringLiteral("limit set"),
                       [i](JobInfo& info) { info.limitSet = static_cast<LimitSet>(i); });
        });
    choices(
        tr("10 Gbit/s on Cat 6"),
        {tr("guideline: 55 m, in large bundles 37 m"),
         tr("cautious: 50 m with two neighbours, else 37 m"), tr("loss alone")},
        [this] { return static_cast<int>(session_.job().info.school); },
        [this](int i) {
            changeInfo(QStringLiteral("school"),
                       [i](JobInfo& info) { info.school = static_cast<BundleSchool>(i); });
        });
    choices(
        tr("Pin order"), {tr("T568B"), tr("T568A")},
        [this] { return session_.job().info.wiringA ? 1 : 0; },
        [this](int i) {
            changeInfo(QStringLiteral("pin order"), [i](JobInfo& info) { info.wiringA = i == 1; });
        });
    menu->addSeparator();
    add(tr("Cable from its datasheet…"), {}, [this] { addUserCable(); });
    fillLanguages(menu);
    menu->addSeparator();
    add(tr("Pictures and keys (F1)"), {}, [this] { showKeys(); });
    button->setMenu(menu);
}

void Window::makeShortcuts() {
    const auto on = [&](const QKeySequence& key, auto slot) {
        connect(new QShortcut(key, this), &QShortcut::activated, this, slot);
    };
    for (int i = 0; i < stages_.size(); ++i)
        on(QKeySequence(QStringLiteral("Ctrl+%1").arg(i + 1)), [this, i] { showStage(i); });
    on(QKeySequence(Qt::Key_Insert), [this] { runs_->focusAdd(); });
    on(QKeySequence::Find, [this] { runs_->focusFind(); });
    on(QKeySequence::ZoomIn, [] { Theme::instance().setScale(Theme::instance().scale() + 0.1); });
    on(QKeySequence(QStringLiteral("Ctrl+=")),
       [] { Theme::instance().setScale(Theme::instance().scale() + 0.1); });
    on(QKeySequence(Qt::Key_F1), [this] { showKeys(); });
    on(QKeySequence::ZoomOut, [] { Theme::instance().setScale(Theme::instance().scale() - 0.1); });
}

void Window::showKeys() {
    const StageView& view = stages_[line_->current()];
    showKeyPage(
        this, view.name, view.widget->keys(),
        {{tr("Ctrl+1 to Ctrl+%1").arg(stages_.size()), tr("the stages")},
         {tr("Insert"), tr("type a run, or the name of a room behind its letters")},
         {tr("Ctrl+F"), tr("find a run")},
         {tr("F2, Ctrl+D, Delete"), tr("in the list: rename, one more like it, take away")},
         {tr("Ctrl+Left, Ctrl+Right, Enter"), tr("on the strip: the run shorter, longer, kept")},
         {tr("Ctrl+Z, Ctrl+Shift+Z"), tr("take back, do again")},
         {tr("Ctrl+N, Ctrl+O, Ctrl+Shift+O"), tr("a new job, another, the last one again")},
         {tr("Ctrl+Shift+S, Ctrl+J"), tr("save a copy, merge one")},
         {tr("Ctrl+U, Ctrl+L"), tr("metric or imperial, light or dark")},
         {tr("Ctrl++, Ctrl+=, Ctrl+-"), tr("larger, smaller")},
         {tr("F1"), tr("this page")}});
}

/// Where there is more than one, each under its own name.
void Window::fillLanguages(QMenu* menu) {
    const QStringList codes = languagesIn(languageFolder());
    if (codes.size() < 2)
        return;
    auto* sub = menu->addMenu(tr("Language"));
    sub->menuAction()->setObjectName(QStringLiteral("languages"));
    auto* group = new QActionGroup(sub);
    for (const auto& code : codes) {
        auto* action = sub->addAction(nameOfLanguage(code));
        action->setCheckable(true);
        action->setChecked(code == languageSpoken());
        action->setData(code);
        group->addAction(action);
        connect(action, &QAction::triggered, this, [this, code] { emit languageChosen(code); });
    }
}

} // namespace burin
