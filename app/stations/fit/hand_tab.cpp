#include <cmath>

#include "app/flow_row.h"
#include "app/lengths.h"
#include "app/region_names.h"
#include "app/stations/fit/photos_tab.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr int kSliderMm = 8;  // each way

QString move_words(HandMove move) {
    switch (move) {
        case HandMove::Wider:
            return HandTab::tr("Wider");
        case HandMove::Taller:
            return HandTab::tr("Taller");
        case HandMove::Forward:
            return HandTab::tr("Forward");
        case HandMove::Up:
            return HandTab::tr("Up");
        case HandMove::Tip:
            return HandTab::tr("Tip");
    }
    return {};
}

}  // namespace

HandTab::HandTab(Session& session, PhotoController& photos, QWidget* parent)
    : QWidget(parent), s_(session), p_(photos) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 8, 0, 0);
    column->setSpacing(6);
    hint_ = text_label({}, "dim");
    column->addWidget(hint_);
    build_sliders(column);
    build_places(column);
    build_blend(column);
    column->addStretch();
    connect(&p_, &PhotoController::changed, this, &HandTab::refresh);
    connect(&s_, &Session::busy_changed, this, &HandTab::refresh);
    refresh();
}

void HandTab::build_sliders(QBoxLayout* column) {
    column->addWidget(text_label(tr("Shape, region by region"), "section"));
    region_ = new QComboBox;
    region_->setObjectName("hand_region");
    connect(region_, &QComboBox::currentIndexChanged, this, [this] {
        if (!filling_) refresh();
    });
    column->addWidget(region_);
    QString longest;
    for (const HandMove move : kHandMoves)
        longest = std::max(longest, move_words(move), [](auto& a, auto& b) { return a.size() < b.size(); });
    for (const HandMove move : kHandMoves) {
        auto* slider = new QSlider(Qt::Horizontal);
        slider->setObjectName(QString("hand_%1").arg(hand_move_name(move)));
        slider->setRange(-10 * kSliderMm, 10 * kSliderMm);
        slider->setToolTip(move == HandMove::Tip ? tr("Forward below, back above")
                                                 : tr("Averaged over the region; likely neighbours move along"));
        auto* text = new QLabel;
        hold_width(text, "+8.00 mm");
        auto* name = text_label(move_words(move), "plain");
        hold_width(name, longest);
        connect(slider, &QSlider::valueChanged, this, [this, move](int v) {
            if (!filling_) p_.set_slider(region_->currentData().toString().toStdString(), move, v / 10.0);
        });
        sliders_[move] = {slider, text};
        column->addLayout(row({name, slider, text}));
    }
    column->addWidget(text_label(tr("Lock these photographs"), "section"));
    keeps_ = new QWidget;
    keeps_->setToolTip(
        tr("What a locked photograph sees moves only along its rays, so it still matches. Shape the front first, lock "
           "it, then the side"));
    new QVBoxLayout(keeps_);
    keeps_->layout()->setContentsMargins(0, 0, 0, 0);
    keeps_->layout()->setSpacing(2);
    column->addWidget(keeps_);
}

void HandTab::build_places(QBoxLayout* column) {
    column->addWidget(text_label(tr("Places"), "section"));
    drag_ = new QCheckBox(tr("Drag the mesh onto the photo"));
    drag_->setObjectName("hand_drag");
    drag_->setToolTip(
        tr("In the view through a photograph: press on the mesh and drag it onto the picture. What the photographs "
           "show holds the rest"));
    connect(drag_, &QCheckBox::clicked, &p_, &PhotoController::set_placing);
    drop_ = button(tr("Remove"), "hand_drop", tr("Removes all dragged places and solves again"));
    connect(drop_, &QPushButton::clicked, &p_, &PhotoController::drop_pins);
    column->addWidget(drag_);
    column->addWidget(drop_);
}

void HandTab::build_blend(QBoxLayout* column) {
    column->addWidget(text_label(tr("Blend with another subject"), "section"));
    other_ = new QComboBox;
    other_->setObjectName("blend_other");
    column->addWidget(other_);
    blend_ = new QSlider(Qt::Horizontal);
    blend_->setObjectName("blend_share");
    blend_->setRange(0, 100);
    blend_->setToolTip(tr("Left: this head, right: the other; shown while it moves"));
    blend_text_ = new QLabel;
    hold_width(blend_text_, "100 %");
    connect(blend_, &QSlider::valueChanged, this, [this](int v) {
        blend_text_->setText(QString("%1 %").arg(v));
        if (!filling_ && other_->currentIndex() >= 0) p_.show_blend({other_->currentData().toULongLong()}, v / 100.0);
    });
    connect(blend_, &QSlider::sliderReleased, &p_, &PhotoController::live_ended);
    column->addLayout(row({blend_, blend_text_}));
    skins_ = new QCheckBox(tr("Skins too"));
    skins_->setObjectName("blend_skins");
    skins_->setChecked(true);
    keep_blend_ =
        button(tr("Keep as a fit"), "blend_keep",
               tr("The blend becomes a fit of this subject. A person who has only photographs is made first"));
    connect(keep_blend_, &QPushButton::clicked, this, [this] {
        if (other_->currentIndex() >= 0)
            p_.keep_blend({other_->currentData().toULongLong()}, blend_->value() / 100.0, skins_->isChecked());
    });
    column->addLayout(flow({skins_, keep_blend_}));
}

void HandTab::refresh() {
    filling_ = true;
    const bool fit = p_.fit() != nullptr, ready = fit && !p_.slider_regions().empty() && !s_.busy();
    hint_->setText(!fit                          ? tr("Make a head from photographs first.")
                   : p_.slider_regions().empty() ? tr("The shape space is being prepared…")
                                                 : QString());
    hint_->setVisible(!hint_->text().isEmpty());
    const auto regions = p_.slider_regions();
    if (region_->count() != static_cast<int>(regions.size())) {
        region_->clear();
        for (const std::string& r : regions) {
            region_->addItem(plain_region(r), QString::fromStdString(r));
        }
        if (const int nose = region_->findData("nose"); nose >= 0) region_->setCurrentIndex(nose);
    }
    region_->setEnabled(ready);
    for (auto& [move, widgets] : sliders_) {
        const double mm = p_.slider(region_->currentData().toString().toStdString(), move);
        widgets.first->setEnabled(ready);
        if (!widgets.first->isSliderDown()) widgets.first->setValue(static_cast<int>(std::lround(10 * mm)));
        widgets.second->setText(mm == 0 ? QStringLiteral("0") : length_text(mm, 1));
    }
    const std::size_t photos = fit ? p_.set()->photos->size() : 0;
    while (keep_.size() > photos)
        keep_.back()->hide(), keep_.back()->deleteLater(), keep_.pop_back();  // not at once: it may have been clicked
    while (keep_.size() < photos) {
        auto* box = new QCheckBox;
        box->setObjectName(QString("hand_keep_%1").arg(keep_.size()));
        connect(box, &QCheckBox::clicked, this,
                [this, i = static_cast<int>(keep_.size())](bool on) { p_.set_keeps(i, on); });
        keeps_->layout()->addWidget(box);
        keep_.push_back(box);
    }
    for (std::size_t i = 0; i < photos; ++i) {
        keep_[i]->setText(QString::fromStdString((*p_.set()->photos)[i].name));
        keep_[i]->setChecked(p_.keeps(static_cast<int>(i)));
        keep_[i]->setEnabled(ready && p_.camera(static_cast<int>(i)));
    }
    drag_->setEnabled(ready && p_.looks_through());
    drag_->setChecked(p_.placing());
    const std::size_t places = fit ? p_.fit()->photo->settings.places.size() : 0;
    drop_->setText(tr("Remove %n dragged place(s)", nullptr, static_cast<int>(places)));
    drop_->setVisible(places > 0);
    drop_->setEnabled(!s_.busy());
    const auto others = p_.others();
    QStringList names;
    for (const auto& o : others) names << (o.has_fit ? o.name : tr("%1 (made first)").arg(o.name));
    QStringList now;
    for (int i = 0; i < other_->count(); ++i) now << other_->itemText(i);
    bool same = now == names;
    for (int i = 0; same && i < other_->count(); ++i)
        same = other_->itemData(i).toULongLong() == others[static_cast<std::size_t>(i)].subject.value;
    if (!same) {
        other_->clear();
        for (std::size_t i = 0; i < others.size(); ++i)
            other_->addItem(names[static_cast<int>(i)], qulonglong{others[i].subject.value});
    }
    const bool both = s_.state().fit() && !others.empty() && !s_.busy();
    for (QWidget* w : std::initializer_list<QWidget*>{other_, blend_, keep_blend_, skins_}) w->setEnabled(both);
    filling_ = false;
}

}  // namespace veld
