// The window's layout: how much of it is picture, what folds and is remembered, commands and their keys.
#include <catch2/catch.hpp>

#include "tests/app/layout_support.h"

TEST_CASE("Layout: most of the window is picture in every station") {
    Fixture f;
    f.open_demo(true);
    const auto [width, height, open, folded] =
        GENERATE(std::tuple(1280, 800, 0.54, 0.62), std::tuple(1920, 1080, 0.66, 0.72));
    f.window->resize(width, height);
    for (const StationEntry& entry : stations()) {
        f.window->go_to(entry.station);
        const std::string id(entry.station.id);
        CAPTURE(id, width);
        command(*f.window, "view_things").setChecked(true);
        CHECK(picture_share(*f.window) >= open);
        command(*f.window, "view_things").setChecked(false);
        CHECK(picture_share(*f.window) >= folded);
        CHECK(f.window->size() == QSize(width, height));  // nothing widened it
    }
}

TEST_CASE("Layout: there is room for eleven stations") {
    Fixture f;
    const auto* rail = f.find<Rail>("rail");
    const int one = f.find<QToolButton>("station_gather")->height();
    CHECK(11 * one + f.find<QToolButton>("fold_view_things")->height() <= rail->height());
}

TEST_CASE("Layout: what is folded stays folded, in the next window too; one key leaves nothing but the picture") {
    Fixture f;
    f.open_demo(false);
    auto* things = f.window->findChild<SubjectTree*>();
    auto* panels = f.find<QWidget>("station_panels");
    REQUIRE(things->isVisible());
    QTest::mouseClick(f.find<QToolButton>("fold_view_things"), Qt::LeftButton);
    CHECK_FALSE(things->isVisible());
    QTest::keyClick(f.window.get(), Qt::Key_F8);
    CHECK_FALSE(panels->isVisible());
    {
        MainWindow other;
        other.show();
        CHECK_FALSE(other.findChild<SubjectTree*>()->isVisible());
        CHECK_FALSE(other.findChild<QWidget*>("station_panels")->isVisible());
    }
    QApplication::setActiveWindow(f.window.get());
    QTest::keyClick(f.window.get(), Qt::Key_F8);
    CHECK(panels->isVisible());

    QTest::keyClick(f.window.get(), Qt::Key_V);
    CHECK(picture_share(*f.window) > 0.99);
    CHECK_FALSE(f.window->menuBar()->isVisible());
    CHECK_FALSE(panels->isVisible());
    const double yaw = f.window->views().camera().camera().yaw;
    QTest::keyClick(f.window.get(), Qt::Key_3);  // keys go on
    CHECK(f.window->views().camera().camera().yaw != yaw);
    QTest::keyClick(f.window.get(), Qt::Key_V);
    CHECK(panels->isVisible());
    CHECK(f.window->menuBar()->isVisible());
    CHECK_FALSE(things->isVisible());  // it was folded before
    QTest::keyClick(f.window.get(), Qt::Key_V);
    QTest::keyClick(f.window.get(), Qt::Key_F7);  // who asks for a part sees it
    CHECK(things->isVisible());
    CHECK(f.window->statusBar()->isVisible());
}

TEST_CASE("Layout: the line of figures belongs to the station, and its table is sorted and copied") {
    Fixture f;
    f.open_demo(true);
    auto* line = f.find<QLabel>("figures_summary");
    f.window->go_to(Station::Gather);
    CHECK(line->text().contains("153,277 triangles"));
    CHECK_FALSE(f.find<QToolButton>("figures_unfold")->isVisible());
    f.window->go_to(Station::Mark);
    CHECK(line->text().contains("marked"));
    // a fit with two regions, as a record has it
    ProjectState next = f.window->session().state();
    FitRecord fit;
    fit.name = "by hand";
    fit.source_id = next.source()->id;
    fit.positions = std::make_shared<Points>(next.kit->mesh.positions);
    fit.distances = std::make_shared<std::vector<float>>(fit.positions->size(), 0.5f);
    fit.figures.surface = {0.5, 0.9, 1.25, 100};
    fit.figures.regions = {{"nose", {0.5, 0.9, 1.25, 20}}, {"ear_l", {10.0, 11, 12, 9}}};
    fit.figures.doubts["skull"] = {{.guessed = 0.9}, 0.1, DoubtReason::Guessed};
    fit.figures.doubts["ear_l"] = {{.cuts = 9}, 0.8, DoubtReason::Folds};
    fit.figures.doubts["face"] = {{}, 0.01, DoubtReason::None};
    next.current()->fits.push_back(fit);
    f.window->session().change("A fit", std::move(next));
    f.window->go_to(Station::Fit);
    CHECK(line->text().contains("0.50&nbsp;mm"));
    // what distances cannot say
    CHECK(line->text().contains("look&nbsp;at"));
    CHECK(line->text().contains("left ear"));
    CHECK(line->text().contains("skull"));
    auto* table = f.find<QTableWidget>("figures_table");
    CHECK_FALSE(table->isVisible());
    QTest::mouseClick(f.find<QToolButton>("figures_unfold"), Qt::LeftButton);
    REQUIRE(table->isVisible());
    QTest::qWait(50);                 // laid out
    REQUIRE(table->rowCount() == 4);  // those without a distance too
    std::map<QString, QString> states;
    for (int r = 0; r < 4; ++r) states[table->item(r, 0)->text()] = table->item(r, 6)->text();
    CHECK(states.at("Left ear").startsWith("△"));
    CHECK(states.at("Skull").startsWith("◇"));
    CHECK(states.at("Face").startsWith("■"));
    CHECK(states.at("Nose") == "-");
    for (int r = 0; r < 4; ++r)
        if (table->item(r, 0)->text() == "Left ear") CHECK_FALSE(table->item(r, 6)->toolTip().isEmpty());
    table->sortByColumn(1, Qt::DescendingOrder);
    CHECK(table->item(0, 1)->text() == "10.000");  // as a number, not as letters
    QTest::mouseClick(f.find<QPushButton>("figures_copy_csv"), Qt::LeftButton);
    const QStringList lines = QApplication::clipboard()->text().split('\n');
    REQUIRE(lines.size() >= 3);
    CHECK(lines[0].startsWith("Region,"));
    CHECK(lines[0].contains("\"median, mm\""));
    CHECK(lines[1].contains("10.000"));
    CHECK(f.window->findChild<FiguresTable*>()->text(false).split('\n')[1].count('\t') == 6);
    f.window->go_to(Station::Gather);
    CHECK_FALSE(table->isVisible());
}

TEST_CASE(
    "Layout: things are renamed, put in order and removed by keys, and files land on the subject they are dropped "
    "on") {
    Fixture f;
    f.open_demo(false);
    ProjectState next = f.window->session().state();
    next.subjects.push_back({"Bo", {}, {}});
    f.window->session().change("Bo", std::move(next));
    auto* tree = f.find<QTreeWidget>("subjects");
    tree->setFocus();
    const auto names = [&] {
        std::vector<std::string> out;
        for (const Subject& s : f.window->session().state().subjects) out.push_back(s.name);
        return out;
    };
    const auto choose = [&](int top) { tree->setCurrentItem(tree->topLevelItem(top)); };
    choose(1);
    QTest::keyClick(tree, Qt::Key_Up, Qt::ControlModifier);
    CHECK(names() == std::vector<std::string>{"Bo", "Ottoline"});
    CHECK(f.window->session().state().current()->name == "Ottoline");
    choose(0);
    QTest::keyClick(tree, Qt::Key_Delete);
    CHECK(names() == std::vector<std::string>{"Ottoline"});
    QTest::keyClick(f.window.get(), Qt::Key_Z, Qt::ControlModifier);
    CHECK(names() == std::vector<std::string>{"Bo", "Ottoline"});
    choose(0);
    QTimer::singleShot(0, f.window.get(), [] {
        auto* dialog = QApplication::activeModalWidget();
        if (auto* line = dialog ? dialog->findChild<QLineEdit*>() : nullptr) line->setText("Bea");
        if (dialog) QTest::keyClick(dialog, Qt::Key_Return);
    });
    QTest::keyClick(tree, Qt::Key_F2);
    CHECK(names() == std::vector<std::string>{"Bea", "Ottoline"});

    QMimeData files;
    files.setUrls({QUrl::fromLocalFile(QString::fromStdString(demo("subjects/bram/bram_scan.ply")))});
    const QPointF at = tree->visualItemRect(tree->topLevelItem(0)).center();
    QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(tree->viewport(), &enter);
    CHECK(enter.isAccepted());
    CHECK(tree->currentItem() == tree->topLevelItem(0));  // shown where it would land
    QDropEvent drop(at, Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(tree->viewport(), &drop);
    REQUIRE(wait_until([&] { return !f.window->session().state().subjects[0].sources.empty(); }, 60000));
    CHECK(f.window->session().state().current()->name == "Bea");
    CHECK(f.window->session().state().subjects[1].sources.size() == 1);  // the other one's is its own
}

TEST_CASE("Layout: every control has a name for those who do not see it, and can be reached by Tab") {
    Fixture f;
    f.open_demo(true);
    for (const StationEntry& entry : stations()) {
        f.window->go_to(entry.station);
        for (const QWidget* w : f.window->findChildren<QWidget*>()) {
            const bool control = qobject_cast<const QAbstractButton*>(w) || qobject_cast<const QComboBox*>(w) ||
                                 qobject_cast<const QAbstractSpinBox*>(w) || qobject_cast<const QSlider*>(w) ||
                                 qobject_cast<const QAbstractItemView*>(w) || qobject_cast<const QLineEdit*>(w);
            // the insides of other controls are theirs
            if (!control || w->objectName().startsWith("qt_") || qobject_cast<const QComboBox*>(w->parentWidget()) ||
                qobject_cast<const QAbstractSpinBox*>(w->parentWidget()) ||
                qobject_cast<const QAbstractItemView*>(w->parentWidget()) || w->inherits("QComboBoxListView") ||
                w->inherits("QComboBoxPrivateContainer") || w->inherits("QMenuBarExtension") ||
                w->inherits("QToolBarExtension") || w->inherits("QLineEditIconButton"))
                continue;
            const std::string which = w->metaObject()->className() + std::string(" ") + w->objectName().toStdString() +
                                      " in " + w->parentWidget()->objectName().toStdString();
            CAPTURE(which);
            QAccessibleInterface* said = QAccessible::queryAccessibleInterface(const_cast<QWidget*>(w));
            REQUIRE(said);
            CHECK_FALSE(said->text(QAccessible::Name).isEmpty());
            if (w->isVisibleTo(f.window.get()) && w->isEnabled()) CHECK((w->focusPolicy() & Qt::TabFocus) != 0);
        }
    }
}

TEST_CASE("Layout: arrow keys turn a view; in Mark they move the selected landmark, and Alt turns") {
    Fixture f;
    f.open_demo(true);
    f.window->go_to(Station::Gather);
    Viewport* view = f.window->views().source_view();
    view->setFocus();
    const auto yaw = [&] { return f.window->views().camera().camera().yaw; };
    const double before = yaw();
    QTest::keyClick(view, Qt::Key_Right);
    CHECK(std::abs(std::remainder(yaw() - before, 360.0)) == Approx(5));
    QTest::keyClick(view, Qt::Key_Left, Qt::ShiftModifier);
    CHECK(std::abs(std::remainder(yaw() - before, 360.0)) == Approx(4));
    f.window->go_to(Station::Mark);
    f.window->session().select("pronasale");
    f.rest();
    const auto place = [&] { return f.window->session().state().source()->landmarks.points.at("pronasale"); };
    const Vec3 was = place();
    const double there = yaw();
    QTest::keyClick(view, Qt::Key_Right);
    CHECK(yaw() == there);
    CHECK((place() - was).norm() > 0);
    const Vec3 moved = place();
    QTest::keyClick(view, Qt::Key_Right, Qt::AltModifier);
    CHECK(yaw() != there);
    CHECK(place() == moved);
}

TEST_CASE("Layout: what comes next is said and done, from a raw scan to the bank") {
    Fixture f;
    f.open_demo(false);
    auto* next = f.find<NextLine>("next_step");
    REQUIRE(next->isVisible());
    CHECK(next->step() == NextStep::Repair);
    QTest::mouseClick(next, Qt::LeftButton);
    CHECK_FALSE(next->isVisible());  // while it is being done
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
    CHECK(f.window->session().state().source()->recipe.size() == 1);
    CHECK(next->step() == NextStep::FindLandmarks);
    ProjectState marked = f.window->session().state();
    for (const char* name : {"pronasale", "cheilion_l", "cheilion_r"})
        marked.current()->sources.back().landmarks.points[name] = Vec3::Zero();
    f.window->session().change("Mark", std::move(marked));
    CHECK(next->step() == NextStep::Fit);
    CHECK(next->text().contains("fit"));
}

TEST_CASE("Layout: where nothing is open, the first page says how to begin") {
    Fixture f;
    auto* page = f.find<StartPage>("start_page");
    REQUIRE(page->isVisible());
    CHECK(f.window->size() == QSize(1280, 800));  // it does not widen the window
    CHECK_FALSE(f.window->views().isVisible());
    page->set_recent({"/no/such.veldstone", QString::fromStdString(demo("kit/figure.json"))});
    auto* recent = f.find<QPushButton>("start_recent");
    CHECK(recent->text() == "figure");
    int pictures = 0;
    for (const QLabel* label : page->findChildren<QLabel*>()) pictures += !label->pixmap().isNull();
    CHECK(pictures == 3);
    QTest::mouseClick(f.find<QPushButton>("start_demo"), Qt::LeftButton);
    REQUIRE(f.window->session().has_kit());
    CHECK(f.window->views().isVisible());
    CHECK_FALSE(page->isVisible());
    CHECK(f.window->session().path().isEmpty());  // the demo's own file stays as it is
    REQUIRE(wait_until([&] { return f.window->session().state().source() != nullptr; }));
}

TEST_CASE("Layout: a question stands out from what explains it, and neither Return nor Esc loses anything") {
    Fixture f;
    f.window->answer = nullptr;
    const auto ask = [&](Qt::Key key, QString& said, QString& more) {
        QTimer::singleShot(50, f.window.get(), [&, key] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return;
            said = box->text(), more = box->informativeText();
            QTest::keyClick(box, key);
        });
        return f.window->ask("The project has changes. Save them first?", {"Save", "Discard", "Stay"}, 2);
    };
    QString said, more;
    CHECK(ask(Qt::Key_Escape, said, more) == 2);
    CHECK(said == "<b>The project has changes.</b>");
    CHECK(more == "Save them first?");
    CHECK(ask(Qt::Key_Return, said, more) == 0);
    f.window->answer = [](const QString&, const QStringList&) { return 1; };
}

TEST_CASE("Layout: a double click on a view's title shows it alone, another all of them") {
    Fixture f;
    f.open_demo(true);
    f.window->go_to(Station::Gather);
    ViewSet& views = f.window->views();
    const int before = views.source_view()->width();
    QTest::mouseDClick(views.source_view(), Qt::LeftButton, Qt::NoModifier, QPoint(60, 14));
    CHECK_FALSE(views.base_view()->isVisible());
    CHECK(views.source_view()->width() > 1.8 * before);
    f.window->go_to(Station::Mark);  // it is there too
    CHECK_FALSE(views.base_view()->isVisible());
    QTest::mouseDClick(views.source_view(), Qt::LeftButton, Qt::NoModifier, QPoint(60, 14));
    CHECK(views.base_view()->isVisible());
    views.source_view()->setFocus();
    QTest::keyClick(views.source_view(), Qt::Key_Z);
    CHECK_FALSE(views.base_view()->isVisible());
    f.window->go_to(Station::Bank);  // it shows another one: nothing is left out
    CHECK(views.result_view()->isVisible());
    f.window->go_to(Station::Gather);
    CHECK(views.base_view()->isVisible());
}

TEST_CASE("Layout: no section of a panel is wider than the panel") {
    Fixture f;
    f.open_demo(true);
    for (const StationEntry& entry : stations()) {
        f.window->go_to(entry.station);
        QTest::qWait(20);
        for (Sections* sections : f.window->findChildren<Sections*>()) {
            if (!sections->isVisible()) continue;
            for (int i = 0; i < sections->count(); ++i) {
                sections->set_current(i);  // what it holds is put right when it is looked at
                QTest::qWait(20);
                const std::string which = sections->title(i).toStdString();
                const int wants = sections->page(i)->minimumSizeHint().width();
                CAPTURE(which, wants, sections->width());
                CHECK(wants <= sections->width());
            }
        }
    }
}
