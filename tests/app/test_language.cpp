// The whole window in a language nobody speaks: what is written past the translator shows.
#include "app/driven.h"
#include "app/look/language.h"
#include "app/painted_words.h"
#include <QMenu>
#include <QRegularExpression>
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

private slots:
    void initTestCase() {
        QVERIFY(folder_.isValid());
        QVERIFY(loadFaces(QStringLiteral(BURIN_SOURCE "/assets/fonts")));
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

    void everyWordGoesThroughTheTranslator_data() {
        QTest::addColumn<int>("stage");
        QTest::addColumn<QString>("run");
        int row = 0;
        for (int stage = 0; stage < 5; ++stage)
            for (const char* run : {"FD-D02", "SL-C01", "CR-R01", "CR-T01", "RF-A01"})
                QTest::newRow(QByteArray::number(row++).constData()) << stage << QString(run);
    }
    void everyWordGoesThroughTheTranslator() {
        QFETCH(int, stage);
        QFETCH(QString, run);
        QVERIFY(speak(QStringLiteral("made-up"), {}));
        startDemo();
        addAll(toJson(job()));
        const Catalogue& catalogue = session().catalogue();
        for (const auto& one : catalogue.cables)
            addWords(QString::fromStdString(one.name));
        for (const auto& one : catalogue.connections)
            addWords(QString::fromStdString(one.name));
        for (const auto& one : catalogue.services)
            addWords(QString::fromStdString(one.name));
        for (const char* key : {"Ctrl", "Shift", "Enter", "Alt", "Esc", "burin"})
            own_.insert(QString::fromLatin1(key));
        const Run* chosen = job().runLabelled(run.toStdString());
        QVERIFY(chosen != nullptr);
        session().select(chosen->id, {});
        app_->window->showStage(stage);
        SOON_VERIFY(session().curesAreIn());
        // What a typed line says is typed so in every language; days are the locale's.
        for (const auto* line : app_->window->findChildren<QLineEdit*>())
            addWords(line->text());
        for (int month = 1; month <= 12; ++month)
            addWords(QLocale().monthName(month));
        addWords(path());
        const QStringList plain = plainOf(PaintedWords::of(*app_->window)) + plainOf(toldBeside());
        QVERIFY2(plain.isEmpty(), qPrintable(plain.join(QLatin1Char('\n'))));
    }
};

QTEST_MAIN(TestLanguage)
#include "test_language.moc"
