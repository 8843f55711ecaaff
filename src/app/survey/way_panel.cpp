#include "app/survey/way_panel.h"
#include "app/frame/said.h"
#include "app/frame/working_view.h"
#include "app/look/flow_layout.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/site/jacket_print.h"
#include <QHBoxLayout>

namespace burin {
namespace {

constexpr int mostChoices = 3;
constexpr int mostMatters = 6;

} // namespace

WayPanel::WayPanel(Session& session, QWidget* parent)
    : Panel({}, parent), parts_(words(Voice::Small, this)), total_(words(Voice::Bold, this)),
      jacket_(words(Voice::Small, this)), print_(words(Voice::Small, this)),
      follow_(link({}, this)), straight_(link(tr("shortest way again"), this)),
      coiled_(link({}, this)), working_(link(tr("Working"), this)), choices_(new QWidget(this)),
      choiceList_(new QVBoxLayout(choices_)), printed_(new QLineEdit(this)), session_(session) {
    setObjectName(QStringLiteral("wayPanel"));
    follow_->setObjectName(QStringLiteral("follow"));
    straight_->setObjectName(QStringLiteral("straight"));
    coiled_->setObjectName(QStringLiteral("coiled"));
    coiled_->setToolTip(tr("Pulled for later, its end not made: neither missing nor proven"));
    printed_->setObjectName(QStringLiteral("jacketPrint"));
    printed_->setPlaceholderText(tr("print: 23 AWG 4PR CAT 6 CMR"));
    printed_->setAccessibleName(tr("Jacket print"));
    choiceList_->setContentsMargins(0, 4, 0, 0);
    choiceList_->setSpacing(2);
    body()->addWidget(total_);
    body()->addWidget(parts_);
    addToTitle(working_);
    auto* links = new FlowLayout;
    for (auto* one : {follow_, coiled_, straight_})
        links->addWidget(one);
    body()->addLayout(links);
    body()->addWidget(jacket_);
    body()->addWidget(choices_);
    body()->addWidget(printed_);
    body()->addWidget(print_);
    print_->hide();
    connect(&session, &Session::cableChoicesChanged, this, [this] {
        if (isVisible())
            showChoices();
    });
    connect(printed_, &QLineEdit::returnPressed, this, [this] { readPrint(); });
    connect(follow_, &QPushButton::clicked, this, [this] {
        const Run* run = session_.current();
        const bool follows = run != nullptr && run->followsPlan;
        session_.changeSelected(follows ? QStringLiteral("keep the length")
                                        : QStringLiteral("follow the plan"),
                                [&](Run& r) {
                                    r = session_.toType(r);
                                    r.followsPlan = !follows;
                                });
    });
    connect(straight_, &QPushButton::clicked, this, [this] {
        session_.changeSelected(QStringLiteral("shortest way"), [](Run& r) { r.vias.clear(); });
    });
    working_->setObjectName(QStringLiteral("showWayWorking"));
    connect(working_, &QPushButton::clicked, this, [this] {
        if (session_.current() == nullptr)
            return;
        if (const RunRoute* route = session_.site()->route(session_.currentId()))
            showWorking(session_, this, routeWorking(session_.job(), *route));
    });
    connect(coiled_, &QPushButton::clicked, this, [this] {
        const Run* run = session_.current();
        const bool now = run != nullptr && run->leftCoiled;
        session_.changeSelected(now ? QStringLiteral("coiled no more")
                                    : QStringLiteral("left coiled"),
                                [&](Run& r) { r.leftCoiled = !now; });
    });
    hide();
}

void WayPanel::refresh() {
    const Run* run = session_.hasJob() ? session_.current() : nullptr;
    setVisible(run != nullptr);
    if (run == nullptr)
        return;
    if (run->id != shownFor_) {
        shownFor_ = run->id;
        printed_->clear();
        print_->hide();
    }
    const RunRoute* route = session_.site()->route(run->id);
    const auto m = [&](double metres) { return figure(formatLength(metres, session_.units())); };
    setTitle(!run->vias.empty() ? tr("%1, led by hand").arg(q(run->label))
             : route != nullptr ? tr("%1 by the shortest way").arg(q(run->label))
                                : q(run->label));
    straight_->setVisible(!run->vias.empty());
    working_->setVisible(route != nullptr && !route->fault);
    coiled_->setText(run->leftCoiled ? tr("coiled no more") : tr("leave coiled"));
    follow_->setVisible(route != nullptr);
    follow_->setText(run->followsPlan ? tr("keep this length") : tr("follow the plan"));
    if (route == nullptr || route->fault) {
        total_->setText(tr("%1 as typed").arg(m(run->lengthM())));
        parts_->setText(route == nullptr
                            ? tr("Its ends are not on the plan. Choose a place there and say that "
                                 "it starts or ends in it.")
                            : said(whatToDo(*route->fault), session_));
        jacket_->hide();
    } else {
        QStringList parts;
        for (const auto& part : route->parts)
            if (part.lengthM > 0.005)
                parts << said(part.name, session_) + QLatin1Char(' ') + m(part.lengthM);
        parts_->setText(parts.join(QStringLiteral(" + ")) +
                        tr(". Spare %1 %3, pulling again %2 %3.")
                            .arg(figure(formatFixed(route->spareCost, 2)),
                                 figure(formatFixed(route->repullCost, 0)),
                                 q(session_.job().info.survey.currency)));
        total_->setText(
            run->followsPlan
                ? tr("%1 to pull, %2 in the link")
                      .arg(m(route->pullM), m(session_.shown()->lengthM()))
                : tr("%1 as typed; the plan says %2").arg(m(run->lengthM()), m(route->linkM)));
        jacket_->setText(
            route->jacket == Jacket::Unknown
                ? tr("No one jacket serves its way: %1").arg(said(route->jacketWhy, session_))
                : tr("Jacket: %1%2")
                      .arg(term(jacketWord(route->jacket)),
                           route->jacketWhy.empty()
                               ? QString()
                               : QStringLiteral(" (") + said(route->jacketWhy, session_) +
                                     QLatin1Char(')')));
        jacket_->show();
    }
    if (!session_.previewing())
        showChoices();
}

void WayPanel::showChoices() {
    if (session_.current() == nullptr)
        return;
    const Run& run = *session_.current();
    const auto* choices = session_.cableChoices();
    const QWidget* focused = window()->focusWidget();
    const QString focusedName =
        focused != nullptr && choices_->isAncestorOf(focused) ? focused->objectName() : QString();
    // They come after the verdicts; those of another run are none.
    if (choices == nullptr && choicesFor_ == run.id)
        return;
    choicesFor_ = run.id;
    empty(*choiceList_);
    if (choices == nullptr)
        return;
    int shown = 0;
    for (const auto& choice : *choices) {
        const bool jacketNow = choice.jacket == Jacket::Unknown || run.jacket == choice.jacket;
        if (shown == mostChoices || (!choice.holds && shown > 0))
            break;
        ++shown;
        showChoice(choice);
        if (choice.now && jacketNow)
            continue;
        auto* row = new FlowLayout;
        const QStringList scopes{choice.now ? tr("its jacket for %1").arg(q(run.label))
                                            : tr("take for %1").arg(q(run.label)),
                                 tr("room"), tr("all alike")};
        for (int scope = 0; scope < scopes.size(); ++scope) {
            auto* button = link(scopes[scope], choices_);
            button->setObjectName(QStringLiteral("take %1 %2").arg(q(choice.cableId)).arg(scope));
            connect(button, &QPushButton::clicked, this,
                    [this, choice, scope] { take(choice, scope); });
            row->addWidget(button);
        }
        choiceList_->addLayout(row);
    }
    // The newest of that name: what it replaces goes with the next event.
    if (!focusedName.isEmpty())
        if (const auto again = choices_->findChildren<QWidget*>(focusedName); !again.isEmpty())
            again.last()->setFocus();
}

/// Its name and what it spares; the reasons for and against where they are asked for, and where it
/// does not hold.
void WayPanel::showChoice(const CableChoice& choice) {
    const QString why = said(choice.reasons, session_).join(QStringLiteral("; "));
    const QString name = choice.now ? tr("%1, as planned").arg(q(choice.name)) : q(choice.name);
    auto* title = words(Voice::Bold, choices_);
    title->setText(name);
    title->setToolTip(why);
    auto* button = link(tr("why"), choices_);
    button->setObjectName(QStringLiteral("why ") + q(choice.cableId));
    button->setAccessibleName(tr("Why %1: %2").arg(name, why));
    button->setVisible(choice.holds);
    connect(button, &QPushButton::clicked, this, [this, id = choice.cableId] {
        whyOf_ = whyOf_ == id ? std::string() : id;
        showChoices();
    });
    auto* spare = words(Voice::Small, choices_);
    spare->setWordWrap(false);
    if (choice.holds && choice.spareM > 0)
        spare->setText(
            tr("%1 to spare").arg(figure(formatLength(choice.spareM, session_.units()))));
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    row->addWidget(title, 1);
    for (QWidget* one : std::initializer_list<QWidget*>{spare, button})
        row->addWidget(one, 0, Qt::AlignTop);
    choiceList_->addLayout(row);
    if (choice.holds && whyOf_ != choice.cableId)
        return;
    auto* text = words(Voice::Small, choices_);
    text->setText(begun(why));
    choiceList_->addWidget(text);
}

void WayPanel::take(const CableChoice& choice, int scope) {
    const Run* now = session_.current();
    if (now == nullptr)
        return;
    // Alike: the same service in the same cable.
    Edit edit{"take " + choice.name, {}};
    for (const auto& run : session_.pending().runs) {
        const bool one = run.id == now->id;
        const bool alike = run.serviceId == now->serviceId && run.cableId == now->cableId;
        if (!one && (scope == 0 || !alike || (scope == 1 && run.roomId != now->roomId)))
            continue;
        CableChoice own = choice;
        if (const RunRoute* route = session_.site()->route(run.id))
            own.jacket = route->jacket; // each way asks for its own
        const Run after = inCable(run, session_.catalogue(), own);
        if (!(after == run))
            edit.changes.push_back(put(std::optional(run), std::optional(after)));
    }
    session_.commit(edit);
}

void WayPanel::readPrint() {
    const auto read = readJacketPrint(printed_->text().toStdString(), session_.catalogue());
    print_->show();
    if (!read) {
        print_->setText(said(whatToDo(read.error()), session_));
        return;
    }
    QStringList said;
    if (!read->kind.empty())
        said << q(read->kind);
    if (read->pairs)
        said << tr("%1 pairs").arg(*read->pairs);
    if (read->awg)
        said << tr("%1 AWG").arg(*read->awg);
    if (!read->screen.empty())
        said << q(read->screen);
    if (read->jacket != Jacket::Unknown)
        said << tr("%1 jacket (%2)").arg(term(jacketWord(read->jacket)), q(read->rating));
    if (!read->fireClass.empty())
        said << q(read->fireClass);
    if (read->lowSmoke)
        said << tr("low smoke, no halogens");
    if (read->markM)
        said << tr("mark %1").arg(figure(formatLength(*read->markM, session_.units())));
    const Run* run = session_.current();
    QString end;
    if (run != nullptr && !read->cableIds.empty()) {
        const bool same = std::find(read->cableIds.begin(), read->cableIds.end(), run->cableId) !=
                          read->cableIds.end();
        const Cable* cable = session_.catalogue().cable(same ? run->cableId : read->cableIds[0]);
        end = same ? tr(". It is the cable planned.")
                   : tr(". It is %1, not the cable planned.")
                         .arg(cable != nullptr ? q(cable->name) : QString());
    }
    for (const auto& warning : read->warnings)
        end += tr(". Beware: %1").arg(burin::said(warning, session_));
    print_->setText(said.join(QStringLiteral(", ")) + end);
}

MattersPanel::MattersPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new QVBoxLayout(this)) {
    setObjectName(QStringLiteral("matters"));
    list_->setContentsMargins(0, 0, 0, 0);
    list_->setSpacing(8);
}

void MattersPanel::lead(const SiteFinding& finding) {
    leading_ = finding.reason;
    refresh();
}

void MattersPanel::refresh() {
    empty(*list_);
    first_ = nullptr;
    if (!session_.hasJob())
        return;
    std::vector<const SiteFinding*> all;
    const auto ours = [&](const SiteFinding* f) {
        return std::any_of(f->runs.begin(), f->runs.end(),
                           [&](const auto& on) { return on.runId == session_.currentId(); });
    };
    for (const auto& f : session_.site()->findings)
        all.push_back(&f);
    std::stable_sort(all.begin(), all.end(), [&](const SiteFinding* a, const SiteFinding* b) {
        return std::tuple(a->reason != leading_, !ours(a), !a->bad) <
               std::tuple(b->reason != leading_, !ours(b), !b->bad);
    });
    int shown = 0;
    for (const SiteFinding* f : all) {
        if (++shown > mostMatters) {
            auto* more = words(Voice::Small, this);
            more->setText(
                tr("and %1 more on the plan").arg(static_cast<int>(all.size()) - mostMatters));
            list_->addWidget(more);
            break;
        }
        auto* panel = new Panel(said(f->title, session_), this);
        panel->setTone(f->bad ? Panel::Tone::Bad : Panel::Tone::Marginal);
        auto* text = words(Voice::Small, panel);
        QString whole = tr("%1. %2.").arg(said(f->reason, session_), said(f->cure, session_));
        if (!f->caution.empty())
            whole += QLatin1Char(' ') + said(f->caution, session_);
        text->setText(whole);
        panel->body()->addWidget(text);
        auto* look = link(tr("show it"), panel);
        connect(look, &QPushButton::clicked, this, [this, finding = *f] {
            if (!finding.runs.empty() && session_.job().run(finding.runs.front().runId) != nullptr)
                session_.select(finding.runs.front().runId, {});
            emit wanted(finding);
        });
        panel->body()->addWidget(look);
        list_->addWidget(panel);
        if (first_ == nullptr)
            first_ = panel;
    }
}

ClosingPanel::ClosingPanel(Session& session, QWidget* parent)
    : Panel(tr("Before it is closed"), parent), session_(session),
      text_(words(Voice::Small, this)) {
    setObjectName(QStringLiteral("closing"));
    body()->addWidget(text_);
    hide();
}

void ClosingPanel::refresh() {
    QStringList lines;
    bool due = false;
    if (session_.hasJob())
        for (const auto& closing : session_.closings()) {
            const auto labels = [&](const std::vector<std::string>& ids) {
                QStringList out;
                for (const auto& id : ids)
                    if (const Run* run = session_.job().run(id))
                        out << q(run->label);
                return out.join(QStringLiteral(", "));
            };
            // Named while they are few: the rest is found by the runs' own states.
            const auto some = [&](const std::vector<std::string>& ids) {
                return ids.size() <= 3 ? labels(ids)
                                       : tr("%1 runs").arg(static_cast<int>(ids.size()));
            };
            QString line = tr("%1 %2: ").arg(q(closing.closesOn), q(closing.name));
            if (closing.behind.empty())
                line += tr("nothing lies behind it");
            else if (closing.done())
                line += tr("all %1 behind it are seen and proven")
                            .arg(static_cast<int>(closing.behind.size()));
            else
                due = true;
            if (!closing.noPhotograph.empty())
                line += tr("no photograph of %1. ").arg(some(closing.noPhotograph));
            if (!closing.untested.empty())
                line += tr("Untested: %1.").arg(some(closing.untested));
            lines << line;
        }
    setVisible(!lines.isEmpty());
    setTone(due ? Tone::Marginal : Tone::Plain);
    text_->setText(lines.join(QLatin1Char('\n')));
}

} // namespace burin
