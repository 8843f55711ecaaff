#include "app/survey/item_sheet.h"
#include "app/look/painters.h"
#include "app/survey/item_lines.h"
#include "core/lookup.h"
#include <QComboBox>
#include <QLineEdit>

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
    near_->setVisible(both && run->nearPlaceId != chosenId_ && run->farPlaceId != chosenId_);
    far_->setVisible(both && run->nearPlaceId != chosenId_ && run->farPlaceId != chosenId_);
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
    (far ? after.farPlaceId : after.nearPlaceId) = place->id;
    (far ? after.farEnd : after.nearEnd) = place->name;
    session_.commit({"end of " + run->label, {put(std::optional(*run), std::optional(after))}});
}

void ItemSheet::show(const std::string& floorId, const std::string& chosenId) {
    floorId_ = floorId;
    chosenId_ = chosenId;
    QString title;
    const auto lines = session_.hasJob() ? linesFor(session_, floorId, chosenId, &title)
                                         : std::vector<SheetLine>();
    // Shown again only when it reads otherwise: a field being typed in stays as it is.
    QString reads = q(chosenId) + q(floorId) + title;
    for (const auto& line : lines)
        reads += line.label + line.value + line.choices.join(QLatin1Char('|'));
    if (reads == shown_)
        return;
    shown_ = reads;
    showEnds();
    setTitle(title);
    setVisible(!lines.empty());
    while (QLayoutItem* item = grid_->takeAt(0)) {
        if (item->widget() != nullptr) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    int row = 0;
    for (const auto& line : lines) {
        auto* label = words(Voice::Small, this);
        label->setText(line.label);
        label->setWordWrap(false);
        // Of the thing as it is then: it may have been dragged since its rows were shown.
        const auto keep = [this, floorId, chosenId,
                           at = static_cast<std::size_t>(row)](const QString& text) {
            QString untold;
            const auto now = linesFor(session_, floorId, chosenId, &untold);
            if (at >= now.size())
                return;
            const auto edit = now[at].keep(text);
            if (!edit)
                emit session_.message(q(edit.error().text()), true);
            else if (!edit->changes.empty())
                session_.commit(*edit);
        };
        QWidget* entry = nullptr;
        if (line.choices.isEmpty()) {
            auto* field = new QLineEdit(line.value, this);
            field->setPlaceholderText(line.hint);
            connect(field, &QLineEdit::editingFinished, this, [field, keep] {
                if (!field->isModified())
                    return;
                field->setModified(false);
                keep(field->text());
            });
            entry = field;
        } else {
            auto* box = new QComboBox(this);
            box->addItems(line.choices);
            box->setCurrentText(line.value);
            connect(box, &QComboBox::textActivated, this, keep);
            entry = box;
        }
        entry->setAccessibleName(line.label);
        entry->setObjectName(QStringLiteral("item ") + line.label);
        grid_->addWidget(label, row, 0);
        grid_->addWidget(entry, row++, 1);
    }
}

} // namespace burin
