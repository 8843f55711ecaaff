#include "app/terminate/end_checks.h"
#include "app/frame/panel.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "core/connector/card.h"
#include "core/connector/cut_text.h"
#include "files/qt_text.h"
#include "files/spoken.h"
#include <QHBoxLayout>

namespace burin {
namespace {

const EndCheck* checkOf(const Termination* made, const std::string& proofId) {
    if (made != nullptr)
        for (const auto& check : made->checks)
            if (check.proofId == proofId)
                return &check;
    return nullptr;
}
/// A box that can be seen on a dark plate too: its outline is made from the window's colour.
void outline(QCheckBox* box) {
    QPalette palette = box->palette();
    palette.setColor(QPalette::Window, Theme::instance().tokens().ink2);
    box->setPalette(palette);
}
bool isAnswered(const QWidget* answer) {
    const auto* field = qobject_cast<const QLineEdit*>(answer);
    const auto* box = qobject_cast<const QCheckBox*>(answer);
    return field != nullptr ? !field->text().isEmpty() : box != nullptr && box->isChecked();
}

} // namespace

EndChecks::EndChecks(QWidget* parent) : QWidget(parent), lines_(new QVBoxLayout(this)) {
    lines_->setContentsMargins(0, 0, 0, 0);
    lines_->setSpacing(4);
    setObjectName(QStringLiteral("endChecks"));
}

void EndChecks::showChecks(const EndCard* card, const Termination* made, UnitSystem units) {
    const std::vector<CardProof> proofs = card == nullptr ? std::vector<CardProof>() : card->proofs;
    const std::string of = made == nullptr ? std::string() : made->id;
    // Somebody may be typing: the same fields stay while they are of the same.
    if (proofs == shown_ && of == of_ && units == units_ && !proofs.empty()) {
        for (std::size_t i = 0; i < answers_.size(); ++i) {
            const EndCheck* found = checkOf(made, shown_[i].id);
            if (auto* box = qobject_cast<QCheckBox*>(answers_[i])) {
                const QSignalBlocker quiet(box);
                box->setChecked(found != nullptr && found->good);
            } else if (auto* field = qobject_cast<QLineEdit*>(answers_[i]);
                       field != nullptr && !field->hasFocus()) {
                field->setText(found != nullptr && found->mm
                                   ? q(rangeAsTyped({found->mm, found->mm}, units))
                                   : QString());
            }
        }
        return;
    }
    shown_ = proofs;
    of_ = of;
    units_ = units;
    answers_.clear();
    empty(*lines_);
    for (const auto& proof : shown_)
        addLine(proof, checkOf(made, proof.id), made != nullptr);
}

void EndChecks::addLine(const CardProof& proof, const EndCheck* found, bool made) {
    auto* row = new QWidget(this);
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(8);
    auto* what = words(Voice::Text, row);
    const QString text =
        proof.isMeasured() ? tr("%1: %2").arg(term(proof.what),
                                              q(burin::render(rangeOf(proof.leastMm, proof.mostMm),
                                                              spoken(units_))))
                           : term(proof.what);
    what->setText(made ? text : QStringLiteral("– ") + text);
    if (made && proof.isMeasured()) {
        auto* field = new QLineEdit(row);
        field->setObjectName(QStringLiteral("check-") + q(proof.id));
        field->setAccessibleName(text);
        field->setPlaceholderText(units_ == UnitSystem::Metric ? tr("mm") : tr("in"));
        field->setFixedWidth(Theme::instance().px(90));
        if (found != nullptr && found->mm)
            field->setText(figure(rangeAsTyped({found->mm, found->mm}, units_)));
        connect(field, &QLineEdit::editingFinished, this,
                [this, field, id = proof.id] { type(field, id); });
        line->addWidget(what, 1);
        line->addWidget(field, 0, Qt::AlignTop);
        answers_.push_back(field);
    } else if (made) {
        auto* box = new QCheckBox(row);
        box->setObjectName(QStringLiteral("check-") + q(proof.id));
        box->setAccessibleName(text);
        outline(box);
        connect(&Theme::instance(), &Theme::changed, box, [box] { outline(box); });
        box->setChecked(found != nullptr && found->good);
        connect(box, &QCheckBox::toggled, this, [this, id = proof.id](bool on) {
            emit checked(q(id),
                         on ? std::optional(EndCheck{id, std::nullopt, true}) : std::nullopt);
        });
        line->addWidget(box, 0, Qt::AlignTop);
        line->addWidget(what, 1);
        answers_.push_back(box);
    } else {
        line->addWidget(what, 1);
    }
    lines_->addWidget(row);
}

void EndChecks::type(QLineEdit* field, const std::string& proofId) {
    if (!field->isModified())
        return;
    field->setModified(false);
    const std::string text = field->text().trimmed().toStdString();
    if (text.empty()) {
        emit checked(q(proofId), std::nullopt);
        return;
    }
    const auto mm = parseMillimetres(text, units_);
    if (!mm) {
        emit refused(said(mm.error()));
        return;
    }
    emit checked(q(proofId), EndCheck{proofId, *mm, true});
}

bool EndChecks::enter() {
    for (auto* answer : answers_)
        if (!isAnswered(answer)) {
            answer->setFocus(Qt::OtherFocusReason);
            return true;
        }
    return false;
}

} // namespace burin
