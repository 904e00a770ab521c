// The window in other languages, and in one whose texts are longer than any.
#include <catch2/catch.hpp>

#include <QAbstractButton>
#include <QLabel>
#include <QMenuBar>
#include <QRegularExpression>
#include <QTranslator>
#include <QXmlStreamReader>
#include <set>

#include "app/core_words.h"
#include "app/language.h"
#include "app/region_names.h"
#include "app/stations/registry.h"
#include "app/theme.h"
#include "app/window/preferences.h"
#include "core/fit/presets.h"
#include "core/kit_making/check_kit.h"
#include "core/landmark/landmarks.h"
#include "core/morph/region_mix.h"
#include "core/proof/measure.h"
#include "core/proof/mend.h"
#include "core/tidy/tools.h"
#include "core/touchup/brush.h"
#include "tests/app/window_fixture.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

struct EnglishAgain {
    ~EnglishAgain() {
        speak(*qApp, "en");
        take_up({}, *qApp);
        QSettings().clear();
    }
};

// Every text by a third longer, as the longest languages are.
class LongTexts : public QTranslator {
 public:
    bool isEmpty() const override { return false; }
    QString translate(const char*, const char* text, const char*, int n) const override {
        QString out = QString::fromUtf8(text);
        if (n >= 0) out.replace("%n", QString::number(n));
        const qsizetype more = out.contains('<') ? 0 : out.size() / 3;
        // in words, so that lines can be broken
        for (qsizetype i = 0; i < more; ++i) out += i % 9 == 0 ? ' ' : 'o';
        return out;
    }
};

// Texts that do not fit into what says them: buttons, ticks and lines that are never broken.
QStringList cut_texts(MainWindow& window) {
    QStringList out;
    for (const StationEntry& entry : stations()) {
        window.go_to(entry.station);
        QTest::qWait(30);
        std::vector<std::pair<Sections*, int>> pages;
        for (Sections* sections : window.findChildren<Sections*>()) {
            for (int i = 0; sections->isVisible() && i < sections->count(); ++i) pages.emplace_back(sections, i);
        }
        if (pages.empty()) pages.emplace_back(nullptr, 0);
        for (const auto& [sections, page] : pages) {
            if (sections) sections->set_current(page);
            QTest::qWait(10);
            for (QWidget* w : window.findChildren<QWidget*>()) {
                if (!w->isVisible()) continue;
                const auto* button = qobject_cast<QAbstractButton*>(w);
                const auto* label = qobject_cast<QLabel*>(w);
                const QString text = button ? button->text() : label && !label->wordWrap() ? label->text() : QString();
                if (text.isEmpty() || (label && label->pixmap().width() > 0)) continue;
                const int wants = w->minimumSizeHint().width();
                // what lies beyond its parent's edge is not seen either
                const int room = std::min(w->width(), w->parentWidget()->width() - w->x());
                if (wants > room + 1)
                    out << QString("%1: %2 %3 (%4 > %5)")
                               .arg(QString::fromUtf8(entry.title), w->objectName(), text)
                               .arg(wants)
                               .arg(room);
            }
        }
    }
    out.removeDuplicates();
    return out;
}

}  // namespace

TEST_CASE("Language: the window speaks German, and English again") {
    const EnglishAgain after;
    std::vector<QString> codes;
    for (const Language& one : languages()) codes.push_back(one.code);
    REQUIRE(codes == std::vector<QString>{"en", "de"});
    speak(*qApp, "de");
    {
        Fixture f;
        CHECK(f.window->menuBar()->actions().front()->text() == "&Projekt");
        CHECK(f.find<QToolButton>("station_mark")->text() == "Markieren");
        CHECK(f.window->commands().find("fit_start")->text() == "Starten");
        f.open_demo(true);
        f.station("station_mark");
        // texts of classes that are read through their headers only, and what is one or many
        CHECK(
            f.window->views().base_view()->findChild<QToolButton*>("view_header")->toolTip().startsWith("Was diese"));
        CHECK(QCoreApplication::translate("SubjectTree", "Bank, %n morph(s)", nullptr, 1) == "Bank, 1 Morph");
        CHECK(QCoreApplication::translate("veld::SubjectTree", "Bank, %n morph(s)", nullptr, 2) == "Bank, 2 Morphs");
        CHECK(QLocale().decimalPoint() == ",");
    }
    speak(*qApp, "xx");  // there is no such file
    Fixture f;
    CHECK(f.window->menuBar()->actions().front()->text() == "&Project");
    CHECK(QCoreApplication::translate("SubjectTree", "Bank, %n morph(s)", nullptr, 1) == "Bank, 1 morph");
}

TEST_CASE("Language: what core calls things is translated whole") {
    const EnglishAgain after;
    const std::set<std::string> known(core_words().begin(), core_words().end());
    std::vector<std::string> all;
    for (const SchemePoint& p : landmark_scheme().points) all.push_back(p.plain);
    for (const SchemeCurve& c : landmark_scheme().curves) all.push_back(c.plain);
    for (const auto& [region, vertices] : demo_kit()->regions) all.push_back(plain_region(region).toStdString());
    for (const std::string& region : face_regions(*demo_kit()).names)
        all.push_back(plain_region(region).toStdString());
    for (const FitPreset& p : fit_presets()) all.insert(all.end(), {p.plain, p.why});
    for (int b = 0; b < kBrushCount; ++b) all.push_back(brush_name(static_cast<Brush>(b)));
    for (const ToolInfo& tool : tool_table()) {
        all.insert(all.end(), {tool.label, tool.what});
        for (const ToolParameter& p : tool.parameters) {
            all.push_back(p.label);
            for (const char* text : {p.tip, p.choices}) {
                if (text && *text) all.push_back(text);
            }
        }
    }
    for (const KitAbility& a : check_kit(*demo_kit())) all.push_back(a.name);
    for (const Proof& proof : stock_proofs(*demo_kit()))
        if (!demo_kit()->expressions.contains(proof.name)) all.push_back(proof.name);
    for (const ProofMeasure m : kProofMeasures) all.push_back(proof_measure_plain(m));
    for (const Mend m : kMends) all.push_back(mend_plain(m));
    for (const Skinning s : {Skinning::Linear, Skinning::DualQuaternion}) all.push_back(skinning_name(s));
    REQUIRE(all.size() > 280);
    for (const std::string& word : all) {
        CAPTURE(word);
        CHECK(known.contains(word));
    }
    speak(*qApp, "de");
    CHECK(core_word("left inner eye corner") == "linker innerer Augenwinkel");
    CHECK(plain_region("finger_index_r") == "Rechter Zeigefinger");
    CHECK(core_word("wart on the nose") == "wart on the nose");  // somebody's own
}

TEST_CASE("Language: a translation says all that the text says") {
    QFile file(QString::fromStdString(std::string(VELDSTONE_SOURCE) + "/app/translations/veldstone_de.ts"));
    REQUIRE(file.open(QIODevice::ReadOnly));
    QXmlStreamReader xml(&file);
    static const QRegularExpression place("%[1-9n]");
    const auto places = [](const QString& text) {
        QStringList out;
        for (auto at = place.globalMatch(text); at.hasNext();) out << at.next().captured(0);
        out.sort();
        out.removeDuplicates();
        return out;
    };
    QString source;
    int count = 0;
    while (!xml.atEnd()) {
        xml.readNext();
        if (!xml.isStartElement()) continue;
        if (xml.name() == u"source") source = xml.readElementText();
        const bool plain = xml.name() == u"translation";
        if (plain) CHECK(xml.attributes().value("type").isEmpty());  // "unfinished"
        if (!plain && xml.name() != u"numerusform") continue;
        const QString text = xml.readElementText(QXmlStreamReader::IncludeChildElements);
        CAPTURE(source.toStdString(), text.toStdString());
        CHECK_FALSE(text.trimmed().isEmpty());
        if (plain && source.contains("%n")) continue;  // its forms together
        CHECK(places(text) == places(source));
        CHECK(text.startsWith(' ') == source.startsWith(' '));
        CHECK(text.endsWith(' ') == source.endsWith(' '));
        ++count;
    }
    CHECK_FALSE(xml.hasError());
    CHECK(count > 1000);
}

TEST_CASE("Language: nothing is cut at 1280x800, in English, in German, in longer texts, in both themes") {
    const EnglishAgain after;
    const auto [light, how] =
        GENERATE(table<bool, std::string>({{false, "en"}, {true, "en"}, {false, "de"}, {true, "long"}}));
    CAPTURE(light, how);
    LongTexts longer;
    take_up({.theme = light}, *qApp);
    if (how == "long")
        qApp->installTranslator(&longer);
    else
        speak(*qApp, QString::fromStdString(how));
    {
        Fixture f;
        f.open_demo(true);
        f.window->resize(1280, 800);
        const std::string cut = cut_texts(*f.window).join("\n").toStdString();
        CHECK(cut == "");
        CHECK(f.window->width() == 1280);
        // all menus are there, beside the tools
        const QMenuBar& bar = *f.window->menuBar();
        const QRect last = bar.actionGeometry(bar.actions().back());
        CHECK(last.right() <= bar.cornerWidget()->x());
        CHECK_FALSE(last.isEmpty());
    }
    qApp->removeTranslator(&longer);
}

TEST_CASE("Language: at twice the size of text nothing is cut either") {
    const EnglishAgain after;
    take_up({.text_percent = 200}, *qApp);
    Fixture f;
    f.open_demo(true);
    f.window->resize(1280, 800);
    const std::string cut = cut_texts(*f.window).join("\n").toStdString();
    CHECK(cut == "");
}
