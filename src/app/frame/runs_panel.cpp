#include "app/frame/runs_panel.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "core/job/ports.h"
#include <QDropEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QVBoxLayout>

namespace burin {

RunsModel::RunsModel(Session& session, QObject* parent)
    : QAbstractListModel(parent), session_(session) {
    connect(&session, &Session::jobChanged, this, &RunsModel::rebuild);
    connect(&session, &Session::findingsChanged, this, [this] {
        if (!rows_.empty())
            emit dataChanged(index(0), index(rowCount() - 1));
    });
}

void RunsModel::setFilter(const QString& text) {
    filter_ = text.trimmed();
    rebuild();
}

void RunsModel::rebuild() {
    std::vector<Row> rows;
    if (session_.hasJob()) {
        const Job& job = session_.job();
        for (const auto& room : job.rooms) {
            const auto heading = rows.size();
            rows.push_back({room.id, {}, 0});
            for (const auto& run : job.runs) {
                if (run.roomId != room.id)
                    continue;
                if (!filter_.isEmpty()) {
                    const auto* service = session_.catalogue().service(run.serviceId);
                    const QString words = q(run.label + " " + room.name + " " + fromTo(job, run) +
                                            " " + (service ? service->name : ""));
                    if (!words.contains(filter_, Qt::CaseInsensitive))
                        continue;
                }
                rows.push_back({room.id, run.id, 0});
                ++rows[heading].runs;
            }
            if (rows[heading].runs == 0 && !filter_.isEmpty())
                rows.pop_back();
        }
    }
    const auto same = [](const Row& a, const Row& b) {
        return a.roomId == b.roomId && a.runId == b.runId && a.runs == b.runs;
    };
    if (std::equal(rows.begin(), rows.end(), rows_.begin(), rows_.end(), same)) {
        if (!rows_.empty())
            emit dataChanged(index(0), index(rowCount() - 1));
        return;
    }
    beginResetModel();
    rows_ = std::move(rows);
    endResetModel();
}

int RunsModel::rowOf(const std::string& runId) const {
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (!runId.empty() && rows_[i].runId == runId)
            return static_cast<int>(i);
    return -1;
}

int RunsModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant RunsModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || !session_.hasJob())
        return {};
    const Row& r = row(index.row());
    const Run* run = session_.job().run(r.runId);
    const Room* room = session_.job().room(r.roomId);
    if (role == Qt::DisplayRole || role == Qt::EditRole)
        return run != nullptr ? q(run->label) : room != nullptr ? q(room->name) : QString();
    if (role == Qt::AccessibleTextRole || role == Qt::ToolTipRole) {
        if (run == nullptr)
            return room != nullptr ? q(room->name) : QString();
        const RunFinding* f = session_.finding(run->id);
        return f == nullptr ? q(run->label)
                            : tr("%1, %2, %3")
                                  .arg(q(run->label), term(stateName(f->state())),
                                       said(f->outlookReason, session_));
    }
    return {};
}

Qt::ItemFlags RunsModel::flags(const QModelIndex& index) const {
    if (!index.isValid())
        return Qt::ItemIsDropEnabled;
    if (row(index.row()).runId.empty())
        return Qt::ItemIsEnabled | Qt::ItemIsEditable;
    return Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable | Qt::ItemIsDropEnabled;
}

bool RunsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole)
        return false;
    const Row& r = row(index.row());
    if (r.runId.empty())
        session_.renameRoom(r.roomId, value.toString());
    else
        session_.renameRun(r.runId, value.toString());
    return true;
}

QSize RunsDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
    const auto* model = static_cast<const RunsModel*>(index.model());
    const bool heading = model->row(index.row()).runId.empty();
    return {200, Theme::instance().px(heading ? 28 : 44)};
}

void RunsDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    const auto* field = qobject_cast<QLineEdit*>(editor);
    if (field == nullptr || !field->isModified())
        QStyledItemDelegate::setEditorData(editor, index);
}

void RunsDelegate::updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                                        const QModelIndex&) const {
    editor->setGeometry(option.rect.adjusted(Theme::instance().px(8), 0, 0, 0));
}

void RunsDelegate::paint(QPainter* p, const QStyleOptionViewItem& option,
                         const QModelIndex& index) const {
    const Theme& theme = Theme::instance();
    const Tokens& t = theme.tokens();
    const auto* model = static_cast<const RunsModel*>(index.model());
    const auto& row = model->row(index.row());
    const QRectF box = option.rect;
    const Room* room = session_.job().room(row.roomId);
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const double pad = theme.px(12);
    if (row.runId.empty()) {
        p->setFont(theme.small());
        p->setPen(t.ink2);
        const QString count = row.runs == 1 ? tr("1 run") : tr("%1 runs").arg(row.runs);
        const double wide = p->fontMetrics().horizontalAdvance(count);
        p->drawText(box.adjusted(pad, 0, -pad, 0), Qt::AlignVCenter | Qt::AlignRight, count);
        p->drawText(
            box.adjusted(pad, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
            elided(*p, room != nullptr ? q(room->name) : QString(), box.width() - wide - 3 * pad));
        p->restore();
        return;
    }
    const Run* run = session_.job().run(row.runId);
    if (run == nullptr) {
        p->restore();
        return;
    }
    if ((option.state & QStyle::State_Selected) != 0)
        p->fillRect(box, t.copperSoft);
    p->setPen(QPen(t.rule, 1));
    p->drawLine(box.bottomLeft(), box.bottomRight());
    drawTape(*p, QRectF(box.left(), box.top(), theme.px(6), box.height() - 1),
             room != nullptr ? room->tape : 0);
    const Cable* cable = session_.catalogue().cable(run->cableId);
    const Service* service = session_.catalogue().service(run->serviceId);
    const double barLeft = box.left() + box.width() * 0.5;
    p->setPen(t.ink);
    p->setFont(theme.bold());
    const double textWidth = barLeft - box.left() - pad - 4;
    p->drawText(QRectF(box.left() + pad, box.top() + theme.px(4), textWidth, theme.px(19)),
                Qt::AlignVCenter, elided(*p, q(run->label), textWidth));
    p->setFont(theme.small());
    p->setPen((option.state & QStyle::State_Selected) != 0 ? t.ink : t.ink2);
    QString sub =
        cable == nullptr ? tr("no cable")
        : cable->kind == CableKind::Balanced
            ? (cable->category == Category::None ? tr("%1 Ω pair").arg(cable->impedanceOhm.value)
                                                 : q(categoryName(cable->category)))
            : tr("%1 Ω").arg(cable->impedanceOhm.value, 0, 'f', 0);
    const RunFinding* f = session_.finding(run->id);
    const double stateWidth = theme.px(26);
    const double right = box.right() - pad;
    // Under bar and state there is room for it, but for what stands there already.
    const QString coiled = f != nullptr && run->leftCoiled ? tr("coiled") : QString();
    const double subWidth =
        right - box.left() - pad -
        (coiled.isEmpty() ? 0 : p->fontMetrics().horizontalAdvance(coiled) + pad);
    // Where both have no room, what it is for.
    if (service != nullptr) {
        const QString both = sub + QStringLiteral(" · ") + term(service->name);
        sub = p->fontMetrics().horizontalAdvance(both) <= subWidth ? both : term(service->name);
    }
    p->drawText(QRectF(box.left() + pad, box.top() + theme.px(23), subWidth, theme.px(17)),
                Qt::AlignVCenter, elided(*p, sub, subWidth));
    if (f != nullptr) {
        drawShareBar(*p,
                     QRectF(barLeft, box.top() + theme.px(6),
                            right - stateWidth - theme.px(10) - barLeft, theme.px(15)),
                     f->predictedShare, f->measuredShare);
        drawState(*p, QRectF(right - stateWidth, box.top() + theme.px(6), stateWidth, theme.px(15)),
                  f->state());
        if (!coiled.isEmpty()) {
            p->setPen(t.ink2);
            p->drawText(QRectF(right - 80, box.top() + theme.px(23), 80, theme.px(17)),
                        Qt::AlignVCenter | Qt::AlignRight, coiled);
        }
    }
    p->restore();
}

RunsPanel::RunsPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), model_(new RunsModel(session, this)),
      find_(new QLineEdit(this)), list_(new QListView(this)), add_(new QLineEdit(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 12, 0, 8);
    layout->setSpacing(8);
    find_->setPlaceholderText(tr("Find a run, room, port…"));
    find_->setAccessibleName(tr("Find a run"));
    find_->setObjectName(QStringLiteral("find"));
    find_->setClearButtonEnabled(true);
    list_->setModel(model_);
    list_->setItemDelegate(new RunsDelegate(session, list_));
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setUniformItemSizes(false);
    list_->setAccessibleName(tr("Runs"));
    list_->setObjectName(QStringLiteral("runs"));
    list_->viewport()->setAcceptDrops(true);
    list_->viewport()->installEventFilter(this);
    list_->installEventFilter(this);
    add_->setPlaceholderText(tr("Add: %1").arg(QStringLiteral("SL-D04 61.5 m cat6a-utp")));
    add_->setToolTip(tr("A name, then length, cable and service in any order; what is left out is "
                        "as in the room's last run (Insert)"));
    add_->setAccessibleName(tr("Add a run"));
    add_->setObjectName(QStringLiteral("addRun"));
    setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Preferred);
    connect(&Theme::instance(), &Theme::changed, this, [this] { updateGeometry(); });
    layout->addWidget(find_);
    layout->addWidget(list_, 1);
    layout->addWidget(add_);
    connect(find_, &QLineEdit::textChanged, model_, &RunsModel::setFilter);
    connect(find_, &QLineEdit::returnPressed, list_, [this] { list_->setFocus(); });
    connect(add_, &QLineEdit::returnPressed, this, [this] {
        // Not clear(): that could be taken back, and Ctrl+Z is to take back the run.
        if (session_.addRun(add_->text()))
            add_->setText({});
    });
    connect(list_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            [this] { takeSelection(); });
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this,
            [this] { takeSelection(); });
    connect(&session, &Session::selectionChanged, this, [this] { showSelection(); });
    connect(model_, &QAbstractItemModel::modelReset, this, [this] { showSelection(); });
    connect(&Theme::instance(), &Theme::changed, list_, [this] { list_->doItemsLayout(); });
}

QSize RunsPanel::sizeHint() const {
    return {Theme::instance().px(296), QWidget::sizeHint().height()};
}
QSize RunsPanel::minimumSizeHint() const {
    return {Theme::instance().px(224), QWidget::minimumSizeHint().height()};
}

void RunsPanel::takeSelection() {
    if (showing_)
        return;
    std::vector<std::string> all;
    for (const auto& index : list_->selectionModel()->selectedIndexes())
        all.push_back(model_->row(index.row()).runId);
    const QModelIndex current = list_->currentIndex();
    if (all.empty() || !current.isValid())
        return;
    std::string id = model_->row(current.row()).runId;
    if (id.empty() || std::find(all.begin(), all.end(), id) == all.end())
        id = all.front();
    session_.select(id, all);
}

void RunsPanel::showSelection() {
    showing_ = true;
    auto* selection = list_->selectionModel();
    QItemSelection wanted;
    for (const auto& id : session_.selected())
        if (const int row = model_->rowOf(id); row >= 0)
            wanted.select(model_->index(row), model_->index(row));
    selection->select(wanted, QItemSelectionModel::ClearAndSelect);
    if (const int row = model_->rowOf(session_.currentId()); row >= 0) {
        selection->setCurrentIndex(model_->index(row), QItemSelectionModel::NoUpdate);
        list_->scrollTo(model_->index(row));
    }
    showing_ = false;
}

bool RunsPanel::keyPressed(int key, Qt::KeyboardModifiers modifiers) {
    if (key == Qt::Key_Delete) {
        session_.removeSelected();
        return true;
    }
    if (key == Qt::Key_D && modifiers == Qt::ControlModifier) {
        session_.duplicateSelected();
        return true;
    }
    return false;
}

bool RunsPanel::eventFilter(QObject* watched, QEvent* event) {
    if (watched == list_ && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (keyPressed(key->key(), key->modifiers()))
            return true;
    }
    if (watched == list_->viewport() &&
        (event->type() == QEvent::DragEnter || event->type() == QEvent::DragMove ||
         event->type() == QEvent::Drop)) {
        auto* drop = static_cast<QDropEvent*>(event);
        const QModelIndex index = list_->indexAt(drop->position().toPoint());
        const bool onRun = index.isValid() && !model_->row(index.row()).runId.empty();
        if (!drop->mimeData()->hasUrls())
            return false;
        if (event->type() == QEvent::Drop && onRun) {
            QStringList files;
            for (const auto& url : drop->mimeData()->urls())
                if (url.isLocalFile())
                    files << url.toLocalFile();
            emit filesDropped(q(model_->row(index.row()).runId), files);
        }
        if (event->type() == QEvent::DragMove)
            drop->setAccepted(onRun);
        else
            drop->acceptProposedAction();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace burin
