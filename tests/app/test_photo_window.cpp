// Heads from photographs, as a user makes them in the window.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QInputDialog>
#include <QLabel>
#include <QListWidget>
#include <QSlider>

#include "app/stations/fit/photo_controller.h"
#include "app/views/photo_view.h"
#include "app/views/viewport.h"
#include "core/base/file.h"
#include "core/photo/head_work.h"
#include "core/project/layered_skins.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "core/touchup/brush.h"
#include "demo/standins/sitting.h"
#include "tests/app/window_fixture.h"

using namespace veld;

namespace {

// Juniper's front and side; the side is marked, nobody marked the front yet.
void open_portraits(Fixture& f, bool another = false) {
    ProjectState s = new_project(demo_kit());
    auto photos = read_photos("portraits",
                              {demo("subjects/juniper/juniper_front.jpg"), demo("subjects/juniper/juniper_side.jpg")});
    REQUIRE(photos);
    const std::string file = demo("subjects/juniper/juniper_side_marks.json");
    photos->marks = {{}, *parse_photo_marks(read_file(file)->view(), file)};
    s.subjects.push_back({"Juniper", {}, {}, {*photos}});
    if (another) {
        FitRecord fit;
        fit.name = "head fit";
        fit.positions = std::make_shared<Points>(
            mix_morphs(demo_kit()->mesh.positions, {{&made_up_heads(*demo_kit(), 1).front(), 1.0}}));
        fit.distances = std::make_shared<std::vector<float>>(fit.positions->size(), std::nanf(""));
        s.subjects.push_back({"Mara", {}, {fit}});
    }
    REQUIRE(save_project(f.scratch / "p.veldstone", s));
    REQUIRE(f.window->open_project(QString::fromStdString(f.scratch / "p.veldstone")));
    QTest::qWait(50);
}

void idle(Fixture& f) {
    REQUIRE(wait_until([&] { return !f.window->session().busy(); }));
}

void make_head(Fixture& f) {
    f.station("station_fit");
    REQUIRE(f.find<Sections>("fit_sections")->current() == 3);  // there is no scan: photographs it is
    idle(f);
    f.press("photo_make");
    REQUIRE(f.window->photos().making());
    idle(f);
    REQUIRE(f.window->photos().fit());
}

void drag(QWidget& view, const QPoint& from, const QPoint& to) {
    QTest::mousePress(&view, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i) QTest::mouseMove(&view, from + (to - from) * i / 4);
    QTest::mouseRelease(&view, Qt::LeftButton, {}, to);
}

const FitRecord& fit_of(Fixture& f) { return *f.window->session().state().fit(); }

}  // namespace

TEST_CASE("Photo window: photographs are graded, made into a head, looked through, undone and kept in the file") {
    Fixture f;
    open_portraits(f);
    make_head(f);
    CHECK(f.find<QListWidget>("photo_list")->count() == 2);
    CHECK(f.find<QListWidget>("photo_list")->item(1)->text().startsWith(QStringLiteral("◐")));  // no face, marked by
                                                                                                // hand: usable
    const auto& set = f.window->session().state().current()->photo_sets[0];
    CHECK(set.marks[0].points.size() > 30);  // found and put
    CHECK(fit_of(f).photo->photos[0].camera->focal_35mm() == Approx(85).epsilon(0.05));
    // the first head is seen through its photograph: a place of the mesh is where the photograph has it
    PhotoController& photos = f.window->photos();
    CHECK(photos.looks_through());
    Viewport& view = *f.window->views().result_view();
    const Camera& camera = f.window->views().camera().camera();
    REQUIRE(camera.photo);
    const Vec3 tip = demo_kit()->landmarks.at("pronasale").at(*fit_of(f).positions);
    const Ray ray = camera.ray(view.screen_of(tip), view.size());
    CHECK((tip - ray.origin).normalized().cross(ray.direction).norm() < 1e-3);
    const Vec2 pixel = photos.camera(0)->project(tip);
    CHECK((pixel - set.marks[0].points.at("pronasale")).norm() < 25);
    // the wheel comes closer to where the pointer is, a drag moves the picture, the camera stays
    const QPointF before = view.screen_of(tip);
    QWheelEvent wheel(before, view.mapToGlobal(before), {}, QPoint(0, 240), Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(&view, &wheel);
    CHECK(camera.photo->zoom > 1.2);
    CHECK(std::hypot(view.screen_of(tip).x() - before.x(), view.screen_of(tip).y() - before.y()) < 1);
    drag(view, QPoint(100, 200), QPoint(140, 200));
    CHECK(view.screen_of(tip).x() > before.x() + 30);
    // another photograph, then a fixed view leaves it
    f.find<QListWidget>("photo_list")->setCurrentRow(1);
    CHECK(head_turn(camera.photo->camera).yaw == Approx(90).margin(4));
    f.window->views().camera().look_from(FixedView::Front);
    CHECK_FALSE(photos.looks_through());
    CHECK_FALSE(f.find<QCheckBox>("photo_through")->isChecked());
    f.press("photo_skin");
    idle(f);
    const auto skin_of = [&] { return f.window->session().state().current()->skin(); };
    REQUIRE(skin_of());
    REQUIRE(skin_of()->layers.size() == 1);
    CHECK(skin_of()->layers[0].from == LayerFrom::Photos);
    CHECK(skin_of()->layers[0].seen > 0.3);
    CHECK(f.find<QLabel>("photo_outcome")->text().contains(QStringLiteral("Skin:")));
    f.window->panel<DeliverPanel>().write_skin(QString::fromStdString(f.scratch / "skin"));
    idle(f);
    CHECK_FALSE(QDir(QString::fromStdString(f.scratch / "skin")).entryList({"*.png"}).isEmpty());
    REQUIRE(f.save_to(f.scratch / "q.veldstone"));
    const auto loaded = load_project(f.scratch / "q.veldstone");
    REQUIRE(loaded);
    CHECK(loaded->state.fit()->photo);
    f.window->session().document().undo();  // baked
    f.window->session().document().undo();  // the layer
    CHECK_FALSE(skin_of());
    f.window->session().document().undo();
    CHECK_FALSE(f.window->session().state().fit());
    f.window->session().document().redo();
    CHECK(f.window->photos().fit());
}

TEST_CASE("Photo window: another lens is shown while the slider moves and kept when it is let go") {
    Fixture f;
    open_portraits(f);
    make_head(f);
    const double before = fit_of(f).photo->photos[0].distance_mm;
    const std::size_t tries = f.window->session().state().current()->fits.size();
    int shown = 0;
    QObject::connect(&f.window->photos(), &PhotoController::live, f.window.get(), [&] { ++shown; });
    auto* lens = f.find<QSlider>("photo_lens");
    lens->setSliderDown(true);
    lens->setValue(lens->value() - 200);  // about half as long
    REQUIRE(wait_until([&] { return shown > 0; }, 60000));
    const PhotoCamera* live = f.window->photos().camera(0);
    REQUIRE(live);
    CHECK(live->focal_35mm() < 60);
    CHECK(f.window->session().state().current()->fits.size() == tries);  // nothing is kept yet
    lens->setSliderDown(false);                                          // emits sliderReleased
    idle(f);
    REQUIRE(wait_until([&] { return f.window->session().state().current()->fits.size() == tries + 1; }, 60000));
    CHECK(fit_of(f).photo->photos[0].distance_mm < 0.75 * before);
    CHECK(f.find<QComboBox>("photo_lens_from")->currentIndex() == 1);
}

// A second person of the same photographs and the same head, under ids of her own.
void add_twin(Fixture& f) {
    ProjectState next = f.window->session().state();
    Subject twin = next.subjects[0];
    twin.name = "Twin", twin.id = SubjectId::make();
    twin.photo_sets[0].id = PhotoSetId::make();
    for (FitRecord& fit : twin.fits) fit.id = FitId::make(), fit.photo_set_id = twin.photo_sets[0].id;
    next.subjects.push_back(std::move(twin));
    f.window->session().change("twin", std::move(next));
}

TEST_CASE("Photo window: a lens slider that is held") {
    Fixture f;
    open_portraits(f);
    make_head(f);
    add_twin(f);
    Session& session = f.window->session();
    const auto fits_of = [&](std::size_t i) { return session.state().subjects[i].fits.size(); };
    const auto lens_of = [&](std::size_t i) { return session.state().subjects[i].fits[0].photo->settings.lenses; };
    const auto solving = [&] { return session.jobs().has(JobKind::Lens); };
    const auto lenses = lens_of(0);
    int shown = 0;
    QObject::connect(&f.window->photos(), &PhotoController::live, f.window.get(), [&] { ++shown; });
    auto* lens = f.find<QSlider>("photo_lens");
    lens->setSliderDown(true);
    lens->setValue(lens->value() - 200);
    REQUIRE(solving());
    SECTION("is solved for once, then nothing runs") {
        REQUIRE(wait_until([&] { return shown > 0 && !solving(); }, 60000));
        QTest::qWait(300);
        CHECK(shown == 1);
        CHECK_FALSE(solving());
        lens->setValue(lens->value() - 50);  // another place, once again
        REQUIRE(wait_until([&] { return shown == 2 && !solving(); }, 60000));
    }
    SECTION("an undo meanwhile takes the head, and the lens with it") {
        session.document().undo();  // the twin
        session.document().undo();  // the head
        REQUIRE(fits_of(0) == 0);
        REQUIRE(wait_until([&] { return !solving(); }, 60000));
        CHECK(shown == 0);
        lens->setSliderDown(false);
        idle(f);
        CHECK(fits_of(0) == 0);
    }
    SECTION("another subject is worked on: it is neither shown nor kept there") {
        ProjectState next = session.state();
        next.subject = 1;
        session.change("work on", std::move(next));
        REQUIRE(wait_until([&] { return !solving(); }, 60000));
        CHECK(shown == 0);
        lens->setValue(lens->value() - 50);
        CHECK_FALSE(solving());
        lens->setSliderDown(false);
        idle(f);
        CHECK(fits_of(0) == 1);
        CHECK(fits_of(1) == 1);
        CHECK(lens_of(0) == lenses);
        CHECK(lens_of(1) == lenses);
    }
}

TEST_CASE(
    "Photo window: sliders by region, what a photograph shows kept, a place dragged, a brush in the photograph") {
    Fixture f;
    open_portraits(f);
    make_head(f);
    PhotoController& photos = f.window->photos();
    f.find<Sections>("fit_sections")->set_current(4);
    idle(f);
    const Index tip = demo_kit()->landmarks.at("pronasale").vertices[0];
    const Vec3 before = (*fit_of(f).positions)[tip];
    f.find<QCheckBox>("hand_keep_0")->click();
    f.find<QSlider>("hand_forward")->setValue(40);  // 4 mm
    const Vec3 now = (*fit_of(f).positions)[tip];
    CHECK((now - before).norm() > 1.5);
    CHECK((photos.camera(0)->project(now) - photos.camera(0)->project(before)).norm() < 1.5);
    f.find<QSlider>("hand_forward")->setValue(0);
    CHECK(((*fit_of(f).positions)[tip] - before).norm() < 1e-9);
    // a place of the cheek to where it is in the photograph
    photos.look_through(true);
    auto* dragging = f.find<QCheckBox>("hand_drag");
    REQUIRE(dragging->isEnabled());
    dragging->click();
    Viewport& view = *f.window->views().result_view();
    const Vec3 cheek = demo_kit()->landmarks.at("cheek_l").at(*fit_of(f).positions);
    const QPoint at = view.screen_of(cheek).toPoint(), to = at + QPoint(8, 0);
    drag(view, at, to);
    REQUIRE(fit_of(f).photo->settings.places.size() == 1);
    const PhotoPlace& dragged = fit_of(f).photo->settings.places[0];
    CHECK((photos.camera(0)->project(dragged.place.at(*fit_of(f).photo->solved)) - dragged.pixel).norm() < 1.5);
    dragging->click();
    f.window->session().document().undo();
    CHECK(fit_of(f).photo->settings.places.empty());
    // brushes work in the view through the photograph
    f.station("station_touch");
    QTest::qWait(100);
    REQUIRE(f.window->views().camera().camera().photo);
    f.window->touch().set_brush(Brush::Inflate);
    const QPoint nose = view.screen_of((*fit_of(f).positions)[tip]).toPoint();
    drag(view, nose, nose + QPoint(2, 2));
    REQUIRE(fit_of(f).touch);
    CHECK(wait_until([&] { return !fit_of(f).figures_old; }, 30000));
}

TEST_CASE("Photo window: cancel changes nothing, two people become one, photographs are dropped in") {
    Fixture f;
    open_portraits(f, true);
    f.station("station_fit");
    idle(f);
    f.press("photo_make");
    f.press("photo_cancel");
    idle(f);
    CHECK_FALSE(f.window->session().state().fit());
    f.press("photo_make");
    idle(f);
    REQUIRE(f.window->photos().fit());
    f.find<Sections>("fit_sections")->set_current(4);
    idle(f);
    const Points mine = *fit_of(f).positions;
    CHECK(f.find<QComboBox>("blend_other")->currentText() == "Mara");
    f.find<QSlider>("blend_share")->setValue(50);
    ProjectState worn = f.window->session().state();
    LayeredSkin grey;
    grey.name = "grey", grey.size = 64;
    grey.layers.emplace_back().from = LayerFrom::Worn;
    grey.layers[0].tiles["1001"].picture = std::make_shared<Image>(
        Image{"picture.png", "image/png", encode_png({64, 64, std::vector<std::uint8_t>(64 * 64 * 4, 255)})});
    REQUIRE(add_skin(worn, worn.subjects[1].id, grey));
    f.window->session().change("skin", std::move(worn));
    f.press("blend_keep");
    idle(f);
    const auto skin = f.window->session().state().current()->skin();
    REQUIRE(skin);
    CHECK(skin->name.find("Mara") != std::string::npos);
    REQUIRE(skin->layers.size() == 1);
    CHECK(skin->layers[0].tiles.contains("1001"));
    CHECK(fit_of(f).name == "blend 50 : 50");
    const Index tip = demo_kit()->landmarks.at("pronasale").vertices[0];
    const Points& theirs = *f.window->session().state().subjects[1].fits[0].positions;
    CHECK(((*fit_of(f).positions)[tip] - 0.5 * (mine[tip] + theirs[tip])).norm() < 1e-6);
    // an outline drawn by clicks on the photograph; clicks mark nothing here
    f.find<Sections>("fit_sections")->set_current(3);
    const auto marks = [&] { return f.window->session().state().current()->photo_sets[0].marks[0]; };
    const std::size_t points = marks().points.size();
    f.find<QCheckBox>("photo_draw")->click();
    PhotoView& picture = *f.window->views().photo_view();
    for (const QPointF& at : {QPointF(60, 60), QPointF(150, 60), QPointF(240, 70)})
        QTest::mouseClick(&picture, Qt::LeftButton, {}, picture.screen_of(at).toPoint());
    REQUIRE(marks().curves.contains("outline"));
    CHECK(marks().curves.at("outline").size() == 3);
    CHECK(marks().points.size() == points);
    // a point is dragged in one step back, one is put into the line, one is taken out
    const auto on_screen = [&](const Vec2& p) { return picture.screen_of({p.x(), p.y()}).toPoint(); };
    drag(picture, on_screen(marks().curves.at("outline")[2]),
         on_screen(marks().curves.at("outline")[2]) + QPoint(0, 30));
    CHECK(marks().curves.at("outline")[2].y() > 75);
    f.window->session().document().undo();
    CHECK(marks().curves.at("outline")[2].y() == Approx(70).margin(0.5 / picture.zoom()));
    QTest::mouseClick(&picture, Qt::LeftButton, {},
                      on_screen(0.5 * (marks().curves.at("outline")[0] + marks().curves.at("outline")[1])));
    REQUIRE(marks().curves.at("outline").size() == 4);
    CHECK(marks().curves.at("outline")[1].x() == Approx(105).margin(1 / picture.zoom()));
    QTest::mouseClick(&picture, Qt::LeftButton, Qt::ControlModifier, on_screen(marks().curves.at("outline")[1]));
    CHECK(marks().curves.at("outline").size() == 3);
    CHECK(marks().points.size() == points);
    f.press("photo_forget");
    CHECK_FALSE(marks().curves.contains("outline"));
    // a picture dropped on the window is a photograph, not a scan
    f.drop({QString::fromStdString(demo("subjects/juniper/juniper_front.jpg"))});
    CHECK(f.window->session().state().current()->photo_sets.size() == 2);
    CHECK(f.window->session().state().current()->photo_sets[1].name != "portraits");
}
