#include "app/frame/working_view.h"
#include "app/look/painters.h"
#include "app/look/theme.h"
#include <QClipboard>
#include <QDialog>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QPlainTextEdit>
#include <QPushButton>

namespace burin {

void showText(QWidget* parent, const QString& title, const QString& text, const QString& keepWord,
              const std::function<void()>& keep) {
    auto* window = new QDialog(parent);
    window->setAttribute(Qt::WA_DeleteOnClose);
    window->setObjectName(QStringLiteral("working"));
    window->setWindowTitle(title);
    auto* layout = new QVBoxLayout(window);
    auto* view = new QPlainTextEdit(text, window);
    view->setReadOnly(true);
    view->setFont(Theme::instance().figures(14));
    view->setAccessibleName(title);
    layout->addWidget(view);
    auto* copy = new QPushButton(QObject::tr("Copy"), window);
    auto* close = new QPushButton(QObject::tr("Close"), window);
    auto* line = new QHBoxLayout;
    line->addStretch();
    if (keep) {
        auto* other = new QPushButton(keepWord, window);
        other->setObjectName(QStringLiteral("keepText"));
        QObject::connect(other, &QPushButton::clicked, window, keep);
        line->addWidget(other);
    }
    line->addWidget(copy);
    line->addWidget(close);
    layout->addLayout(line);
    QObject::connect(copy, &QPushButton::clicked, window,
                     [text] { QGuiApplication::clipboard()->setText(text); });
    QObject::connect(close, &QPushButton::clicked, window, &QDialog::close);
    window->resize(Theme::instance().px(760), Theme::instance().px(420));
    window->show();
}

void showWorking(const Session& session, QWidget* parent, const Working& working) {
    showText(parent, said(working.title, session), q(render(working, session.rendering())));
}

} // namespace burin
