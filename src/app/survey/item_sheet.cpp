#include "app/survey/item_sheet.h"
#include "app/frame/said.h"
#include "app/frame/sheet_field.h"
#include "app/look/painters.h"
#include "core/base/lookup.h"
#include "core/job/ports.h"
#include <QComboBox>

namespace burin {

ItemSheet::ItemSheet(Session& session, QWidget* parent)
    : Panel({}, parent), session_(session), grid_(new QGridLayout), near_(link({}, this)),
      far_(link({}, this)) {
    setObjectName(QStringLiteral("itemSheet"));
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(2);
    grid_->setColumnStretch(1, 1);
    body()->addLayout(grid_);
    body()->addWidget(near_);
    body()->addWidget(far_);
    near_->setObjectName(QStringLiteral("nearHere"));
    far_->setObjectName(QStringLiteral("farHere"));
    connect(near_, &QPushButton::clicked, this, [this] { tie(false); });
    connect(far_, &QPushButton::clicked, this, [this] { tie(true); });
    for (auto signal : {&Session::selectionChanged, &Session::jobChanged})
        connect(&session, signal, this, [this] { showEnds(); });
    showEnds();
    hide();
}

/// A run that was typed gets its ends on the plan here.
void ItemSheet::showEnds() {
    const Place* place = session_.hasJob() ? byId(session_.job().places, chosenId_) : nullptr;
    const Run* run = session_.hasJob() ? session_.current() : nullptr;
    const bool both = place != nullptr && run != nullptr;
    near_->setVisible(both && run->near.placeId != chosenId_ && run->far.placeId != chosenId_);
    far_->setVisible(both && run->near.placeId != chosenId_ && run->far.placeId != chosenId_);
    if (both) {
        near_->setText(tr("%1 starts here").arg(q(run->label)));
        far_->setText(tr("%1 ends here").arg(q(run->label)));
    }
}

void ItemSheet::tie(bool far) {
    const Place* place = byId(session_.pending().places, chosenId_);
    const Run* run = session_.pending().run(session_.currentId());
    if (place == nullptr || run == nullptr)
        return;
    Run after = *run;
    (far ? after.far : after.near) = PortFinder(session_.pending()).on(*place);
    session_.commit({"end of " + run->label, {put(std::optional(*run), std::optional(after))}});
}

void ItemSheet::show(const std::string& floorId, const std::string& chosenId) {
    floorId_ = floorId;
    chosenId_ = chosenId;
    QString title;
    lines_ = session_.hasJob() ? linesFor(session_, floorId, chosenId, &title)
                               : std::vector<SheetLine>();
    setTitle(title);
    setVisible(!lines_.empty());
    showEnds();
    // The same rows stay, and with them the focus: only what they read changes.
    QString rows = q(chosenId) + q(floorId);
    for (const auto& line : lines_)
        rows += line.label + line.hint + line.choices.join(QLatin1Char('|'));
    if (rows != shown_) {
        shown_ = rows;
        makeRows();
        return;
    }
    for (std::size_t row = 0; row < lines_.size(); ++row) {
        QWidget* entry = grid_->itemAtPosition(static_cast<int>(row), 1)->widget();
        if (auto* field = qobject_cast<SheetField*>(entry))
            field->showText(lines_[row].value);
        else if (auto* box = qobject_cast<QComboBox*>(entry))
            box->setCurrentText(lines_[row].value);
    }
}

/// Puts what was typed or chosen in a row into the job, or says why not.
std::optional<Fault> ItemSheet::keep(std::size_t row, const QString& text) {
    const auto edit = lines_[row].keep(text);
    if (!edit)
        return edit.error();
    if (edit->changes.empty())
        return std::nullopt;
    if (const auto tried = apply(session_.pending(), *edit); !tried)
        return tried.error();
    session_.commit(*edit);
    return std::nullopt;
}

void ItemSheet::makeRows() {
    empty(*grid_);
    for (std::size_t row = 0; row < lines_.size(); ++row) {
        const SheetLine& line = lines_[row];
        auto* label = words(Voice::Small, this);
        label->setText(line.label);
        label->setWordWrap(false);
        QWidget* entry = nullptr;
        const QString name = QStringLiteral("item ") + QLatin1String(line.name);
        if (line.choices.isEmpty()) {
            auto* field = new SheetField(session_, line.label, name, this);
            field->showText(line.value);
            field->setPlaceholderText(line.hint);
            connect(field, &SheetField::typed, this, [this, field, row](const QString& text) {
                if (const auto fault = keep(row, text))
                    field->refuse(*fault);
            });
            entry = field;
        } else {
            auto* box = new QComboBox(this);
            box->setObjectName(name);
            box->setAccessibleName(line.label);
            box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
            box->addItems(line.choices);
            box->setCurrentText(line.value);
            connect(box, &QComboBox::textActivated, this, [this, box, row](const QString& text) {
                if (const auto fault = keep(row, text)) {
                    emit session_.message(said(*fault, session_), true);
                    box->setCurrentText(lines_[row].value);
                }
            });
            entry = box;
        }
        label->setBuddy(entry);
        entry->setToolTip(line.tip);
        entry->setAccessibleDescription(line.tip);
        grid_->addWidget(label, static_cast<int>(row), 0);
        grid_->addWidget(entry, static_cast<int>(row), 1);
    }
}

} // namespace burin
