// The whole window in a language nobody speaks: what is written past the translator shows.
#include "app/driven.h"
#include "app/frame/sheet_field.h"
#include "app/look/language.h"
#include "app/painted_words.h"
#include <QHeaderView>
#include <QMenu>
#include <QRegularExpression>
#include <QStyleFactory>
#include <set>

using namespace burin;

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
            if (text.contains(u'…') && text.count(u'‹') != text.count(u'›'))
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
        for (const char* key : {"Ctrl", "Shift", "Enter", "Alt", "Esc", "burin", "min", "cat"})
            own_.insert(QString::fromLatin1(key));
        // What a typed line says is typed so in every language; days are the locale's.
        for (const auto* line : app_->window->findChildren<QLineEdit*>())
            addWords(line->text());
        for (int month = 1; month <= 12; ++month)
            addWords(QLocale().monthName(month));
        for (int day = 1; day <= 7; ++day)
            addWords(QLocale().dayName(day, QLocale::ShortFormat));
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

    void refusalsAreInTheLanguage_data() { everyView(); }
    /// Something no field takes, typed into every field of the stage.
    void refusalsAreInTheLanguage() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        viewInAnotherLanguage(stage, run);
        own_.insert(QStringLiteral("zzaq"));
        QStringList refused;
        connect(&session(), &Session::message, this,
                [&](const QString& text, bool bad) { refused << (bad ? text : QString()); });
        for (QPointer<SheetField> field : app_->window->findChildren<SheetField*>()) {
            if (!field || !field->isVisibleTo(app_->window.get()) || !field->isEnabled() ||
                field->isReadOnly())
                continue;
            for (const char* text : {"zzaq 7", "-3 zzaq", "9999999999", ""}) {
                if (!field)
                    break;
                field->setText(QLatin1String(text));
                field->setModified(true);
                emit field->typed(QLatin1String(text));
            }
        }
        refused.removeAll(QString());
        const QStringList plain = plainOf(refused);
        QVERIFY2(plain.isEmpty(), qPrintable(plain.join(QLatin1Char('\n'))));
        if (stage == budgetStage)
            QVERIFY(!refused.isEmpty());
    }

    void noWordIsCut_data() { everyView(); }
    void noWordIsCut() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        QVERIFY(speak(QStringLiteral("made-up"), {}));
        view(stage, run);
        QCOMPARE(app_->window->size(), QSize(1280, 800));
        const QStringList gone = cut();
        QVERIFY2(gone.isEmpty(), qPrintable(gone.join(QLatin1Char('\n'))));
    }
    void everyWordGoesThroughTheTranslator_data() { everyView(); }
    void everyWordGoesThroughTheTranslator() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        viewInAnotherLanguage(stage, run);
        const QStringList plain = plainOf(PaintedWords::of(*app_->window)) + plainOf(toldBeside());
        QVERIFY2(plain.isEmpty(), qPrintable(plain.join(QLatin1Char('\n'))));
    }
};

QTEST_MAIN(TestLanguage)
#include "test_language.moc"
