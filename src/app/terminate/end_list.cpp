#include "app/terminate/end_list.h"
#include "app/frame/said.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include "core/job/ports.h"
#include "core/units/render.h"
#include "files/qt_text.h"
#include <QDragEnterEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QScrollBar>

namespace burin {
namespace {

/// What is said of an end in two or three words.
QString stateOf(const EndWork& end) {
    QString out;
    switch (end.state) {
    case EndState::ToMake:
        out = EndList::tr("to make");
        break;
    case EndState::Again:
        out = EndList::tr("make again");
        break;
    case EndState::Unrecorded:
        out = EndList::tr("made, by whom?");
        break;
    case EndState::Made:
        out = end.blunt ? EndList::tr("made, blunt blades") : EndList::tr("made");
        break;
    }
    return out;
}
/// Tries that were spoiled, in a line of their own; empty: none was.
QString spoiledOf(const EndWork& end) {
    return end.spoiled == 0 ? QString()
                            : EndList::tr("%n spoiled", nullptr, static_cast<int>(end.spoiled));
}
QStringList droppedFiles(const QMimeData* data) {
    QStringList out;
    for (const auto& url : data->urls())
        if (url.isLocalFile())
            out << url.toLocalFile();
    return out;
}

} // namespace

EndsModel::EndsModel(Session& session, QObject* parent)
    : QAbstractListModel(parent), session_(session) {}

bool EndsModel::rebuild() {
    const auto findings = session_.jobFindings();
    if (findings == findings_)
        return false;
    std::vector<Row> rows;
    std::vector<std::string> keys;
    for (std::size_t i = 0; findings && i < findings->ends.places.size(); ++i) {
        const EndPlace& place = findings->ends.places[i];
        rows.push_back({i, -1});
        keys.push_back(place.placeId + ' ' + place.roomId);
        for (int k = 0; k < static_cast<int>(place.ends.size()); ++k) {
            const EndWork& end = place.ends[static_cast<std::size_t>(k)];
            rows.push_back({i, k});
            // A line more is another row.
            keys.push_back(end.runId + (end.end == End::Far ? " far" : " near") +
                           (end.spoiled > 0 ? " spoiled" : ""));
        }
    }
    if (keys == keys_) {
        findings_ = findings;
        if (!rows_.empty())
            emit dataChanged(index(0), index(rowCount() - 1));
        return false;
    }
    beginResetModel();
    findings_ = findings;
    rows_ = std::move(rows);
    keys_ = std::move(keys);
    endResetModel();
    return true;
}

const EndPlace* EndsModel::place(int index) const {
    return &findings_->ends.places[row(index).place];
}
const EndWork* EndsModel::end(int index) const {
    const Row& r = row(index);
    return r.end < 0 ? nullptr : &place(index)->ends[static_cast<std::size_t>(r.end)];
}
int EndsModel::rowOf(const EndAt& at) const {
    for (int i = 0; i < rowCount(); ++i)
        if (const EndWork* work = end(i);
            work != nullptr && work->runId == at.runId && work->end == at.end)
            return i;
    return -1;
}
QString EndsModel::nameOf(const EndPlace& place) const {
    return place.name.empty() ? tr("Not on the plan") : q(place.name);
}

int EndsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant EndsModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || !session_.hasJob() ||
        (role != Qt::DisplayRole && role != Qt::AccessibleTextRole && role != Qt::ToolTipRole))
        return {};
    const EndWork* work = end(index.row());
    if (work == nullptr) {
        const EndPlace* at = place(index.row());
        return tr("%1, %2 of %3 to make").arg(nameOf(*at)).arg(at->left()).arg(at->ends.size());
    }
    const Run* run = session_.job().run(work->runId);
    if (run == nullptr)
        return {};
    const QString label = q(run->label);
    if (role == Qt::DisplayRole)
        return label;
    QStringList out{
        tr("%1, %2: %3")
            .arg(label, q(endName(session_.job(), work->end == End::Near ? run->near : run->far)),
                 stateOf(*work)),
        spoiledOf(*work)};
    out << said(work->said, session_);
    out.removeAll(QString());
    return out.join(QLatin1Char('\n'));
}

Qt::ItemFlags EndsModel::flags(const QModelIndex& index) const {
    return index.isValid() ? Qt::ItemIsEnabled | Qt::ItemIsSelectable : Qt::NoItemFlags;
}

QSize EndsDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
    const auto* model = static_cast<const EndsModel*>(index.model());
    const EndWork* work = model->end(index.row());
    return {180, Theme::instance().px(work == nullptr ? 28 : work->spoiled == 0 ? 40 : 58)};
}

void EndsDelegate::paint(QPainter* p, const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    const auto& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const auto* model = static_cast<const EndsModel*>(index.model());
    const QRectF box = option.rect;
    const double pad = theme.px(10);
    const bool chosen = (option.state & QStyle::State_Selected) != 0;
    p->save();
    if (chosen)
        p->fillRect(box, t.copperSoft);
    const auto line = [&](double y, double high, const QString& left, const QString& right) {
        const double wide = box.width() - 2 * pad;
        const double taken = right.isEmpty() ? 0 : p->fontMetrics().horizontalAdvance(right) + pad;
        const QRectF at(box.left() + pad, box.top() + theme.px(y), wide, theme.px(high));
        p->drawText(at, Qt::AlignVCenter, elided(*p, left, wide - taken));
        p->drawText(at, Qt::AlignVCenter | Qt::AlignRight, right);
    };
    const EndWork* work = model->end(index.row());
    if (work == nullptr) {
        const EndPlace* place = model->place(index.row());
        p->setFont(theme.small());
        p->setPen(chosen ? t.ink : t.ink2);
        line(0, 28, model->nameOf(*place),
             place->left() == 0
                 ? EndList::tr("all made")
                 : EndList::tr("%1 of %2").arg(place->left()).arg(place->ends.size()));
        p->restore();
        return;
    }
    const Run* run = session_.hasJob() ? session_.job().run(work->runId) : nullptr;
    if (run == nullptr) {
        p->restore();
        return;
    }
    p->setPen(QPen(t.rule, 1));
    p->drawLine(box.bottomLeft(), box.bottomRight());
    if (const Room* room = session_.job().room(run->roomId))
        drawTape(*p, QRectF(box.left(), box.top(), theme.px(5), box.height() - 1), room->tape);
    p->setFont(theme.bold());
    p->setPen(t.ink);
    // The place stands above: of its ends the port alone.
    const QString port =
        q(endNameAtPlace(session_.job(), work->end == End::Near ? run->near : run->far));
    line(2, 18, q(run->label), {});
    p->setFont(theme.small());
    p->setPen(chosen ? t.ink : t.ink2);
    const double label = theme.px(70);
    const QRectF name(box.left() + pad + label, box.top() + theme.px(2),
                      box.width() - 2 * pad - label, theme.px(18));
    p->drawText(name, Qt::AlignVCenter | Qt::AlignRight, elided(*p, port, name.width()));
    p->setPen(work->state == EndState::Again ? t.rust
              : work->blunt                  ? t.ochre
              : chosen                       ? t.ink
                                             : t.ink2);
    QString right;
    if (work->state == EndState::Made && !work->unchecked.empty())
        right = EndList::tr("%n to check", nullptr, static_cast<int>(work->unchecked.size()));
    line(20, 18, stateOf(*work), right);
    line(38, 18, spoiledOf(*work), {});
    p->restore();
}

EndList::EndList(Session& session, QWidget* parent)
    : QListView(parent), session_(session), model_(new EndsModel(session, this)) {
    setObjectName(QStringLiteral("ends"));
    setAccessibleName(tr("Ends by place. Space: made, X: spoiled, Backspace: not made, P: "
                         "photograph"));
    setModel(model_);
    setItemDelegate(new EndsDelegate(session, this));
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSelectionMode(QAbstractItemView::ExtendedSelection);
    setFrameShape(QFrame::NoFrame);
    setAcceptDrops(true);
    connect(selectionModel(), &QItemSelectionModel::currentChanged, this, [this] { choose(); });
    connect(&Theme::instance(), &Theme::changed, this, [this] { scheduleDelayedItemsLayout(); });
}

void EndList::choose() {
    if (showing_ || !currentIndex().isValid())
        return;
    const EndWork* work = model_->end(currentIndex().row());
    if (work == nullptr) {
        // How its next end is made is shown beside it.
        const auto& ends = model_->place(currentIndex().row())->ends;
        const auto next =
            std::find_if(ends.begin(), ends.end(), [](const EndWork& end) { return end.isLeft(); });
        work = next == ends.end() ? &ends.front() : &*next;
    }
    shown_ = {work->runId, work->end};
    emit endChosen(q(shown_.runId), shown_.end == End::Far);
}

void EndList::showPlan(bool far) {
    showing_ = true;
    const EndAt at{session_.currentId(), far ? End::Far : End::Near};
    // What is chosen stays so, unless another end was chosen elsewhere.
    const bool elsewhere = at != shown_;
    const EndPlace* before = elsewhere ? nullptr : chosenPlace();
    const std::string placeId = before == nullptr ? std::string() : before->placeId;
    const std::string roomId = before == nullptr ? std::string() : before->roomId;
    shown_ = at;
    const int where = verticalScrollBar()->value();
    if (model_->rebuild() || elsewhere) {
        verticalScrollBar()->setValue(where);
        int now = -1;
        for (int i = 0; before != nullptr && i < model_->rowCount(); ++i)
            if (model_->end(i) == nullptr && model_->place(i)->placeId == placeId &&
                model_->place(i)->roomId == roomId)
                now = i;
        if (now < 0)
            now = model_->rowOf(at);
        if (now >= 0) {
            setCurrentIndex(model_->index(now));
            scrollTo(model_->index(now));
        } else {
            clearSelection();
        }
    }
    showing_ = false;
}

std::vector<EndAt> EndList::chosenEnds() const {
    return chosenOf([](const EndWork&) { return true; });
}

std::vector<EndAt> EndList::endsToMake() const {
    auto out = chosenOf([](const EndWork& work) { return work.isLeft(); });
    // Nothing is left: what somebody made is written down.
    if (out.empty())
        out = chosenOf([](const EndWork& work) { return work.state == EndState::Unrecorded; });
    return out;
}

template <typename Wanted> std::vector<EndAt> EndList::chosenOf(Wanted wanted) const {
    std::vector<EndAt> out;
    const auto add = [&](const EndWork& work) {
        if (wanted(work))
            out.push_back({work.runId, work.end});
    };
    for (const auto& index : selectionModel()->selectedIndexes()) {
        if (const EndWork* work = model_->end(index.row()))
            add(*work);
        else
            std::for_each(model_->place(index.row())->ends.begin(),
                          model_->place(index.row())->ends.end(), add);
    }
    // A place and an end of it may both be chosen.
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

const EndPlace* EndList::chosenPlace() const {
    const auto chosen = selectionModel()->selectedIndexes();
    return chosen.size() == 1 && model_->end(chosen.front().row()) == nullptr
               ? model_->place(chosen.front().row())
               : nullptr;
}

void EndList::goOn() {
    if (selectionModel()->selectedIndexes().size() != 1 || chosenPlace() != nullptr)
        return;
    for (int i = currentIndex().row() + 1; i < model_->rowCount(); ++i)
        if (const EndWork* work = model_->end(i); work != nullptr && work->isLeft()) {
            setCurrentIndex(model_->index(i));
            return;
        }
}

void EndList::keyPressEvent(QKeyEvent* event) {
    const bool plain = event->modifiers() == Qt::NoModifier;
    if (plain && event->key() == Qt::Key_Space)
        emit madeAsked();
    else if (plain && event->key() == Qt::Key_X)
        emit spoiledAsked();
    else if (plain && event->key() == Qt::Key_Backspace)
        emit unmadeAsked();
    else if (plain && event->key() == Qt::Key_P)
        emit photographAsked();
    else
        QListView::keyPressEvent(event);
}

void EndList::resizeEvent(QResizeEvent* event) {
    QListView::resizeEvent(event);
    if (currentIndex().isValid())
        scrollTo(currentIndex());
}

void EndList::dragEnterEvent(QDragEnterEvent* event) {
    if (!droppedFiles(event->mimeData()).isEmpty())
        event->acceptProposedAction();
}
void EndList::dragMoveEvent(QDragMoveEvent* event) {
    event->acceptProposedAction();
}
void EndList::dropEvent(QDropEvent* event) {
    const QModelIndex at = indexAt(event->position().toPoint());
    if (at.isValid() && !selectionModel()->isSelected(at))
        setCurrentIndex(at);
    event->acceptProposedAction();
    if (const QStringList files = droppedFiles(event->mimeData()); !files.isEmpty())
        emit photographsDropped(files);
}

} // namespace burin
