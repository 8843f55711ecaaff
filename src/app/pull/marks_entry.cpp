#include "app/pull/marks_entry.h"
#include "app/frame/panel.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include "app/pull/pull_list.h"
#include "app/pull/pull_words.h"
#include "core/base/lookup.h"
#include "core/edit/apply.h"

#include <QApplication>
#include <QDate>
#include <QDrag>
#include <QMimeData>
#include <QMouseEvent>

namespace burin {
namespace {

enum Column { RunColumn, BoxColumn, PlannedColumn, StartColumn, EndColumn, CameColumn };

} // namespace

MarksEntry::MarksEntry(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), grid_(new QGridLayout(this)) {
    setObjectName(QStringLiteral("marks"));
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(9);
    grid_->setVerticalSpacing(2);
    grid_->setColumnStretch(CameColumn, 1);
    const QStringList heads{tr("run"),           tr("box"),         tr("to pull"),
                            tr("mark at start"), tr("mark at end"), tr("came")};
    for (int i = 0; i < heads.size(); ++i) {
        auto* label = words(Voice::Small, this);
        label->setText(heads[i]);
        label->setWordWrap(false);
        heads_ << label;
        grid_->addWidget(label, 0, i);
    }
}

const PullFinding* MarksEntry::pull() const {
    const auto findings = session_.jobFindings();
    return findings && session_.hasJob() ? findings->pulls.pullOf(session_.currentId()) : nullptr;
}

void MarksEntry::showPull() {
    const PullFinding* pull = this->pull();
    std::vector<std::string> ids;
    for (std::size_t i = 0; pull != nullptr && i < pull->runs.size(); ++i)
        ids.push_back(pull->runs[i].runId);
    for (auto* head : heads_)
        head->setVisible(!ids.empty());
    const auto typing = ids == runIds_ ? std::nullopt : beingTyped();
    if (ids != runIds_) {
        runIds_ = ids;
        makeRows();
    }
    for (std::size_t row = 0; row < rows_.size(); ++row)
        fillRow(row, *pull);
    if (typing)
        goOnTyping(*typing);
}

/// What is being typed, where the plan puts other cables beside it meanwhile.
std::optional<MarksEntry::Typing> MarksEntry::beingTyped() const {
    for (const bool end : {false, true})
        for (const auto& row : rows_) {
            const SheetField* field = end ? row.end : row.start;
            if (field->hasFocus())
                return Typing{row.runId, end, field->isModified() ? field->text() : QString()};
        }
    return std::nullopt;
}

void MarksEntry::goOnTyping(const Typing& typing) {
    for (const auto& row : rows_)
        if (row.runId == typing.runId) {
            SheetField* field = typing.end ? row.end : row.start;
            field->setFocus();
            if (!typing.text.isEmpty()) {
                field->setText(typing.text);
                field->setModified(true);
            }
        }
}

void MarksEntry::makeRows() {
    for (auto& row : rows_)
        for (QWidget* widget : std::initializer_list<QWidget*>{row.run, row.planned, row.came,
                                                               row.box, row.start, row.end}) {
            widget->hide();
            widget->deleteLater();
        }
    rows_.clear();
    const auto label = [this](Voice voice) {
        auto* out = words(voice, this);
        out->setWordWrap(false);
        return out;
    };
    for (std::size_t i = 0; i < runIds_.size(); ++i) {
        const Run* run = session_.job().run(runIds_[i]);
        const QString name = run == nullptr ? QString() : q(run->label);
        Row row{runIds_[i],
                label(Voice::Text),
                label(Voice::Text),
                label(Voice::Text),
                new QComboBox(this),
                new SheetField(session_, tr("%1, mark at start").arg(name),
                               QStringLiteral("start ") + name, this),
                new SheetField(session_, tr("%1, mark at end").arg(name),
                               QStringLiteral("end ") + name, this)};
        row.run->setText(name);
        row.came->setWordWrap(true);
        row.run->installEventFilter(this);
        row.box->setObjectName(QStringLiteral("box ") + name);
        row.box->setAccessibleName(tr("%1, box").arg(name));
        row.box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
        // Tab goes through the marks; a box is chosen by mouse, or with Shift+Tab from the first.
        row.box->setFocusPolicy(Qt::ClickFocus);
        for (auto* field : {row.start, row.end}) {
            field->setFixedWidth(Theme::instance().px(84));
            connect(field, &SheetField::typed, this, [this, i] { keep(i); });
        }
        // Enter is told before what was typed is kept: what it leads to comes after that.
        const auto enter = [this, i](QLineEdit* from, bool end) {
            connect(
                from, &QLineEdit::returnPressed, this, [this, i, end] { goOn(i, end); },
                Qt::QueuedConnection);
        };
        enter(row.start, false);
        enter(row.end, true);
        connect(row.box, &QComboBox::activated, this,
                [this, i](int index) { chooseBox(i, index); });
        const int line = static_cast<int>(i) + 1;
        grid_->addWidget(row.run, line, RunColumn);
        grid_->addWidget(row.box, line, BoxColumn);
        grid_->addWidget(row.planned, line, PlannedColumn, Qt::AlignRight | Qt::AlignVCenter);
        grid_->addWidget(row.start, line, StartColumn);
        grid_->addWidget(row.end, line, EndColumn);
        grid_->addWidget(row.came, line, CameColumn);
        rows_.push_back(row);
    }
    // Starts from top to bottom, then ends.
    QWidget* before = nullptr;
    for (const bool end : {false, true})
        for (const auto& row : rows_) {
            QWidget* now = end ? row.end : row.start;
            if (before != nullptr)
                setTabOrder(before, now);
            before = now;
        }
}

void MarksEntry::fillRow(std::size_t index, const PullFinding& pull) {
    Row& row = rows_[index];
    const PulledRun& one = pull.runs[index];
    const auto findings = session_.jobFindings();
    const Run* run = session_.pending().run(row.runId);
    if (run == nullptr)
        return;
    const Tokens& t = Theme::instance().tokens();
    row.run->setCursor(one.there ? Qt::ArrowCursor : Qt::OpenHandCursor);
    row.run->setToolTip(one.there ? tr("Pulled: it stays in this pull")
                                  : tr("Draw it onto the pull it is to go with"));
    row.planned->setText(figure(formatLength(one.plannedM, session_.units())));
    // Boxes of its cable, with the one it comes from.
    row.box->clear();
    int chosen = -1;
    for (const auto& box : findings->pulls.boxes) {
        if (box.cableId != run->cableId && box.id != one.boxId)
            continue;
        if (box.id == one.boxId)
            chosen = row.box->count();
        row.box->addItem(boxName(box), q(box.id));
        if (box.isNew)
            row.box->setItemData(row.box->count() - 1, tr("not on the list of boxes yet"),
                                 Qt::ToolTipRole);
    }
    row.box->setCurrentIndex(chosen);
    const bool marked = byId(session_.pending().boxes, one.boxId) != nullptr;
    const auto mark = [&](SheetField* field, const std::optional<int>& kept,
                          const std::optional<int>& expected) {
        field->showText(kept ? markOf(*kept, session_.pending(), one.boxId) : QString());
        field->setPlaceholderText(expected && marked ? q(markText(*expected)) : QString());
        field->setEnabled(marked);
        field->setToolTip(marked ? tr("As printed on the jacket; in grey what it should be near")
                                 : tr("Add this box first, below: its marks are not known"));
    };
    mark(row.start, run->piece.startMark, one.startMark);
    // What stands in grey follows the start that was read, as soon as the plan knows of it.
    const bool known = !run->piece.startMark || run->piece.startMark == one.startMark;
    mark(row.end, run->piece.endMark, known ? one.endMark : std::nullopt);
    row.came->setStyleSheet({});
    if (!marked && one.there) {
        row.came->setText(tr("tested, so it is pulled: which box was it?"));
        row.came->setStyleSheet(QStringLiteral("color: %1;").arg(t.ink2.name()));
        return;
    }
    if (!marked) {
        row.came->setText(tr("add the box first"));
        row.came->setStyleSheet(QStringLiteral("color: %1;").arg(t.ink2.name()));
        return;
    }
    const PulledCheck* check = findings->pulledFor(row.runId);
    if (!one.pulledM || check == nullptr) {
        row.came->clear();
        return;
    }
    QString text = figure(formatLength(*one.pulledM, session_.units()));
    QColor colour = t.blue;
    if (check->isShort()) {
        text += check->reaches
                    ? tr(" · %1 less to dress")
                          .arg(figure(formatLength(check->lacksM, session_.units())))
                    : tr(" · %1 short").arg(figure(formatLength(check->lacksM, session_.units())));
        colour = check->reaches ? t.ochre : t.rust;
    } else if (check->farFromPlan) {
        text += tr(" · far from the plan");
        colour = t.ochre;
    } else if (check->needM) {
        const double spare = check->linkM - *check->needM;
        text += spare < 0.05
                    ? tr(" · as planned")
                    : tr(" · %1 to spare").arg(figure(formatLength(spare, session_.units())));
        colour = t.verdigris;
    }
    row.came->setText(text);
    row.came->setStyleSheet(QStringLiteral("color: %1;").arg(colour.name()));
}

std::optional<int> MarksEntry::markIn(SheetField* field, const std::string& boxId, bool* bad) {
    const QString text = field->text().trimmed();
    const Box* box = byId(session_.pending().boxes, boxId);
    if (text.isEmpty() || box == nullptr)
        return std::nullopt;
    const auto mark = readMark(text.toStdString(), box->markUnit);
    if (!mark) {
        field->refuse(mark.error());
        *bad = true;
        return std::nullopt;
    }
    return *mark;
}

void MarksEntry::keep(std::size_t index) {
    const PullFinding* pull = this->pull();
    if (pull == nullptr || index >= rows_.size() || index >= pull->runs.size())
        return;
    Row& row = rows_[index];
    const Run* run = session_.pending().run(row.runId);
    const std::string boxId =
        run != nullptr && !run->piece.boxId.empty() ? run->piece.boxId : pull->runs[index].boxId;
    bool bad = false;
    TypedMarks marks{boxId, {}, {}, QDate::currentDate().toString(Qt::ISODate).toStdString()};
    marks.start = markIn(row.start, boxId, &bad);
    marks.end = markIn(row.end, boxId, &bad);
    if (bad)
        return;
    const Edit edit =
        markedEdit(session_.pending(), pullOf(*pull, session_.pending()), row.runId, marks);
    if (edit.changes.empty())
        return;
    if (const auto tried = apply(session_.pending(), edit); !tried) {
        auto* field = row.end->hasFocus() || !row.start->hasFocus() ? row.end : row.start;
        return field->refuse(tried.error());
    }
    session_.commit(edit);
}

void MarksEntry::chooseBox(std::size_t index, int choice) {
    const PullFinding* pull = this->pull();
    const std::string boxId = rows_[index].box->itemData(choice).toString().toStdString();
    if (pull == nullptr || byId(session_.pending().boxes, boxId) == nullptr)
        return;
    const Run* run = session_.pending().run(rows_[index].runId);
    if (run == nullptr)
        return;
    const Edit edit =
        markedEdit(session_.pending(), pullOf(*pull, session_.pending()), rows_[index].runId,
                   {boxId, run->piece.startMark, run->piece.endMark, run->piece.pulledOn});
    if (const auto tried = apply(session_.pending(), edit); !tried)
        emit session_.message(said(tried.error(), session_), true);
    else
        session_.commit(edit);
}

void MarksEntry::goOn(std::size_t index, bool end) {
    if (index >= rows_.size())
        return;
    QLineEdit* now = end ? rows_[index].end : rows_[index].start;
    if (now->isModified())
        return; // refused: it stays where it is to be mended
    const auto field = [&](std::size_t row, bool ends) {
        return ends ? rows_[row].end : rows_[row].start;
    };
    for (std::size_t row = index + 1; row < rows_.size(); ++row)
        if (field(row, end)->isEnabled())
            return field(row, end)->setFocus(Qt::TabFocusReason);
    if (!end)
        for (std::size_t row = 0; row < rows_.size(); ++row)
            if (rows_[row].end->isEnabled())
                return rows_[row].end->setFocus(Qt::TabFocusReason);
    emit finished();
}

void MarksEntry::focusFirst() {
    for (const bool end : {false, true})
        for (const auto& row : rows_) {
            SheetField* field = end ? row.end : row.start;
            if (field->isEnabled() && field->text().isEmpty())
                return field->setFocus(Qt::TabFocusReason);
        }
}

bool MarksEntry::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::MouseButtonPress)
        pressedAt_ = static_cast<QMouseEvent*>(event)->position().toPoint();
    if (event->type() != QEvent::MouseMove ||
        (static_cast<QMouseEvent*>(event)->buttons() & Qt::LeftButton) == 0)
        return QWidget::eventFilter(watched, event);
    const QPoint moved = static_cast<QMouseEvent*>(event)->position().toPoint() - pressedAt_;
    const auto row = std::find_if(rows_.begin(), rows_.end(),
                                  [&](const Row& one) { return one.run == watched; });
    const PullFinding* now = pull();
    const PulledRun* run = row == rows_.end() || now == nullptr ? nullptr : now->run(row->runId);
    if (run == nullptr || run->there || moved.manhattanLength() < QApplication::startDragDistance())
        return QWidget::eventFilter(watched, event);
    auto* dragged = new QMimeData;
    dragged->setData(QLatin1String(draggedRun), QByteArray::fromStdString(row->runId));
    auto* drag = new QDrag(this);
    drag->setPixmap(row->run->grab());
    drag->setMimeData(dragged);
    drag->exec(Qt::CopyAction);
    return true;
}

} // namespace burin
