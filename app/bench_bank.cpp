// The bench's views in the Bank station: the mix, a region of it, a shape that came back, the head's share on the
// base.
#include <algorithm>
#include <cmath>

#include "app/bench.h"
#include "app/theme.h"

namespace veld {
namespace {

const QColor kNotBack(0x6a, 0x63, 0x5a);

// A round length that most of the values are below.
double scale_for(std::vector<float> values) {
    std::erase_if(values, [](float v) { return std::isnan(v); });
    if (values.empty()) return 1;
    const auto at = values.begin() + static_cast<std::ptrdiff_t>(0.98 * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), at, values.end());
    for (const double step : {0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0}) {
        if (static_cast<double>(*at) <= step) return step;
    }
    return 500;
}

Colour bytes(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue()), 255};
}

QColor between(const QColor& a, const QColor& b, double t) {
    return QColor::fromRgbF(static_cast<float>(a.redF() + t * (b.redF() - a.redF())),
                            static_cast<float>(a.greenF() + t * (b.greenF() - a.greenF())),
                            static_cast<float>(a.blueF() + t * (b.blueF() - a.blueF())));
}

}  // namespace

void Bench::show_mix() {
    const ProjectState& state = s_.state();
    const bool bank = station_ == Station::Bank;
    result_->set_cut({});
    result_->set_divider(-1);
    result_->set_lines({});
    result_->set_gesture(Gesture::Turn);
    result_->set_legend({});
    result_shape_.shown = nullptr;
    std::vector<Colour> colours;
    QString prompt;
    std::vector<Marker> markers;
    if (bank && bank_.preview()) {
        const BankController::Preview& preview = *bank_.preview();
        show_shape(result_shape_, *preview.shape, nullptr, 0);
        result_->set_title(preview.title);
        for (const Index v : preview.marked) {
            Marker m;
            m.name = "vertex " + std::to_string(v);
            m.position = (*preview.shape)[v];
            m.colour = theme::kOchre;
            m.selected = true;
            markers.push_back(std::move(m));
        }
        const double worst = scale_for(preview.colour);
        for (const float v : preview.colour)
            colours.push_back(bytes(std::isnan(v) ? kNotBack : theme::distance_colour(v / worst)));
        if (!colours.empty()) result_->set_legend({worst, tr("mm from the base")});
    } else {
        const bool by_region =
            bank && bank_.page() == BankController::Page::Regions && bank_.regions() && !bank_.region().empty();
        show_shape(result_shape_, mixed_shape(state), nullptr, by_region ? 0 : look_.level);
        result_->set_title(tr("Mix of the bank's morphs"));
        if (by_region) {
            const BaseRegions& all = *bank_.regions();
            const auto at = std::find(all.names.begin(), all.names.end(), bank_.region());
            const std::vector<float>& weight = all.weight[static_cast<std::size_t>(at - all.names.begin())];
            for (const float w : weight)
                colours.push_back(bytes(between(theme::kClay, theme::kOchre, 0.75 * static_cast<double>(w))));
            prompt = tr("Click to select a region.");
        }
    }
    result_->set_prompt(prompt);
    result_->set_markers(std::move(markers));
    result_->redraw_quickly();  // a slider moves on at once
    if (!colours.empty()) result_shape_.mesh->set_colours(colours);
    result_->set_layers(
        {{result_shape_.mesh, {}, theme::kClay, colours.empty() ? shading_ : Shading::Colours, wire_, 1}});
}

// False: the base is shown as anywhere else.
bool Bench::show_share(std::vector<Layer>& layers) {
    if (station_ != Station::Bank || bank_.page() != BankController::Page::Make || !s_.has_kit() ||
        s_.state().kit->neck_ring.empty())
        return false;
    show_shape(region_shape_, s_.state().kit->mesh.positions, nullptr, 0);
    std::vector<Colour> colours;
    for (const float w : bank_.share_weights()) colours.push_back(bytes(theme::distance_colour(w)));
    region_shape_.mesh->set_colours(colours);
    layers.push_back({region_shape_.mesh, {}, theme::kClay, Shading::Colours, wire_, 1});
    base_->set_title(tr("Base  the head's share"));
    base_->set_legend({100, "%", false, false});
    return true;
}

void Bench::connect_bank() {
    connect(base_, &Viewport::stroke_begun, this,
            [this](const Ray& ray, double, Qt::KeyboardModifiers keys) { bank_.begin_stroke(ray, keys); });
    connect(base_, &Viewport::stroke_moved, this, [this](const Ray& ray, double) { bank_.move_stroke(ray); });
    connect(base_, &Viewport::stroke_ended, &bank_, &BankController::end_stroke);
    connect(result_, &Viewport::clicked, this, [this](const Ray& ray) {
        if (station_ == Station::Bank && bank_.page() == BankController::Page::Regions && !bank_.preview())
            bank_.pick_region(ray);
    });
    const auto again = [this] {
        if (station_ != Station::Bank) return;
        refresh_base();
        refresh_result();
    };
    connect(&bank_, &BankController::changed, this, again);
}

}  // namespace veld
