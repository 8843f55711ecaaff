// The whole window in a language nobody speaks: what is written past the translator shows.
#include "app/driven.h"
#include "app/frame/sheet_field.h"
#include "app/frame/user_cable.h"
#include "app/look/language.h"
#include "app/painted_words.h"
#include "core/finding/end_work.h"
#include "core/job/run_length.h"
#include "files/end_print.h"
#include "files/pull_print.h"
#include "printed.h"
#include <QHeaderView>
#include <QMenu>
#include <QRegularExpression>
#include <QStyleFactory>
#include <set>

using namespace burin;

/// Nothing was found; what was is told.
#define NONE(of)                                                                                   \
    do {                                                                                           \
        const QStringList found = (of);                                                            \
        QVERIFY2(found.isEmpty(), qPrintable(found.join(QLatin1Char('\n'))));                      \
    } while (false)

class TestLanguage : public Driven {
    Q_OBJECT
public:
    TestLanguage() : Driven(surveyStage) {}

private:
    std::set<QString> own_;

    void addWords(const QString& text) {
        static const QRegularExpression word(QStringLiteral("[A-Za-z]{3,}"));
        for (auto it = word.globalMatch(text); it.hasNext();)
            own_.insert(it.next().captured());
    }
    void addAll(const Json& json) {
        if (json.is_string())
            addWords(QString::fromStdString(json.get<std::string>()));
        if (json.is_structured())
            for (const auto& one : json)
                addAll(one);
    }
    /// Words that no translator has seen: plain letters with a vowel, in nobody's own text.
    QStringList plainOf(const QStringList& texts) {
        static const QRegularExpression word(
            QStringLiteral("(?<![\\p{L}·])[A-Za-z]{3,}(?![\\p{L}·…])"));
        static const QRegularExpression vowel(QStringLiteral("[aeiouAEIOU]"));
        QStringList out;
        for (const auto& text : texts)
            for (auto it = word.globalMatch(text); it.hasNext();) {
                const QString one = it.next().captured();
                if (one.contains(vowel) && !own_.contains(one))
                    out << one + QStringLiteral(" in “") + text + QStringLiteral("”");
            }
        out.removeDuplicates();
        return out;
    }
    /// Words that are wider than their place, or given up in the middle.
    QStringList cut() {
        QStringList out;
        for (const auto& text : PaintedWords::of(*app_->window))
            if (text.contains(u'…') &&
                (text.count(u'‹') != text.count(u'›') ||
                 // What we end so ourselves ends in a mark there: this is a name given up.
                 (text.endsWith(u'…') && languageSpoken() != QStringLiteral("en"))))
                out << QStringLiteral("painted “") + text + QStringLiteral("”");
        for (const auto* widget : app_->window->findChildren<QWidget*>()) {
            if (!widget->isVisibleTo(app_->window.get()) || widget->visibleRegion().isEmpty())
                continue;
            QString text;
            if (const auto* button = qobject_cast<const QAbstractButton*>(widget))
                text = button->text();
            if (const auto* label = qobject_cast<const QLabel*>(widget);
                label != nullptr && !label->wordWrap())
                text = label->text();
            if (const auto* box = qobject_cast<const QComboBox*>(widget)) {
                QStyleOptionComboBox option;
                option.initFrom(box);
                const int room = box->style()
                                     ->subControlRect(QStyle::CC_ComboBox, &option,
                                                      QStyle::SC_ComboBoxEditField, box)
                                     .width();
                const int needs = box->fontMetrics().horizontalAdvance(box->currentText());
                if (needs > room)
                    out << QStringLiteral("%1 px of %2 chosen: %3 “%4”")
                               .arg(room)
                               .arg(needs)
                               .arg(box->objectName(), box->currentText());
            }
            // What takes the room that is left may be longer than it, unless it is one figure.
            static const QRegularExpression oneFigure(
                QStringLiteral("^[\u2212-]?[\\d.,]+( [^\\d ]+)?$"));
            if (const auto* line = qobject_cast<const QLineEdit*>(widget);
                line != nullptr && (line->minimumWidth() == line->maximumWidth() ||
                                    oneFigure.match(line->text()).hasMatch())) {
                constexpr int frame = 14;
                const int needs = line->fontMetrics().horizontalAdvance(line->text()) + frame;
                if (needs > line->width())
                    out << QStringLiteral("%1 px of %2 typed: %3 “%4”")
                               .arg(line->width())
                               .arg(needs)
                               .arg(line->objectName(), line->text());
            }
            const int wide = widget->fontMetrics().size(Qt::TextShowMnemonic, text).width();
            if (!text.isEmpty() && wide > widget->width())
                out << QStringLiteral("%1 px of %2: %3 “%4”")
                           .arg(widget->width())
                           .arg(wide)
                           .arg(widget->objectName(), text);
            // What does not fit beside the others is cut by the window or a scroll area.
            if (!text.isEmpty() &&
                widget->visibleRegion().boundingRect().width() < std::min(wide, widget->width()))
                out << QStringLiteral("only %1 px in sight: %2 “%3”")
                           .arg(widget->visibleRegion().boundingRect().width())
                           .arg(widget->objectName(), text);
        }
        for (const auto* head : app_->window->findChildren<QHeaderView*>())
            for (int i = 0; head->isVisibleTo(app_->window.get()) && i < head->count(); ++i) {
                const QString text = head->model()->headerData(i, head->orientation()).toString();
                const QFontMetrics metrics(Theme::instance().small());
                if (metrics.horizontalAdvance(text) > head->sectionSize(i) - 4)
                    out << QStringLiteral("%1 px of a column: “%2”")
                               .arg(head->sectionSize(i))
                               .arg(text);
            }
        out.removeDuplicates();
        return out;
    }
    QStringList toldBeside() {
        QStringList out;
        for (const auto* widget : app_->window->findChildren<QWidget*>()) {
            if (!widget->isVisibleTo(app_->window.get()))
                continue;
            out << widget->toolTip() << widget->accessibleName() << widget->accessibleDescription();
            if (const auto* line = qobject_cast<const QLineEdit*>(widget))
                out << line->placeholderText();
            if (const auto* box = qobject_cast<const QComboBox*>(widget))
                for (int i = 0; i < box->count(); ++i)
                    out << box->itemText(i);
        }
        for (const auto* menu : app_->window->findChildren<QMenu*>())
            for (const auto* action : menu->actions())
                out << action->text();
        return out;
    }

    /// Whether it is still there, and may be typed into.
    bool takesText(const SheetField* field) const {
        return field != nullptr && field->isVisibleTo(app_->window.get()) && field->isEnabled() &&
               !field->isReadOnly();
    }
    /// What stands in fields and is refused when it is typed once more.
    QStringList refusedAgain() {
        QStringList refused;
        QString typed;
        const auto told =
            connect(&session(), &Session::message, this, [&](const QString& text, bool bad) {
                if (bad)
                    refused << typed + QStringLiteral(" is refused: ") + text;
            });
        for (QPointer<SheetField> field : app_->window->findChildren<SheetField*>()) {
            if (!takesText(field) || field->text().isEmpty())
                continue;
            // One of its marks has a length nobody types.
            if (field->objectName() == QStringLiteral("length") &&
                lengthFrom(*job().run(session().currentId())) == LengthFrom::Marks)
                continue;
            typed = field->objectName() + QStringLiteral(" “") + field->text() + u'”';
            field->setModified(true);
            emit field->typed(field->text());
        }
        disconnect(told);
        return refused;
    }
    /// What is said to something no field takes, typed into every one.
    QStringList refusedNonsense() {
        own_.insert(QStringLiteral("zzaq"));
        QStringList refused;
        const auto told =
            connect(&session(), &Session::message, this,
                    [&](const QString& text, bool bad) { refused << (bad ? text : QString()); });
        for (QPointer<SheetField> field : app_->window->findChildren<SheetField*>()) {
            if (!takesText(field))
                continue;
            for (const char* text : {"zzaq 7", "-3 zzaq", "9999999999", ""}) {
                if (!field)
                    break;
                field->setText(QLatin1String(text));
                field->setModified(true);
                emit field->typed(QLatin1String(text));
            }
        }
        disconnect(told);
        refused.removeAll(QString());
        return refused;
    }
    /// Figures with a point. Names and sources have theirs in them; a list that is typed keeps
    /// points, for its commas part what stands in it, and so do the examples of one.
    QStringList withPoint() {
        QStringList texts = PaintedWords::of(*app_->window) + toldBeside();
        for (const auto* line : app_->window->findChildren<QLineEdit*>())
            if (line->objectName() == QStringLiteral("way"))
                texts.removeAll(line->text());
            else if (line->isVisibleTo(app_->window.get()))
                texts << line->text();
        return pointsIn(texts);
    }
    QStringList pointsIn(const QStringList& texts) {
        QStringList named{QStringLiteral("61.5"), QStringLiteral("15.5")};
        static const QRegularExpression figures(QStringLiteral("\\d+\\.\\d+"));
        static const QRegularExpression source(QStringLiteral("   \\[.*\\]$"));
        const auto addFigures = [&](const std::string& name) {
            for (auto it = figures.globalMatch(QString::fromStdString(name)); it.hasNext();)
                named << it.next().captured();
        };
        for (const auto& one : session().catalogue().cables)
            addFigures(one.name);
        for (const auto& one : session().catalogue().connections)
            addFigures(one.name);
        for (const auto& one : session().catalogue().services)
            addFigures(one.name);
        QStringList out;
        for (QString text : texts)
            for (auto it = figures.globalMatch(text.remove(source)); it.hasNext();)
                if (const QString one = it.next().captured(); !named.contains(one))
                    out << one + QStringLiteral(" in ") + text;
        out.removeDuplicates();
        return out;
    }

    /// What every window of that name says; they are closed.
    QStringList textsOf(const char* name) {
        QStringList out;
        for (auto* window : app_->window->findChildren<QDialog*>(QLatin1String(name))) {
            window->resize(1200, 4000);
            QCoreApplication::processEvents();
            out << window->windowTitle() << PaintedWords::of(*window);
            for (const auto* text : window->findChildren<QPlainTextEdit*>())
                out << text->toPlainText().split(QLatin1Char('\n'));
            for (const auto* label : window->findChildren<QLabel*>())
                out << label->text();
            for (const auto* button : window->findChildren<QPushButton*>())
                out << button->text();
            window->close();
            delete window;
        }
        return out;
    }
    /// What opens at a click on what only shows something.
    QStringList opensFrom(QWidget& view) {
        static const QRegularExpression shows(
            QStringLiteral("^(show\\w+|\\w*Working|why .*|compareConnectors|materials)$"));
        QStringList out;
        QList<QPointer<QAbstractButton>> buttons; // a view may make its own anew meanwhile
        for (auto* button : view.findChildren<QAbstractButton*>(shows))
            buttons << button;
        for (const auto& button : buttons)
            if (button && button->isVisibleTo(app_->window.get()) && button->isEnabled()) {
                button->click();
                out += textsOf("working");
            }
        return out;
    }

    static void everyView() {
        QTest::addColumn<int>("stage");
        QTest::addColumn<QString>("run");
        int row = 0;
        for (int stage = 0; stage < 5; ++stage)
            for (const char* run : {"FD-D02", "SL-C01", "CR-R01", "CR-T01", "RF-A01"})
                QTest::newRow(QByteArray::number(row++).constData()) << stage << QString(run);
    }
    void view(int stage, const QString& run) {
        startDemo();
        const Run* chosen = job().runLabelled(run.toStdString());
        QVERIFY(chosen != nullptr);
        app_->window->resize(1280, 800);
        session().select(chosen->id, {});
        app_->window->showStage(stage);
        SOON_VERIFY(session().curesAreIn());
        QCoreApplication::processEvents();
    }

    /// The made-up language, or a file of a translator's in which every word has been marked
    /// (scripts/words.py); what is a user's own or stays as it is in every language is noted.
    void viewInAnotherLanguage(int stage, const QString& run) {
        const QString folder = qEnvironmentVariable("BURIN_LANGUAGES");
        QVERIFY(folder.isEmpty() ? speak(QStringLiteral("made-up"), {})
                                 : speak(QStringLiteral("zz"), folder));
        view(stage, run);
        addAll(toJson(job()));
        const Catalogue& catalogue = session().catalogue();
        for (const auto& one : catalogue.cables)
            addWords(QString::fromStdString(one.name));
        for (const auto& one : catalogue.connections)
            addWords(QString::fromStdString(one.name));
        for (const auto& one : catalogue.services)
            addWords(QString::fromStdString(one.name));
        for (const char* key :
             {"Ctrl", "Shift", "Enter", "Alt", "Esc", "burin", "min", "cat", "kVA"})
            own_.insert(QString::fromLatin1(key));
        // What a typed line says is typed so in every language; days are the locale's.
        for (const auto* line : app_->window->findChildren<QLineEdit*>())
            addWords(line->text());
        for (int month = 1; month <= 12; ++month)
            for (const auto format : {QLocale::ShortFormat, QLocale::LongFormat})
                addWords(QLocale().monthName(month, format));
        for (int day = 1; day <= 7; ++day)
            for (const auto format : {QLocale::ShortFormat, QLocale::LongFormat})
                addWords(QLocale().dayName(day, format));
        addWords(path());
    }

private slots:
    void initTestCase() {
        QVERIFY(folder_.isValid());
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
        // As the program looks: words are measured.
        QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
        Theme::instance().setDark(false);
    }
    void cleanup() {
        QVERIFY(speak(QStringLiteral("en"), {}));
        app_.reset();
    }

    void anotherLanguageWithoutAnotherStart() {
        startDemo();
        const std::string id = job().runLabelled("SL-C01")->id;
        session().select(id, {});
        app_->window->showStage(budgetStage);
        QCOMPARE(find<QToolButton>("jobMenu")->text(), QStringLiteral("Job"));
        QVERIFY(app_->speakAs(QStringLiteral("made-up")));
        QCOMPARE(find<QToolButton>("jobMenu")->text(), QStringLiteral("‹Jöb·›"));
        QCOMPARE(app_->window->stage(), int(budgetStage));
        QVERIFY(app_->window->isVisible());
        QCOMPARE(session().currentId(), id);
        // What is no language changes nothing.
        QVERIFY(!app_->speakAs(QStringLiteral("xx")));
        QCOMPARE(find<QToolButton>("jobMenu")->text(), QStringLiteral("‹Jöb·›"));
        QVERIFY(app_->speakAs(QStringLiteral("en")));
        QCOMPARE(find<QToolButton>("jobMenu")->text(), QStringLiteral("Job"));
        // A title of an edit is kept in one language, whatever the screen's.
        QVERIFY(app_->speakAs(QStringLiteral("made-up")));
        session().changeSelected(QStringLiteral("note"), [](Run& one) { one.note = "x"; });
        SOON_COMPARE(job().run(id)->note, std::string("x"));
    }
    void figuresAsTheLanguageWritesThem() {
        QCOMPARE(figure(formatFixed(-3.5, 1)), QStringLiteral("\u22123.5"));
        QVERIFY(speak(QStringLiteral("made-up"), {}));
        QCOMPARE(figure(formatFixed(-3.5, 1)), QStringLiteral("\u22123,5"));
        QCOMPARE(figure(formatLength(12.25, UnitSystem::Metric, 2)), QStringLiteral("12,25 m"));
    }
    void onlyWhatIsThereCanBeChosen() {
        QTemporaryDir folder;
        QCOMPARE(languagesIn(folder.path()), QStringList{QStringLiteral("en")});
        QFile damaged(folder.filePath(QStringLiteral("burin_de.qm")));
        QVERIFY(damaged.open(QIODevice::WriteOnly));
        damaged.write("no translation");
        damaged.close();
        QCOMPARE(languagesIn(folder.path()),
                 (QStringList{QStringLiteral("en"), QStringLiteral("de")}));
        QVERIFY(!speak(QStringLiteral("de"), folder.path()));
        QCOMPARE(languageSpoken(), QStringLiteral("en"));
    }

    /// What is printed: the list to work down, labels, materials, days, and how ends are made.
    void paperIsInTheLanguage() {
        viewInAnotherLanguage(pullStage, QStringLiteral("SL-C01"));
        SOON_VERIFY(session().jobFindings() != nullptr);
        const auto all = session().jobFindings();
        const auto snapshot = session().snapshot();
        const Catalogue& catalogue = *snapshot.catalogue;
        const auto lines = findMaterials(job(), catalogue, *snapshot.site, all->pulls, all->ends);
        for (const UnitSystem units : {UnitSystem::Metric, UnitSystem::Imperial}) {
            std::vector<std::string> papers{
                pullListPdf(job(), all->pulls, *snapshot.site, units, PaperSize::A4),
                labelsPdf(endLabels(job()), catalogue.labels.front(), job().info.name),
                materialsPdf(lines, job(), units, PaperSize::A4),
                daysPdf(all->days, job(), all->pulls, units, PaperSize::A4)};
            std::set<std::string> cards;
            for (const auto& run : job().runs)
                for (const End end : {End::Near, End::Far})
                    if (const auto card = findEnd(run, end, catalogue).card;
                        card.card != nullptr && cards.insert(card.card->id).second)
                        papers.push_back(cardPdf(card, job().info.name, units, PaperSize::A4));
            QVERIFY(cards.size() >= 4);
            QStringList printed;
            for (const auto& paper : papers)
                printed << textOf(*readPdf(paper)).split(QLatin1Char('\n'));
            NONE(plainOf(printed));
            NONE(printed.filter(QRegularExpression(
                QStringLiteral("\\d\\.\\d+ (m|ft|mm ·|in|N|lbf|h)(?![\\p{L}])"))));
        }
    }

    void whatOpensIsOfTheLanguage_data() { everyView(); }
    /// Workings, lists and the page of keys: what a view opens beside itself.
    void whatOpensIsOfTheLanguage() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        viewInAnotherLanguage(stage, run);
        QStringList opened = opensFrom(*app_->window);
        QVERIFY2(stage >= terminateStage || !opened.isEmpty(), "nothing opened");
        QTest::keyClick(app_->window.get(), Qt::Key_F1);
        opened += textsOf("keyPage");
        NONE(plainOf(opened));
        NONE(decimalPoint() == '.' ? QStringList() : pointsIn(opened));
    }
    void anEmptyJobAndACableOfOnesOwn() {
        QVERIFY(speak(QStringLiteral("made-up"), {}));
        startEmpty();
        own_.insert(QStringLiteral("Test"));
        addWords(path());
        for (int stage = 0; stage < stageCount; ++stage) {
            app_->window->showStage(stage);
            QCoreApplication::processEvents();
            NONE(plainOf(PaintedWords::of(*app_->window)));
        }
        auto* cable = new UserCableWindow(session(), app_->window.get());
        cable->setObjectName(QStringLiteral("cable"));
        cable->show();
        NONE(plainOf(textsOf("cable")));
    }
    /// What two copies left to decide, of every sort.
    void whatIsLeftToDecideIsOfTheLanguage() {
        viewInAnotherLanguage(budgetStage, QStringLiteral("SL-C01"));
        Job after = job();
        int row = 0;
        const auto ask = [&](const char* kind, const std::string& id, const char* field,
                             const char* base, std::vector<Claim> claims) {
            after.conflicts.push_back(
                {"c" + std::to_string(row++), kind, id, field, base, std::move(claims)});
        };
        const auto two = [](const char* mine, const char* theirs) {
            return std::vector<Claim>{{mine, "rigger", "2026-11-26T10:00:00.000Z"},
                                      {theirs, "", "2026-03-02T10:00:00.000Z"}};
        };
        const Run& laid = *job().runLabelled("SL-C01");
        const Run* typed = nullptr;
        for (const auto& one : job().runs)
            if (one.stretches.size() > 1 && !one.followsPlan)
                typed = &one;
        QVERIFY(typed != nullptr);
        ask("stretch", typed->stretches[0].id, "lengthM", "null", two("12.5", "3"));
        ask("stretch", typed->stretches[0].id, "temperatureC", "20", two("31.5", "24"));
        ask("stretch", typed->stretches[0].id, "around", "null",
            two("\"conduit\"", "\"insulation\""));
        ask("run", laid.id, "cableId", "\"coax-s6\"", two("\"coax-s11\"", "\"coax-s6\""));
        ask("run", laid.id, "serviceId", "\"tv\"", two("\"sat-if\"", "\"tv\""));
        ask("run", laid.id, "lossBudgetDb", "null", two("2.25", "3"));
        ask("run", laid.id, "powerW", "null", two("25.5", "30"));
        ask("run", laid.id, "followsPlan", "true", two("false", "true"));
        ask("run", laid.id, "note", "\"\"", two("\"zzaq\"", "\"\""));
        ask("run", laid.id, "nearPlaceId", "null", two("\"gone\"", "\"\""));
        ask("run", laid.id, "vias", "[]", two("[1, 2]", "[]"));
        ask("run", laid.id, "", "null", two("changed", "removed"));
        ask("run", "gone", "", "null", two("removed", "changed"));
        ask("job", job().info.id, "accuracy.lossDb", "0.5", two("1.5", "0.25"));
        ask("job", job().info.id, "survey.coaxHalf", "true", two("false", "true"));
        after.boxes.push_back(after.boxes[0]);
        after.tools.push_back(after.tools[0]);
        own_.insert(QStringLiteral("zzaq"));
        Changes changes;
        for (const auto& conflict : after.conflicts)
            changes.push_back(put<Conflict>(std::nullopt, conflict));
        Box box = after.boxes.back();
        box.id = "twice";
        changes.push_back(put<Box>(std::nullopt, box));
        HandTool tool = after.tools.back();
        tool.id = "twice";
        changes.push_back(put<HandTool>(std::nullopt, tool));
        session().commit({"asked", changes});
        SOON_COMPARE(job().conflicts.size(), after.conflicts.size());
        SOON_COMPARE(session().jobFindings()->clashes.size(), 2U);
        QTest::mouseClick(find<QPushButton>("decide"), Qt::LeftButton);
        const QStringList texts = textsOf("openEnds");
        QVERIFY(texts.size() > 40);
        NONE(plainOf(texts));
        NONE(decimalPoint() == '.' ? QStringList() : pointsIn(texts));
    }

    void noWordIsCut_data() { everyView(); }
    /// On the smallest screen in English alone: another language may need more room than there is.
    void noWordIsCut() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        view(stage, run);
        app_->window->resize(1100, 650);
        SOON_COMPARE(app_->window->size(), QSize(1100, 650));
        QTest::qWait(50);
        NONE(cut());
        QVERIFY(app_->speakAs(QStringLiteral("made-up")));
        app_->window->resize(1280, 800);
        SOON_COMPARE(app_->window->size(), QSize(1280, 800));
        QTest::qWait(50);
        NONE(cut());
    }
    void everythingIsOfTheLanguage_data() { everyView(); }
    /// What the stage paints and tells beside; then its refusals.
    void everythingIsOfTheLanguage() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        viewInAnotherLanguage(stage, run);
        NONE(plainOf(PaintedWords::of(*app_->window)) + plainOf(toldBeside()));
        NONE(decimalPoint() == '.' ? QStringList() : withPoint());
        NONE(refusedAgain());
        const QStringList refused = refusedNonsense();
        NONE(plainOf(refused));
        if (stage == budgetStage)
            QVERIFY(!refused.isEmpty());
    }
};

QTEST_MAIN(TestLanguage)
#include "test_language.moc"
