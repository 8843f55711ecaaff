#include "app/pull/pull_list.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/pull/pull_words.h"
#include "core/pull/stock.h"
#include <QDrag>
#include <QDragEnterEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QScrollBar>

namespace burin {

namespace {

/// The day a pull is done on, with how full that day is.
QString dayOf(const JobFindings& findings, const std::string& pullId) {
    for (const auto& day : findings.days.days)
        for (const auto& work : day.work)
            if (work.pullId == pullId && work.what == DayWork::What::Pull)
                return QObject::tr("%1 · %2 of %3 h")
                    .arg(dayText(day.date), figure(formatFixed(day.minutes / 60, 1)),
                         figure(formatFixed(day.mostMinutes / 60, 1)));
    return QObject::tr("to pull");
}

} // namespace

PullsModel::PullsModel(Session& session, QObject* parent)
    : QAbstractListModel(parent), session_(session) {}

void PullsModel::rebuild() {
    beginResetModel();
    rows_.clear();
    const auto findings = session_.jobFindings();
    QString before;
    for (std::size_t i = 0; findings && i < findings->pulls.pulls.size(); ++i) {
        const PullFinding& pull = findings->pulls.pulls[i];
        const QString heading =
            pull.state == PullState::Pulled ? tr("pulled") : dayOf(*findings, pull.id);
        if (heading != before)
            rows_.push_back({heading, -1});
        before = heading;
        rows_.push_back({{}, static_cast<int>(i)});
    }
    endResetModel();
}

int PullsModel::rowOf(std::string_view runId) const {
    const auto findings = session_.jobFindings();
    for (std::size_t i = 0; findings && i < rows_.size(); ++i)
        if (rows_[i].pull >= 0 &&
            findings->pulls.pulls[static_cast<std::size_t>(rows_[i].pull)].run(runId) != nullptr)
            return static_cast<int>(i);
    return -1;
}

int PullsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant PullsModel::data(const QModelIndex& index, int role) const {
    const auto findings = session_.jobFindings();
    if (!index.isValid() || !findings || !session_.hasJob())
        return {};
    const Row& r = row(index.row());
    if (role != Qt::DisplayRole && role != Qt::AccessibleTextRole && role != Qt::ToolTipRole)
        return {};
    if (r.pull < 0)
        return r.heading;
    const PullFinding& pull = findings->pulls.pulls[static_cast<std::size_t>(r.pull)];
    const QString name = tr("%1  %2").arg(r.pull + 1).arg(fromTo(pull, session_.job()));
    if (role == Qt::DisplayRole)
        return name;
    return tr("%1, %2, %3, from %4, %5")
        .arg(name, labelsOf(pull, session_.job()), lengthsOf(pull, session_.units()),
             boxesOf(pull, findings->pulls), q(std::string(pullStateWords[pull.state])));
}

Qt::ItemFlags PullsModel::flags(const QModelIndex& index) const {
    if (!index.isValid() || row(index.row()).pull < 0)
        return Qt::ItemIsEnabled;
    const auto findings = session_.jobFindings();
    const auto at = static_cast<std::size_t>(row(index.row()).pull);
    const bool open = findings && at < findings->pulls.pulls.size() &&
                      findings->pulls.pulls[at].state == PullState::Planned;
    return Qt::ItemIsEnabled | Qt::ItemIsSelectable |
           (open ? Qt::ItemIsDragEnabled : Qt::NoItemFlags);
}

QMimeData* PullsModel::mimeData(const QModelIndexList& indexes) const {
    const auto findings = session_.jobFindings();
    auto* out = new QMimeData;
    for (const auto& index : indexes) {
        const auto at = static_cast<std::size_t>(row(index.row()).pull);
        if (findings && at < findings->pulls.pulls.size())
            out->setData(QLatin1String(draggedPull),
                         QByteArray::fromStdString(findings->pulls.pulls[at].runs.front().runId));
    }
    return out;
}

QStringList PullsModel::mimeTypes() const {
    return {QLatin1String(draggedPull)};
}

QSize PullsDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
    const auto* model = static_cast<const PullsModel*>(index.model());
    return {200, Theme::instance().px(model->row(index.row()).pull < 0 ? 26 : 58)};
}

void PullsDelegate::paint(QPainter* p, const QStyleOptionViewItem& option,
                          const QModelIndex& index) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const auto findings = session_.jobFindings();
    const auto& row = static_cast<const PullsModel*>(index.model())->row(index.row());
    const QRectF box = option.rect;
    const double pad = theme.px(12);
    p->save();
    p->setFont(theme.small());
    if (row.pull < 0) {
        p->setPen(t.ink2);
        p->drawText(box.adjusted(pad, 0, -pad, 0), Qt::AlignVCenter,
                    elided(*p, row.heading, box.width() - 2 * pad));
        p->restore();
        return;
    }
    if (!findings || static_cast<std::size_t>(row.pull) >= findings->pulls.pulls.size() ||
        !session_.hasJob()) {
        p->restore();
        return;
    }
    const PullFinding& pull = findings->pulls.pulls[static_cast<std::size_t>(row.pull)];
    const Job& job = session_.job();
    const bool chosen = (option.state & QStyle::State_Selected) != 0;
    if (chosen)
        p->fillRect(box, t.copperSoft);
    p->setPen(QPen(t.rule, 1));
    p->drawLine(box.bottomLeft(), box.bottomRight());
    // The tapes of its rooms, one below the other.
    std::vector<int> tapes;
    std::size_t pulled = 0;
    bool lacking = false;
    for (const auto& one : pull.runs) {
        const Run* run = job.run(one.runId);
        const Room* room = run == nullptr ? nullptr : job.room(run->roomId);
        if (room != nullptr && std::find(tapes.begin(), tapes.end(), room->tape) == tapes.end())
            tapes.push_back(room->tape);
        pulled += one.there ? 1 : 0;
        const PulledCheck* check = findings->pulledFor(one.runId);
        lacking = lacking || (check != nullptr && check->isShort());
    }
    for (std::size_t i = 0; i < tapes.size(); ++i) {
        const double high = (box.height() - 1) / static_cast<double>(tapes.size());
        drawTape(*p,
                 QRectF(box.left(), box.top() + high * static_cast<double>(i), theme.px(6), high),
                 tapes[i]);
    }
    // How much of it is done: cable drawn in, cable to come outlined.
    const QRectF bar(box.right() - pad - theme.px(56), box.top() + theme.px(26), theme.px(56),
                     theme.px(8));
    const double share = static_cast<double>(pulled) / static_cast<double>(pull.runs.size());
    p->setBrush(Qt::NoBrush);
    p->setPen(QPen(t.copper, 1));
    p->drawRect(bar);
    p->fillRect(QRectF(bar.left(), bar.top(), bar.width() * share, bar.height()), t.copper);
    const auto line = [&](double y, const QString& text, double right) {
        const double wide = right - box.left() - pad;
        p->drawText(QRectF(box.left() + pad, box.top() + theme.px(y), wide, theme.px(18)),
                    Qt::AlignVCenter, elided(*p, text, wide));
    };
    p->setFont(theme.bold());
    p->setPen(t.ink);
    // Where it goes tells more than where it comes from.
    QString name = fromTo(pull, job);
    if (p->fontMetrics().horizontalAdvance(name) > box.width() - theme.px(48))
        name = name.mid(std::max<qsizetype>(0, name.indexOf(QChar(0x2192))));
    line(3, QStringLiteral("%1  %2").arg(row.pull + 1).arg(name), box.right() - pad);
    p->setFont(theme.small());
    line(21, labelsOf(pull, job), bar.left() - pad);
    p->setPen(chosen ? t.ink : t.ink2);
    // What matters most stands first; what has no room any more is told beside the list.
    QStringList last{lengthsOf(pull, session_.units())};
    if (pull.state != PullState::Pulled)
        last << boxesOf(pull, findings->pulls);
    if (!pull.closesOn.empty() && pull.state != PullState::Pulled) {
        const bool late =
            std::any_of(findings->days.late.begin(), findings->days.late.end(),
                        [&](const LateWork& l) { return l.closesOn == pull.closesOn; });
        p->setPen(late ? t.rust : chosen ? t.ink : t.ink2);
        last.prepend(tr("before %1").arg(dayText(pull.closesOn)));
    }
    if (std::any_of(pull.runs.begin(), pull.runs.end(), [&](const PulledRun& one) {
            const Run* run = one.there ? job.run(one.runId) : nullptr;
            return run != nullptr && !isToldApart(job, *run);
        }))
        last.prepend(tr("not told apart"));
    if (pull.overLimit()) {
        p->setPen(t.rust);
        last.prepend(tr("too hard to pull"));
    }
    if (lacking) {
        p->setPen(t.rust);
        last.prepend(tr("came out short"));
    }
    const auto joined = [&] { return last.join(QStringLiteral(" · ")); };
    while (last.size() > 1 && p->fontMetrics().horizontalAdvance(joined()) > box.width() - 2 * pad)
        last.removeLast();
    line(38, joined(), box.right() - pad);
    p->restore();
}

PullList::PullList(Session& session, QWidget* parent)
    : QListView(parent), session_(session), model_(new PullsModel(session, this)) {
    setObjectName(QStringLiteral("pulls"));
    setAccessibleName(tr("Pulls, in the order they are done"));
    setModel(model_);
    setItemDelegate(new PullsDelegate(session, this));
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFrameShape(QFrame::NoFrame);
    setDragEnabled(true);
    setAcceptDrops(true);
    setDropIndicatorShown(false);
    connect(selectionModel(), &QItemSelectionModel::currentChanged, this,
            [this](const QModelIndex& now) { choose(now); });
    connect(&Theme::instance(), &Theme::changed, this, [this] { scheduleDelayedItemsLayout(); });
}

void PullList::choose(const QModelIndex& index) {
    const auto findings = session_.jobFindings();
    if (showing_ || !index.isValid() || model_->row(index.row()).pull < 0 || !findings)
        return;
    const auto& pull =
        findings->pulls.pulls[static_cast<std::size_t>(model_->row(index.row()).pull)];
    std::vector<std::string> all;
    for (const auto& run : pull.runs)
        all.push_back(run.runId);
    if (!all.empty() && pull.run(session_.currentId()) == nullptr)
        session_.select(all.front(), all);
}

void PullList::showPlan() {
    showing_ = true;
    const int where = verticalScrollBar()->value();
    model_->rebuild();
    verticalScrollBar()->setValue(where);
    const int row = model_->rowOf(session_.currentId());
    if (row >= 0) {
        setCurrentIndex(model_->index(row));
        scrollTo(model_->index(row));
    } else {
        clearSelection();
    }
    showing_ = false;
}

void PullList::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Up ? -1 : event->key() == Qt::Key_Down ? 1 : 0;
    const int into = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (by != 0 && (event->modifiers() & Qt::AltModifier) != 0)
        emit moved(by);
    else if (into != 0 && (event->modifiers() & Qt::AltModifier) != 0)
        emit runMoved(into);
    else if (enter)
        emit opened();
    else
        QListView::keyPressEvent(event);
}

const PullFinding* PullList::pullAt(int row) const {
    const auto findings = session_.jobFindings();
    if (!findings || row < 0 || row >= model_->rowCount() || model_->row(row).pull < 0)
        return nullptr;
    const auto at = static_cast<std::size_t>(model_->row(row).pull);
    return at < findings->pulls.pulls.size() ? &findings->pulls.pulls[at] : nullptr;
}

std::optional<PullList::Landing> PullList::landing(const QDropEvent& event) const {
    const QModelIndex index = indexAt(event.position().toPoint());
    const PullFinding* onto = pullAt(index.row());
    if (onto == nullptr || onto->state == PullState::Pulled)
        return std::nullopt;
    const bool pull = event.mimeData()->hasFormat(QLatin1String(draggedPull));
    const QByteArray id = event.mimeData()->data(QLatin1String(pull ? draggedPull : draggedRun));
    if (id.isEmpty() || onto->run(id.toStdString()) != nullptr)
        return std::nullopt;
    Landing out{index.row(), Where::Into};
    if (pull) {
        const QRect box = visualRect(index);
        const double down = (event.position().y() - box.top()) / box.height();
        out.where = down < 0.3 ? Where::Before : down > 0.7 ? Where::After : Where::Into;
    }
    return out;
}

void PullList::land(std::optional<Landing> where) {
    if (where == landing_)
        return;
    landing_ = where;
    viewport()->update();
}

/// Under the pointer goes its number alone: where it comes down is seen beside it.
void PullList::startDrag(Qt::DropActions) {
    const QModelIndex index = currentIndex();
    const PullFinding* pull = pullAt(index.row());
    if (pull == nullptr || (model_->flags(index) & Qt::ItemIsDragEnabled) == 0)
        return;
    const auto& theme = Theme::instance();
    const QString text = QString::number(model_->row(index.row()).pull + 1);
    QPixmap picture(theme.px(34), theme.px(24));
    picture.fill(theme.tokens().copperSoft);
    QPainter p(&picture);
    p.setFont(theme.bold());
    p.setPen(theme.tokens().ink);
    p.drawText(picture.rect(), Qt::AlignCenter, text);
    p.end();
    auto* drag = new QDrag(this);
    drag->setMimeData(model_->mimeData({index}));
    drag->setPixmap(picture);
    drag->setHotSpot({-theme.px(12), theme.px(12)});
    drag->exec(Qt::CopyAction);
}

void PullList::dragEnterEvent(QDragEnterEvent* event) {
    // It is told over each row whether it may come down there.
    if (event->mimeData()->hasFormat(QLatin1String(draggedRun)) ||
        event->mimeData()->hasFormat(QLatin1String(draggedPull)))
        event->acceptProposedAction();
}

void PullList::dragMoveEvent(QDragMoveEvent* event) {
    QListView::dragMoveEvent(event); // scrolls at the edges
    land(landing(*event));
    event->setAccepted(landing_.has_value());
}

void PullList::dragLeaveEvent(QDragLeaveEvent* event) {
    QListView::dragLeaveEvent(event);
    land(std::nullopt);
}

void PullList::dropEvent(QDropEvent* event) {
    const auto where = landing(*event);
    land(std::nullopt);
    stopAutoScroll();
    setState(NoState);
    if (!where)
        return event->ignore();
    event->setDropAction(Qt::CopyAction); // nothing is taken out of the list by the view
    event->accept();
    const QString onto = q(pullAt(where->row)->runs.front().runId);
    const auto* dropped = event->mimeData();
    if (!dropped->hasFormat(QLatin1String(draggedPull)))
        return emit runDropped(QString::fromUtf8(dropped->data(QLatin1String(draggedRun))), onto);
    const QString id = QString::fromUtf8(dropped->data(QLatin1String(draggedPull)));
    if (where->where == Where::Into)
        emit pullDropped(id, onto);
    else
        emit pullPlaced(id, onto, where->where == Where::After);
}

void PullList::paintEvent(QPaintEvent* event) {
    QListView::paintEvent(event);
    if (!landing_)
        return;
    QPainter p(viewport());
    const QRectF box = visualRect(model_->index(landing_->row));
    p.setPen(QPen(Theme::instance().tokens().copper, 2));
    if (landing_->where == Where::Into)
        p.drawRect(box.adjusted(1, 1, -1, -1));
    else
        p.drawLine(landing_->where == Where::Before
                       ? QLineF(box.left(), box.top() + 1, box.right(), box.top() + 1)
                       : QLineF(box.left(), box.bottom() - 1, box.right(), box.bottom() - 1));
}

} // namespace burin
