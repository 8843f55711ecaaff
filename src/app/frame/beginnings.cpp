#include "app/frame/beginnings.h"
#include "app/frame/recent_jobs.h"
#include <QFileInfo>
#include <QHBoxLayout>

namespace burin {

Beginnings::Way Beginnings::way(const char* name) {
    Way out{new Panel({}, this), words(Voice::Text, this), new QPushButton(this), new QVBoxLayout};
    out.button->setObjectName(QLatin1String(name));
    out.text->setObjectName(QLatin1String(name) + QStringLiteral("Text"));
    out.panel->body()->addWidget(out.text);
    out.panel->body()->addLayout(out.more);
    out.panel->body()->addStretch();
    auto* row = new QHBoxLayout;
    row->addWidget(out.button);
    row->addStretch();
    out.panel->body()->addLayout(row);
    return out;
}

Beginnings::Beginnings(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), head_(words(Voice::Headline, this)),
      first_(words(Voice::Text, this)), begin_(way("begin")), goOn_(way("goOn")),
      sample_(way("sample")) {
    head_->setObjectName(QStringLiteral("emptyHead"));
    first_->setObjectName(QStringLiteral("firstSteps"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(48, 40, 48, 40);
    layout->setSpacing(12);
    layout->addWidget(head_);
    layout->addWidget(first_);
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    for (const Way* one : {&begin_, &goOn_, &sample_})
        row->addWidget(one->panel, 1);
    layout->addLayout(row);
    layout->addStretch(1);
    connect(begin_.button, &QPushButton::clicked, this,
            [this] { session_.hasJob() ? emit drawSite() : emit newJob(); });
    connect(goOn_.button, &QPushButton::clicked, this,
            [this] { session_.hasJob() ? emit typeRuns() : emit openJob(); });
    connect(sample_.button, &QPushButton::clicked, this, &Beginnings::openSample);
    showBeginnings();
}

void Beginnings::showBeginnings() {
    const bool job = session_.hasJob();
    const auto say = [](const Way& way, const QString& title, const QString& text,
                        const QString& button) {
        way.panel->setTitle(title);
        way.text->setText(text);
        way.button->setText(button);
    };
    head_->setText(tr("What runs where?"));
    first_->setText(job ? tr("Nothing is in this job yet. It may begin in any of these ways; they "
                             "go together.")
                        : tr("A job is one file: site, runs, pulls, ends, tests. Every change is "
                             "kept as it is made."));
    if (job) {
        say(begin_, tr("From the plan"),
            tr("Rooms, head ends and ways, over a picture of the floor or on squared paper. "
               "Lengths, warmth and company of every run come from it."),
            tr("Draw the site"));
        say(goOn_, tr("From a list"),
            tr("A name, then length, cable and service in any order, for example\n\n"
               "SL-D01 61.5 m cat6a-utp 10g\n\n"
               "The letters before the dash name its room. What is left out is taken from the "
               "last of its kind."),
            tr("Type the runs"));
    } else {
        say(begin_, tr("A new one"), tr("Where it is kept is all it asks."), tr("New job…"));
        say(goOn_, tr("One there is"), tr("Its file, or a copy of it that somebody sent."),
            tr("Open a job…"));
    }
    say(sample_, tr("A sample"),
        tr("Kittiwake Wharf: data, television, readers, leased circuits and radio on one job, "
           "partly pulled, ended and tested, with what goes wrong on such a site. It is a copy, to "
           "be spoiled at will."),
        tr("Open the sample"));
    empty(*goOn_.more);
    if (job)
        return;
    const QStringList recent = recentJobs();
    for (const auto& path : recent.mid(0, 5)) {
        auto* one = link(QFileInfo(path).completeBaseName(), this);
        one->setToolTip(path);
        one->setAccessibleName(tr("Open %1 again").arg(path));
        connect(one, &QPushButton::clicked, this, [this, path] { emit reopen(path); });
        goOn_.more->addWidget(one, 0, Qt::AlignLeft);
    }
}

} // namespace burin
