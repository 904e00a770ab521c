// Pictures of the Bank and of Deliver.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <cstdio>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/exchange_controller.h"
#include "app/views/view_set.h"
#include "core/io/mesh_file.h"
#include "core/morph/arithmetic.h"
#include "demo/pictures/picture_parts.h"

namespace veld {
namespace {

// A bank as a small studio has it: the fit, what came back, expressions, halves of them.
void fill_bank(MainWindow& window) {
    Session& session = window.session();
    const BaseKit& kit = *session.state().kit;
    ProjectState next = session.state();
    const auto add = [&](Result<Morph>&& morph, const char* group, MorphKind kind, int tag, double amount) {
        if (!morph) return std::fprintf(stderr, "%s\n", morph.error().message.c_str()), void();
        morph->group = group, morph->kind = kind, morph->tag = tag;
        add_morph(next, std::move(*morph), amount);
    };
    const std::string returns = kit.folder + "/../returns/";
    for (const auto& [file, name] : {std::pair{"warden_clean.obj", "Warden"}, {"tall_carrier.obj", "Tall carrier"}}) {
        if (auto mesh = read_mesh(returns + file))
            add(make_morph(kit, mesh->mesh.positions, name), "people", MorphKind::Whole, 3, 0);
    }
    for (const auto& [name, shape] : kit.expressions)
        add(make_morph(kit, shape, name), "expressions", MorphKind::Expression, 1, name == "smile" ? 0.5 : 0);
    for (const Side side : {Side::Left, Side::Right})
        add(half_morph(kit, *next.bank[static_cast<std::size_t>(find_morph(next, "blink"))].morph, side, 8,
                       side == Side::Left ? "wink left" : "wink right"),
            "expressions/halves", MorphKind::Expression, 2, 0);
    session.change("Fill the bank", std::move(next));
}

// A pose that a shape stands in.
void picture_rest(MainWindow& window) {
    window.bank().set_page(BankController::Page::Rest);
    settle(300);
    const auto* said = window.findChild<QLabel*>("rest_said");
    const QString before = said->text();
    window.findChild<QPushButton*>("rest_find")->click();
    wait_for([&] { return said->text() != before; }, 60000);
    window.views().camera().look_from(FixedView::ThreeQuarter);
    settle(3000);  // three views come to rest
}

// Where a morph takes the joints, one of them fixed.
void picture_joints(MainWindow& window) {
    window.bank().set_page(BankController::Page::Joints);
    settle(300);
    auto* joints = window.findChild<QTreeWidget*>("moves_joints");
    joints->setCurrentItem(joints->findItems("thigh l", Qt::MatchExactly).value(0));
    auto* side = window.findChild<QDoubleSpinBox*>("moves_x");
    side->setValue(side->value() - 6);
    window.views().camera().look_from(FixedView::Front);
    window.views().frame_home();
}

}  // namespace

void picture_bank(MainWindow& window, const QString& view) {
    Session& session = window.session();
    using Page = BankController::Page;
    window.go_to(Station::Bank);
    window.bank().set_page(Page::Make);
    window.findChild<QPushButton*>("bank_keep")->click();
    fill_bank(window);
    window.views().camera().look_from(FixedView::ThreeQuarter);
    if (view == "deliver") return window.go_to(Station::Deliver);
    if (view == "bank-regions") {
        window.bank().reset();
        window.bank().set_page(Page::Regions);
        settle(200);
        for (const char* region : {"nose", "eyes", "chin and jaw"}) {
            window.bank().select_region(region);
            window.bank().set_region_amount(region == std::string("nose") ? "Warden" : "Tall carrier", 1, false);
        }
        window.bank().set_region_amount("Warden", 0.4, false);
    } else if (view == "bank-make" || view == "bank-rest" || view == "bank-joints") {
        ProjectState next = session.state();
        const std::string one = view == "bank-rest" ? "Warden" : "Tall carrier";
        for (BankEntry& e : next.bank) e.amount = e.morph->name == one ? 1 : 0;
        session.change("One alone", std::move(next));
        if (view == "bank-rest") return picture_rest(window);
        if (view == "bank-joints") return picture_joints(window);
        window.bank().set_page(Page::Make);
        auto* from = window.findChild<QComboBox*>("bank_from");
        from->setCurrentIndex(1);
        emit from->activated(1);
        window.views().camera().look_from(FixedView::Front);
    } else if (view == "bank-return") {
        window.bank().set_page(Page::Exchange);
        window.exchange().check(
            QString::fromStdString(session.state().kit->folder + "/../returns/warden_leftover.obj"));
        wait_for([&] { return !window.exchange().checking(); }, 60000);
    } else {
        window.bank().set_page(Page::Mix);
    }
}

}  // namespace veld
