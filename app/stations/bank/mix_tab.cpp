#include "app/stations/bank/mix_tab.h"

#include <QInputDialog>
#include <QMenu>
#include <cmath>

#include "app/flow_row.h"
#include "app/stations/bank/morph_dialog.h"
#include "app/widgets.h"

namespace veld {
namespace {
constexpr int kBlendSteps = 200;
}

MixTab::MixTab(Session& session, BankController& bank, QWidget* parent) : QWidget(parent), s_(session), bank_(bank) {
    auto* column = panel_column(this);
    column->setContentsMargins(0, 8, 0, 0);
    search_ = new QLineEdit;
    search_->setObjectName("bank_search");
    search_->setPlaceholderText(tr("Search names, groups, notes"));
    search_->setClearButtonEnabled(true);
    const auto toggle = [&](const char* name, const QString& text, const QString& tip) {
        auto* b = new QToolButton;
        b->setObjectName(name);
        b->setText(text);
        b->setToolTip(tip);
        b->setCheckable(true);
        connect(b, &QToolButton::toggled, this, &MixTab::refresh);
        return b;
    };
    favourites_ = toggle("bank_only_favourites", "★", tr("Favourites only"));
    active_ = toggle("bank_only_active", "≠ 0", tr("Only those not at 0"));
    column->addLayout(row({search_, favourites_, active_}));
    connect(search_, &QLineEdit::textChanged, this, &MixTab::refresh);
    empty_ = text_label(tr("No morphs yet. Make one from a fit, or send the base out and return what was sculpted."),
                        "dim");
    column->addWidget(empty_);
    make_ = button(tr("Make a morph…"), "bank_go_make");
    connect(make_, &QPushButton::clicked, this, [this] { bank_.set_page(BankController::Page::Make); });
    column->addWidget(make_);
    none_found_ = text_label(tr("No morph matches."), "dim");
    column->addWidget(none_found_);
    list_ = new MorphList;
    list_->setObjectName("bank_list");
    column->addWidget(list_, 1);
    connect(list_, &MorphList::amount_changed, &bank_, &BankController::slide);
    connect(list_, &MorphList::released, this, [this] { s_.document().seal(); });
    connect(list_, &MorphList::menu_wanted, this, &MixTab::menu);
    connect(list_, &MorphList::flag_changed, this, [this](std::size_t number, int flag, bool on) {
        const QString labels[] = {on ? tr("Mark as favourite") : tr("Remove from favourites"),
                                  on ? tr("Solo") : tr("Solo off"), on ? tr("Mute") : tr("Unmute")};
        bank_.change_entry(labels[flag], number, [flag, on](BankEntry& e) {
            (flag == 0 ? e.favourite : flag == 1 ? e.solo : e.muted) = on;
        });
    });
    beyond_ = new QCheckBox(tr("Sliders beyond their limits"));
    beyond_->setObjectName("bank_beyond");
    beyond_->setToolTip(tr("To exaggerate: every slider reaches twice as far"));
    connect(beyond_, &QCheckBox::toggled, this, &MixTab::refresh);
    column->addWidget(beyond_);
    a_ = setting_button(false), b_ = setting_button(true);
    between_ = new QSlider(Qt::Horizontal);
    between_->setObjectName("bank_between");
    between_->setRange(-kBlendSteps / 4, kBlendSteps + kBlendSteps / 4);
    between_->setToolTip(tr("From setting A to setting B, and a little beyond"));
    connect(between_, &QSlider::valueChanged, this, [this](int v) {
        if (!filling_) bank_.between(static_cast<double>(v) / kBlendSteps, between_->isSliderDown());
    });
    connect(between_, &QSlider::sliderReleased, this, [this] { s_.document().seal(); });
    auto* settings = row({a_, between_, b_});
    settings->setStretch(1, 1);
    column->addLayout(settings);
    reset_ = button(tr("Reset all"), "bank_reset",
                    tr("Every slider to its usual amount (0 unless you set another), regions cleared"));
    connect(reset_, &QPushButton::clicked, &bank_, &BankController::reset);
    bake_ = button(tr("Bake to one morph…"), "bank_bake",
                   tr("The current mix becomes a morph at 1, which can be pushed further"));
    connect(bake_, &QPushButton::clicked, this, &MixTab::bake);
    column->addLayout(flow({reset_, bake_}));
    connect(&s_, &Session::changed, this, &MixTab::refresh);
    refresh();
}

void MixTab::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

QPushButton* MixTab::setting_button(bool b) {
    auto* out = button(b ? tr("B") : tr("A"), b ? "bank_b" : "bank_a");
    out->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    out->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(out, &QPushButton::clicked, this, [this, b] { bank_.setting(b, false); });
    connect(out, &QPushButton::customContextMenuRequested, this, [this, b, out](const QPoint& at) {
        QMenu menu;
        const QAction* keep = menu.addAction(tr("Keep this mix as %1").arg(b ? tr("B") : tr("A")));
        if (menu.exec(out->mapToGlobal(at)) == keep) bank_.setting(b, true);
    });
    return out;
}

void MixTab::refresh() {
    if (!isVisible()) return;  // showEvent catches up
    filling_ = true;
    const ProjectState& state = s_.state();
    list_->show_bank(state.bank, {search_->text(), favourites_->isChecked(), active_->isChecked()},
                     beyond_->isChecked());
    empty_->setVisible(state.bank.empty());
    make_->setVisible(state.bank.empty());
    none_found_->setVisible(!state.bank.empty() && list_->shown_count() == 0);
    const auto label = [&](QPushButton* button, const std::optional<MixSetting>& kept, const QString& name) {
        button->setText(kept ? name : name + " +");
        button->setToolTip(kept ? tr("Show setting %1. Right click: keep this mix as %1.").arg(name)
                                : tr("Keep this mix as setting %1").arg(name));
    };
    label(a_, state.mix_a, tr("A"));
    label(b_, state.mix_b, tr("B"));
    between_->setEnabled(state.mix_a && state.mix_b);
    between_->setValue(static_cast<int>(std::lround(kBlendSteps * state.between.value_or(0.5))));
    const bool mixed = !state.region_mix.empty() || std::any_of(state.bank.begin(), state.bank.end(),
                                                                [](const BankEntry& e) { return e.amount != 0; });
    bake_->setEnabled(mixed);
    a_->setEnabled(!state.bank.empty());
    b_->setEnabled(!state.bank.empty());
    reset_->setEnabled(!state.bank.empty());
    filling_ = false;
}

void MixTab::bake() {
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("Bake to one morph"), tr("Name:"), QLineEdit::Normal, tr("Mix"), &ok).trimmed();
    if (ok && !name.isEmpty()) bank_.bake(name);
}

MorphId MixTab::ask_for_other(MorphId id, const QString& title) {
    QStringList names;
    std::vector<MorphId> ids;
    QString first;
    for (const BankEntry& e : s_.state().bank) {
        if (e.id == id)
            first = QString::fromStdString(e.morph->name);
        else
            names << QString::fromStdString(e.morph->name), ids.push_back(e.id);
    }
    bool ok = false;
    const QString selected = QInputDialog::getItem(this, title, first, names, 0, false, &ok);
    return ok && names.contains(selected) ? ids[static_cast<std::size_t>(names.indexOf(selected))] : MorphId{};
}

void MixTab::rename(MorphId id) {
    const int at = morph_place(s_.state(), id);
    if (at < 0) return;
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("Rename morph"), tr("Name:"), QLineEdit::Normal,
                              QString::fromStdString(s_.state().bank[static_cast<std::size_t>(at)].morph->name), &ok)
            .trimmed();
    if (ok) bank_.rename(id, name);
}

// By id: the bank may change while the menu or a question stands.
void MixTab::menu(std::size_t number, const QPoint& at) {
    if (number >= s_.state().bank.size()) return;
    const MorphId id = s_.state().bank[number].id;
    using Made = BankController::Made;
    auto* menu = new QMenu(this);
    menu->setObjectName("bank_menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto act = [this](QMenu* in, const QString& label, auto&& does) {
        connect(in->addAction(label), &QAction::triggered, this, does);
    };
    act(menu, tr("Rename…"), [this, id] { rename(id); });
    act(menu, tr("Properties…"), [this, id] {
        if (morph_place(s_.state(), id) >= 0) MorphDialog(s_, bank_, id, this).exec();
    });
    menu->addSeparator();
    auto* made = menu->addMenu(tr("New morph from it"));
    act(made, tr("Mirrored"), [this, id] { bank_.make_from(id, Made::Mirrored); });
    act(made, tr("Left half"), [this, id] { bank_.make_from(id, Made::LeftHalf); });
    act(made, tr("Right half"), [this, id] { bank_.make_from(id, Made::RightHalf); });
    act(made, tr("Left on both sides"), [this, id] { bank_.make_from(id, Made::LeftOnBoth); });
    act(made, tr("Right on both sides"), [this, id] { bank_.make_from(id, Made::RightOnBoth); });
    act(made, tr("One morph for each region"), [this, id] { bank_.split_by_region(id); });
    act(made, tr("Scaled…"), [this, id] {
        bool ok = false;
        const double factor = QInputDialog::getDouble(this, tr("Scaled morph"), tr("Times:"), 0.5, -10, 10, 3, &ok);
        if (ok) bank_.scale(id, factor);
    });
    for (const double sign : {1.0, -1.0}) {
        QAction* action = made->addAction(sign > 0 ? tr("Plus another…") : tr("Minus another…"));
        action->setEnabled(s_.state().bank.size() > 1);
        connect(action, &QAction::triggered, this, [this, id, sign] {
            if (const MorphId other =
                    ask_for_other(id, sign > 0 ? tr("Plus another morph") : tr("Minus another morph")))
                bank_.add_other(id, other, sign);
        });
    }
    menu->addSeparator();
    act(menu, tr("Delete"), [this, id] { bank_.erase(id); });
    menu->popup(at);
}

}  // namespace veld
