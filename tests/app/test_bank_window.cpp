// The Bank station in the real window: sliders, regions, shares, and the way out and back.
#include <catch2/catch.hpp>

#include "tests/app/bank_support.h"

TEST_CASE("Bank window: sliders, solo, search, settings A and B, all back") {
    BankFixture f;
    f.add_people();
    f.add("smile", demo_kit()->expressions.at("smile"), "expressions");
    auto* list = f.find<MorphList>("bank_list");
    CHECK(list->shown_count() == 3);
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(0.5);
    f.find<QDoubleSpinBox>("bank_spin_2")->setValue(1);
    CHECK(f.state().bank[0].amount == 0.5);
    // a drag of the slider is one step
    auto* slider = f.find<QSlider>("bank_slider_0");
    const std::size_t steps = f.session().document().labels().size();
    QTest::mousePress(slider, Qt::LeftButton, Qt::NoModifier, QPoint(slider->width() / 2, slider->height() / 2));
    for (int x = 0; x <= 40; x += 8) {
        QMouseEvent move(QEvent::MouseMove, QPointF(slider->width() / 2 + x, slider->height() / 2),
                         slider->mapToGlobal(QPointF(slider->width() / 2 + x, slider->height() / 2)), Qt::NoButton,
                         Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(slider, &move);
    }
    QTest::mouseRelease(slider, Qt::LeftButton);
    CHECK(f.state().bank[0].amount > 0.5);
    CHECK(f.session().document().labels().size() == steps + 1);
    // setting A, another mix, setting B, and between them
    f.press("bank_a");
    REQUIRE(f.state().mix_a);
    const double kept = f.state().bank[0].amount;
    f.press("bank_reset");
    CHECK(f.state().bank[0].amount == 0);
    f.find<QDoubleSpinBox>("bank_spin_1")->setValue(1);
    f.press("bank_b");
    f.press("bank_a");
    CHECK(f.state().bank[0].amount == kept);
    CHECK(f.state().bank[1].amount == 0);
    f.find<QSlider>("bank_between")->setValue(100);
    CHECK(f.state().bank[0].amount == Approx(0.5 * kept));
    CHECK(f.state().bank[1].amount == Approx(0.5));
    f.undo();
    CHECK(f.state().bank[1].amount == 0);
    // search, favourites, solo
    f.find<QLineEdit>("bank_search")->setText("peop tall");
    CHECK(list->shown_count() == 1);
    f.find<QLineEdit>("bank_search")->setText("nobody");
    CHECK(list->shown_count() == 0);
    f.find<QLineEdit>("bank_search")->clear();
    emit list->flag_changed(2, 1, true);
    CHECK(f.state().bank[2].solo);
    CHECK(apart(mixed_shape(f.state()), mix_morphs(demo_kit()->mesh.positions,
                                                   {{f.state().bank[2].morph.get(), f.state().bank[2].amount}})) == 0);
    emit list->flag_changed(1, 0, true);
    f.find<QToolButton>("bank_only_favourites")->click();
    CHECK(list->shown_count() == 1);
}

TEST_CASE("Bank window: five hundred morphs, and only what is in sight has widgets") {
    BankFixture f;
    ProjectState next = f.state();
    for (int k = 0; k < 500; ++k) {
        Points shape = demo_kit()->mesh.positions;
        for (int i = 0; i < 40; ++i) shape[static_cast<std::size_t>((k * 53 + i * 7) % 28000)] += Vec3(0, 1, 0);
        Morph m = *make_morph(*demo_kit(), shape, "morph " + std::to_string(k));
        m.group = "group " + std::to_string(k % 5);
        add_morph(next, std::move(m), 0);
    }
    f.session().change("Many", std::move(next));
    QTest::qWait(50);
    auto* list = f.find<MorphList>("bank_list");
    CHECK(list->shown_count() == 500);
    CHECK(list->findChildren<MorphRow*>().size() < 30);
    list->reveal(499);
    QTest::qWait(20);
    f.find<QDoubleSpinBox>("bank_spin_499")->setValue(1.0);
    CHECK(f.state().bank[499].amount == 1);
    CHECK(list->findChildren<MorphRow*>().size() < 30);
    f.find<QLineEdit>("bank_search")->setText("morph 123");
    QTest::qWait(20);
    f.find<QDoubleSpinBox>("bank_spin_123")->setValue(0.25);
    CHECK(f.state().bank[123].amount == 0.25);
}

TEST_CASE("Bank window: a region is picked on the map and on the model, shapes are weighed there, parts follow") {
    BankFixture f;
    f.add_people();
    f.page(BankController::Page::Regions);
    auto* map = f.find<FaceMap>("bank_map");
    const auto nose = map->place_of("nose");
    REQUIRE(nose);
    QTest::mouseClick(&map->front(), Qt::LeftButton, Qt::NoModifier, map->front().screen_of(*nose).toPoint());
    CHECK(f.window->bank().region() == "nose");
    auto* add = f.find<QComboBox>("bank_region_add");
    add->setCurrentIndex(add->findText("Warden"));
    emit add->activated(add->currentIndex());
    QTest::qWait(30);
    REQUIRE(f.state().region_mix.size() == 1);
    f.find<QDoubleSpinBox>("bank_region_spin_0")->setValue(0.6);
    CHECK(f.state().region_mix[0].amount == 0.6);
    const Points mixed = mixed_shape(f.state());
    const auto& kit = *demo_kit();
    CHECK((kit.landmarks.at("pronasale").at(mixed) - kit.landmarks.at("pronasale").at(kit.mesh.positions)).norm() > 2);
    CHECK((kit.landmarks.at("vertex").at(mixed) - kit.landmarks.at("vertex").at(kit.mesh.positions)).norm() < 1e-9);
    // on the model: a click on the chin
    Viewport& view = *f.window->views().result_view();
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier,
                      view.screen_of(kit.landmarks.at("pogonion").at(mixed)).toPoint());
    CHECK(f.window->bank().region() == "chin and jaw");
    f.undo();
    f.undo();
    CHECK(f.state().region_mix.empty());
}

TEST_CASE("Bank window: a whole shape becomes two shares, the band and the painted share count") {
    BankFixture f;
    f.add_people();
    f.find<QDoubleSpinBox>("bank_spin_1")->setValue(1);
    f.page(BankController::Page::Make);
    auto* from = f.find<QComboBox>("bank_from");
    from->setCurrentIndex(1);
    emit from->activated(1);
    CHECK(f.find<QDoubleSpinBox>("bank_neck_mm")->value() < -150);
    f.find<QLineEdit>("bank_name")->setText("tall");
    const Points whole = mixed_shape(f.state());
    f.press("bank_split");
    REQUIRE(f.state().bank.size() == 4);
    const Morph &head = *f.state().bank[2].morph, &body = *f.state().bank[3].morph;
    CHECK(head.name == "tall head");
    CHECK(body.root.y() > 150);
    CHECK(apart(mix_morphs(demo_kit()->mesh.positions, {{&head, 1}, {&body, 1}}), whole) <
          1.0);  // floors differ by less
    f.undo();
    REQUIRE(f.state().bank.size() == 2);
    // paint the share on the base view
    f.page(BankController::Page::Make);
    f.press("bank_paint");
    REQUIRE(f.window->bank().painting());
    Viewport& base = *f.window->views().base_view();
    const Vec3 shoulder = demo_kit()->landmarks.at("suprasternale").at(demo_kit()->mesh.positions);
    const Index near = demo_kit()->landmarks.at("suprasternale").vertices[0];
    const float before = f.window->bank().share_weights()[near];
    QTest::mousePress(&base, Qt::LeftButton, Qt::NoModifier, base.screen_of(shoulder).toPoint());
    QTest::mouseRelease(&base, Qt::LeftButton, Qt::NoModifier, base.screen_of(shoulder).toPoint());
    CHECK(f.window->bank().share_weights()[near] > before);
    CHECK_FALSE(f.state().head_share.empty());
    f.press("bank_band_again");
    CHECK(f.state().head_share.empty());
    f.undo();
    f.undo();
    f.undo();
    CHECK(f.state().head_share.empty());
}

TEST_CASE("Bank window: the expressions of a shape come as morphs whose lids meet, in one step") {
    BankFixture f;
    const BaseKit& kit = *demo_kit();
    const Points warden = read_mesh(demo("returns/warden_clean.obj"))->mesh.positions;
    f.add("warden", warden);
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(1);
    f.page(BankController::Page::Make);
    auto* from = f.find<QComboBox>("bank_from");
    from->setCurrentIndex(1);
    emit from->activated(1);
    f.find<QLineEdit>("bank_name")->setText("Warden");
    f.press("bank_expressions");
    CHECK_FALSE(f.find<QPushButton>("bank_expressions")->isEnabled());  // a second click is none
    REQUIRE(wait_until([&] { return f.state().bank.size() == 1 + kit.expressions.size(); }));
    const Morph* blink = nullptr;
    for (const BankEntry& e : f.state().bank)
        if (e.morph->name == "blink, Warden") blink = e.morph.get();
    REQUIRE(blink);
    CHECK(blink->kind == MorphKind::Expression);
    CHECK(blink->group == "expressions/Warden");
    const Points shut = mix_morphs(warden, {{blink, 1.0}});
    CHECK(contact_figures(kit, shut, "blink").gap_mm < 0.1);
    CHECK(contact_figures(kit, plain_expression(kit, warden, "blink"), "blink").gap_mm > 0.3);
    f.undo();
    CHECK(f.state().bank.size() == 1);
}

TEST_CASE("Bank window: the mix is kept in place of another morph, and its slider stays") {
    BankFixture f;
    f.add_people();
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(0.5);
    f.page(BankController::Page::Make);
    auto* from = f.find<QComboBox>("bank_from");
    from->setCurrentIndex(1);
    emit from->activated(1);
    auto* into = f.find<QComboBox>("bank_into");
    into->setCurrentIndex(into->findText("in place of Tall carrier"));
    const Points mixed = mixed_shape(f.state());
    f.press("bank_keep");
    REQUIRE(f.state().bank.size() == 2);
    CHECK(f.state().bank[1].morph->name == "Tall carrier");
    CHECK(f.state().bank[1].morph->group == "people");
    CHECK(apart(mix_morphs(demo_kit()->mesh.positions, {{f.state().bank[1].morph.get(), 1}}), mixed) < 1e-3);
    CHECK(f.state().bank[0].amount == 0.5);
}

TEST_CASE(
    "Bank window: sent out, sculpted outside, noticed, checked, and the morph is updated without its slider moving") {
    BankFixture f;
    f.add_people();
    f.find<QDoubleSpinBox>("bank_spin_0")->setValue(1);
    f.page(BankController::Page::Exchange);
    f.find<QLineEdit>("exchange_file")->setText("warden");
    QTest::mouseClick(f.find<QCheckBox>("exchange_mix"), Qt::LeftButton, Qt::NoModifier, QPoint(8, 8));
    auto* meant = f.find<QComboBox>("exchange_for");
    meant->setCurrentIndex(meant->findText("for Warden"));
    f.press("exchange_send");
    REQUIRE(f.state().sent.size() == 1);
    const std::string path = f.state().sent[0].file;
    REQUIRE(std::filesystem::exists(path));
    REQUIRE(std::filesystem::exists(path + ".sent.json"));
    // as it lies there nothing has come back
    QTest::qWait(2600);
    CHECK(f.window->exchange().returns().empty());
    const Points before = mixed_shape(f.state());
    auto file = read_mesh(path);
    REQUIRE(sculpt(file->mesh, "jaw", 2, 1));
    const Points sculpted = file->mesh.positions;
    REQUIRE(damage(file->mesh, "reorder", 2));
    REQUIRE(write_mesh(path, file->mesh, 1.0));
    // sending again does not write over what came back
    const std::string came_stamp = file_stamp(path);
    f.press("exchange_send");
    CHECK(f.questions.size() == 1);
    CHECK(file_stamp(path) == came_stamp);
    REQUIRE(wait_until(
        [&] { return f.window->exchange().returns().size() == 1 && f.window->exchange().returns()[0].complete; },
        20000));
    QTest::qWait(50);
    auto* came = f.find<QListWidget>("exchange_came");
    QTest::mouseClick(came->viewport(), Qt::LeftButton, Qt::NoModifier, came->visualItemRect(came->item(0)).center());
    REQUIRE(wait_until([&] { return f.window->exchange().result() && !f.window->exchange().checking(); }, 30000));
    QTest::qWait(50);
    CHECK(f.find<QTreeWidget>("exchange_steps")->topLevelItemCount() >= 2);
    CHECK(f.window->bank().preview());
    f.press("exchange_update");
    REQUIRE(f.state().bank.size() == 2);
    CHECK(f.state().bank[0].amount == 1);
    CHECK(f.state().bank[0].morph->name == "Warden");
    // the mix now looks as what came back
    CHECK(apart(mixed_shape(f.state()), sculpted) < 2e-3);
    CHECK(apart(before, sculpted) > 3);
    CHECK(f.window->exchange().returns().empty());
    CHECK(f.state().sent[0].stamp == file_stamp(path));  // taken: not offered again
    f.undo();
    CHECK(apart(mixed_shape(f.state()), before) == 0);
}

TEST_CASE(
    "Bank window: what is still inside is taken out on demand, another mesh becomes a source, rubbish says why") {
    BankFixture f;
    f.page(BankController::Page::Exchange);
    ExchangeController& exchange = f.window->exchange();
    const auto check = [&](const std::string& path) {
        exchange.check(QString::fromStdString(path));
        REQUIRE(wait_until([&] { return !exchange.checking(); }, 60000));
        QTest::qWait(30);
    };
    check(demo("returns/warden_leftover.obj"));
    REQUIRE(exchange.result());
    REQUIRE(exchange.result()->leftovers.size() == 1);
    auto* steps = f.find<QTreeWidget>("exchange_steps");
    steps->topLevelItem(0)->setCheckState(0, Qt::Checked);
    REQUIRE(wait_until([&] { return exchange.checking(); }, 5000));  // when the tick's own event is over
    REQUIRE(wait_until([&] { return !exchange.checking(); }, 60000));
    CHECK(apart(exchange.result()->positions, read_mesh(demo("returns/warden_clean.obj"))->mesh.positions) < 0.05);
    f.find<QLineEdit>("exchange_name")->setText("Warden");
    f.press("exchange_keep");
    REQUIRE(f.state().bank.size() == 1);
    CHECK(f.state().bank[0].morph->origin.find("warden_leftover") != std::string::npos);
    f.page(BankController::Page::Exchange);
    check(demo("returns/warden_head_only.obj"));
    CHECK(f.find<QComboBox>("exchange_seat")->isVisible());
    f.find<QComboBox>("exchange_seat")->setCurrentIndex(1);
    emit f.find<QComboBox>("exchange_seat")->activated(1);
    REQUIRE(wait_until([&] { return !exchange.checking(); }, 60000));
    CHECK(seat_gap(*demo_kit(), exchange.result()->positions).worst < 1e-9);
    f.press("exchange_drop");
    CHECK(exchange.looked_at().isEmpty());
    check(demo("returns/unrelated.obj"));
    CHECK_FALSE(exchange.result()->relative);
    const std::size_t sources = f.state().current()->sources.size();
    f.press("exchange_source");
    REQUIRE(wait_until([&] { return !f.session().busy(); }, 60000));
    CHECK(f.state().current()->sources.size() == sources + 1);
    f.page(BankController::Page::Exchange);
    REQUIRE(write_file(f.scratch / "broken.obj", "v 0 0\nf 1 2 3\n"));
    check(f.scratch / "broken.obj");
    CHECK_FALSE(exchange.trouble().isEmpty());
    CHECK_FALSE(f.find<QPushButton>("exchange_source")->isVisible());
}

TEST_CASE("Bank window: what came back larger, turned and moved is asked about and not kept before") {
    BankFixture f;
    f.page(BankController::Page::Exchange);
    ExchangeController& exchange = f.window->exchange();
    Mesh mesh = demo_kit()->mesh;
    REQUIRE(sculpt(mesh, "nose", 3, 1));
    const Points sculpted = mesh.positions;
    REQUIRE(damage(mesh, "rescale", 4));
    REQUIRE(write_mesh(f.scratch / "giant.obj", mesh, 1.0));
    const auto idle = [&] {
        REQUIRE(wait_until([&] { return !exchange.checking(); }, 60000));
        QTest::qWait(30);
    };
    exchange.check(QString::fromStdString(f.scratch / "giant.obj"));
    idle();
    auto* question = f.find<QLabel>("exchange_question");
    REQUIRE(question->isVisible());
    CHECK(question->text().contains("1.7 times"));
    CHECK_FALSE(f.find<QPushButton>("exchange_keep")->isVisible());
    CHECK_FALSE(exchange.keep("giant", ""));
    CHECK(f.state().bank.empty());
    SECTION("an accident") {
        f.press("exchange_answer_take");
        idle();
        CHECK_FALSE(question->isVisible());
        f.find<QLineEdit>("exchange_name")->setText("Nose");
        f.press("exchange_keep");
        REQUIRE(f.state().bank.size() == 1);
        CHECK(apart(mixed_shape(f.state()), sculpted) < 0.01);
    }
    SECTION("meant") {
        f.press("exchange_answer_leave");
        idle();
        CHECK_FALSE(question->isVisible());
        CHECK(f.find<QPushButton>("exchange_keep")->isVisible());
        CHECK(bounding_box(exchange.result()->positions).size().y() > 2500);
    }
}
