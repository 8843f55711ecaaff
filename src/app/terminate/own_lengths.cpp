#include "app/terminate/own_lengths.h"
#include "app/frame/panel.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include "core/connector/cut_text.h"
#include "core/edit/end_edit.h"
#include "files/qt_text.h"
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <set>

namespace burin {

OwnLengths::OwnLengths(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), head_(words(Voice::Bold, this)),
      source_(new QLineEdit(this)), keep_(new QPushButton(tr("Keep"), this)),
      drop_(link(tr("take the catalogue's again"), this)) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* panel = new Panel(tr("Lengths of the part's own sheet"), this);
    auto* inside = new QWidget(this);
    rows_ = new QVBoxLayout(inside);
    rows_->setContentsMargins(0, 0, 0, 0);
    rows_->setSpacing(6);
    panel->body()->addWidget(head_);
    panel->body()->addWidget(scrolled(inside, this), 1);
    source_->setObjectName(QStringLiteral("ownSource"));
    source_->setAccessibleName(tr("Where the lengths are from"));
    source_->setPlaceholderText(tr("Where from: sheet of the part, its date"));
    panel->body()->addWidget(source_);
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    keep_->setObjectName(QStringLiteral("keepOwn"));
    drop_->setObjectName(QStringLiteral("dropOwn"));
    auto* back = link(tr("back to the card"), this);
    line->addWidget(keep_);
    line->addWidget(drop_);
    line->addWidget(back);
    line->addStretch(1);
    panel->body()->addLayout(line);
    all->addWidget(panel, 1);
    connect(keep_, &QPushButton::clicked, this, &OwnLengths::keep);
    connect(source_, &QLineEdit::returnPressed, this, &OwnLengths::keep);
    connect(drop_, &QPushButton::clicked, this, &OwnLengths::dropOwn);
    connect(back, &QPushButton::clicked, this, &OwnLengths::closed);
}

void OwnLengths::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        emit closed();
    else
        QWidget::keyPressEvent(event);
}

void OwnLengths::open(const EndCard& card, const std::string& connectionId) {
    card_ = ownCard(card, connectionId);
    connectionId_ = connectionId;
    head_->setText(term(card.name));
    drop_->setVisible(byId(session_.pending().cards, card_.id) != nullptr);
    empty(*rows_);
    auto* table = new QWidget(this);
    auto* grid = new QGridLayout(table);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(6);
    int row = 0;
    // What a person said of them, not the catalogue.
    std::set<std::string> catalogues;
    for (const auto& one : session_.catalogue().cards)
        if (byId(session_.job().cards, one.id) == nullptr) {
            for (const auto& cut : one.cuts)
                catalogues.insert(cut.source);
            for (const auto& proof : one.proofs)
                catalogues.insert(proof.source);
        }
    QString source;
    const auto add = [&](const QString& name, const auto& of, const QString& from) {
        auto* what = words(Voice::Text, table);
        what->setText(name);
        auto* field = new QLineEdit(table);
        field->setObjectName(QStringLiteral("own-%1").arg(row));
        field->setAccessibleName(name);
        field->setPlaceholderText(tr("not said by the sheet"));
        field->setText(figure(rangeAsTyped({of.leastMm, of.mostMm}, session_.units())));
        connect(field, &QLineEdit::returnPressed, this, [this] { focusNextChild(); });
        auto* datum = words(Voice::Small, table);
        datum->setText(from);
        grid->addWidget(what, row, 0);
        grid->addWidget(field, row, 1);
        grid->addWidget(datum, row, 2);
        if (!of.source.empty() && !catalogues.contains(of.source))
            source = q(of.source);
        ++row;
        return field;
    };
    cuts_.clear();
    proofs_.clear();
    for (const auto& cut : card_.cuts)
        cuts_.push_back(add(term(cut.name), cut, term(datumText(cut.from))));
    for (const auto& proof : card_.proofs)
        proofs_.push_back(proof.isMeasured() ? add(term(proof.what), proof, tr("measured"))
                                             : nullptr);
    grid->setColumnStretch(0, 2);
    grid->setColumnStretch(1, 2);
    grid->setColumnStretch(2, 2);
    rows_->addWidget(table);
    rows_->addStretch(1);
    source_->setText(source);
    if (!cuts_.empty()) {
        cuts_.front()->setFocus(Qt::OtherFocusReason);
        cuts_.front()->selectAll();
    }
}

void OwnLengths::keep() {
    const std::string source = source_->text().trimmed().toStdString();
    EndCard card = card_;
    const auto take = [&](QLineEdit* field, auto& of) {
        const auto typed = parseMillimetreRange(field->text().toStdString(), session_.units());
        if (!typed) {
            emit session_.message(
                tr("%1: %2").arg(field->accessibleName(), said(typed.error(), session_)), true);
            field->setFocus(Qt::OtherFocusReason);
            return false;
        }
        // As it stands already, to the last figure that is shown, it is the catalogue's own.
        if (rangeAsTyped(*typed, session_.units()) ==
            rangeAsTyped({of.leastMm, of.mostMm}, session_.units()))
            return true;
        of.leastMm = typed->leastMm;
        of.mostMm = typed->mostMm;
        of.source = typed->leastMm || typed->mostMm ? source : std::string();
        return true;
    };
    for (std::size_t i = 0; i < card.cuts.size(); ++i)
        if (!take(cuts_[i], card.cuts[i]))
            return;
    for (std::size_t i = 0; i < card.proofs.size(); ++i)
        if (proofs_[i] != nullptr && !take(proofs_[i], card.proofs[i]))
            return;
    if (source.empty()) {
        emit session_.message(tr("Say where the lengths are from: the part's sheet and its date."),
                              true);
        source_->setFocus(Qt::OtherFocusReason);
        return;
    }
    const Edit edit = keptCard(session_.pending(), card);
    if (!edit.changes.empty())
        session_.commit(edit);
    emit closed();
}

void OwnLengths::dropOwn() {
    if (const UserCard* own = byId(session_.pending().cards, card_.id))
        session_.commit(
            {"card of the catalogue again", put(std::optional(*own), std::optional<UserCard>())});
    emit closed();
}

} // namespace burin
