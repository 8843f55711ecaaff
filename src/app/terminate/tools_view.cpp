#include "app/terminate/tools_view.h"
#include "app/frame/panel.h"
#include "app/frame/said.h"
#include "app/look/language.h"
#include "app/look/theme.h"
#include "core/base/lookup.h"
#include "core/edit/apply.h"
#include "core/edit/tool_line.h"
#include "core/units/render.h"
#include "files/qt_text.h"
#include <QHBoxLayout>
#include <QKeyEvent>

namespace burin {

ToolsView::ToolsView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), line_(new QLineEdit(this)) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    auto* panel = new Panel(tr("Tools of this job"), this);
    auto* inside = new QWidget(this);
    tools_ = new QVBoxLayout(inside);
    tools_->setContentsMargins(0, 0, 0, 0);
    tools_->setSpacing(8);
    panel->body()->addWidget(scrolled(inside, this), 1);
    line_->setObjectName(QStringLiteral("newTool"));
    line_->setAccessibleName(tr("A tool as a line"));
    line_->setPlaceholderText(tr("Add: stripper S1, blades 2026-09-02, 90 days, 300 ends"));
    panel->body()->addWidget(line_);
    auto* care = words(Voice::Small, this);
    care->setText(tr("Blades are changed with the tool away from the hand; old ones go into a tin, "
                     "not into the bag."));
    panel->body()->addWidget(care);
    auto* back = link(tr("back to the card"), this);
    back->setObjectName(QStringLiteral("closeTools"));
    panel->body()->addWidget(back, 0, Qt::AlignLeft);
    all->addWidget(panel, 1);
    connect(line_, &QLineEdit::returnPressed, this, &ToolsView::keep);
    connect(back, &QPushButton::clicked, this, &ToolsView::closed);
}

void ToolsView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        line_->clear();
        typedOver_.clear();
        emit closed();
    } else {
        QWidget::keyPressEvent(event);
    }
}

void ToolsView::keep() {
    const std::string text = line_->text().trimmed().toStdString();
    if (text.empty())
        return;
    Outcome<Edit> edit;
    if (typedOver_.empty()) {
        const auto tool = readTool(text, session_.pending());
        edit = tool ? Outcome<Edit>(Edit{"add tool " + tool->name,
                                         put(std::optional<HandTool>(), std::optional(*tool))})
                    : Outcome<Edit>(refuse(tool.error()));
    } else {
        edit = retypedTool(text, typedOver_, session_.pending());
    }
    if (!edit) {
        emit session_.message(said(edit.error(), session_), true);
        if (edit.error().column > 0)
            line_->setCursorPosition(edit.error().column - 1);
        return;
    }
    session_.commit(*edit);
    line_->clear();
    typedOver_.clear();
}

void ToolsView::typeOver(const std::string& toolId) {
    if (const HandTool* tool = byId(session_.pending().tools, toolId)) {
        typedOver_ = toolId;
        line_->setText(q(toolText(*tool)));
        focusLine();
    }
}

void ToolsView::addTool(const ToolFinding& found) {
    const HandTool* tool = byId(session_.job().tools, found.toolId);
    if (tool == nullptr)
        return;
    const Tokens& t = Theme::instance().tokens();
    auto* head = new QHBoxLayout;
    head->setSpacing(12);
    auto* name = words(Voice::Bold, this);
    name->setText(tr("%1 %2").arg(term(toolKindWords[tool->kind]), q(tool->name)));
    head->addWidget(name, 1);
    const auto does = [&](const QString& text, const char* objectName, auto&& edit) {
        auto* button = link(text, this);
        button->setObjectName(QLatin1String(objectName) + q(tool->name));
        connect(button, &QPushButton::clicked, this, edit);
        head->addWidget(button);
    };
    const std::string id = tool->id;
    const auto commit = [this](const Edit& edit) {
        if (!edit.changes.empty())
            session_.commit(edit);
    };
    if (hasBlades(tool->kind) && !tool->gone)
        does(tr("new blades in today"), "blades-",
             [this, id, commit] { commit(newBlades(session_.pending(), id, session_.today())); });
    if (hasGauge(tool->kind) && !tool->gone)
        does(tr("gauge checked today"), "gauge-", [this, id, commit] {
            commit(gaugeChecked(session_.pending(), id, session_.today()));
        });
    does(tr("type over"), "type-", [this, id] { typeOver(id); });
    tools_->addLayout(head);
    QStringList said;
    if (hasBlades(tool->kind) && !found.bladesOn.empty())
        said << tr("blades since %1: %2 of %3 ends, due on %4")
                    .arg(q(found.bladesOn))
                    .arg(found.ends)
                    .arg(tool->bladeEnds)
                    .arg(q(found.bladesDueOn));
    if (hasGauge(tool->kind) && !found.gaugedOn.empty())
        said << tr("gauge checked %1, due on %2").arg(q(found.gaugedOn), q(found.gaugeDueOn));
    said << tr("%1 made, %2 spoiled").arg(found.made).arg(found.spoiled);
    if (tool->gone)
        said << tr("gone");
    auto* counts = words(Voice::Small, this);
    counts->setText(said.join(QStringLiteral(" · ")));
    tools_->addWidget(counts);
    for (const auto& sentence : found.said) {
        auto* due = words(Voice::Small, this);
        due->setText(burin::said(sentence, session_));
        const bool over = found.blades == Due::Over || found.gauge == Due::Over;
        due->setStyleSheet(QStringLiteral("color: %1;").arg((over ? t.rust : t.ochre).name()));
        tools_->addWidget(due);
    }
}

void ToolsView::showTools() {
    empty(*tools_);
    const auto findings = session_.jobFindings();
    if (findings && session_.hasJob())
        for (const auto& found : findings->ends.tools)
            addTool(found);
    if (!findings || findings->ends.tools.empty()) {
        auto* none = words(Voice::Text, this);
        none->setText(tr("None yet. With tools named, every end says with which blades it was "
                         "made, and what is due is said before it spoils ends."));
        tools_->addWidget(none);
    }
    tools_->addStretch(1);
}

} // namespace burin
