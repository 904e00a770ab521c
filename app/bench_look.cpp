// The bench's views of a fit: what is drawn over or beside it, colours, cross-sections, subdivision.
#include <cmath>

#include "app/bench.h"
#include "app/prepared_source.h"
#include "app/theme.h"
#include "core/fit/vertex_figures.h"
#include "core/kit/kit_surface.h"
#include "core/project/bank.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr double kFromSourceMm = 30;
const QColor kNoValue(0x6a, 0x63, 0x5a);

void add_section(std::vector<GuideLine>& lines, const Points& positions, const std::vector<Triangle>& triangles,
                 const Plane& plane, const Similarity& to_view, const QColor& colour, bool dashed) {
    for (Points& line : section(positions, triangles, plane, to_view)) {
        GuideLine out;
        out.points = std::move(line), out.colour = colour, out.dashed = dashed;
        lines.push_back(std::move(out));
    }
}

}  // namespace

void Bench::set_look(const Look& look) {
    look_ = look;
    result_shape_.shown = nullptr;
    refresh();
}

void Bench::take_cut() {
    const Camera& c = camera_.camera();
    seen_cut_ = Plane::through(c.target, -c.forward());
}

const std::shared_ptr<const Subdivided>& Bench::level(int n) {
    auto& out = levels_[n];
    if (!out) {
        auto made = Subdivided::make(s_.state().kit->mesh, n);
        if (made)
            out = *made;
        else
            s_.report(made.error());
    }
    return out;
}

Colour Bench::colour_of(float value) const {
    const QColor c = look_.colours == Colouring::SeenBy ? value > 1.5f   ? theme::kTeal
                                                          : value > 0.5f ? theme::kOchre
                                                                         : kNoValue
                     : std::isnan(value)                ? kNoValue
                     : both_ways(look_.colours)         ? theme::signed_colour(value / look_.worst)
                                                        : theme::distance_colour(value / look_.worst);
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue()), 255};
}

std::vector<Colour> Bench::colours_of(const std::vector<float>& values) const {
    std::vector<Colour> out;
    out.reserve(values.size());
    for (const float v : values) out.push_back(colour_of(v));
    return out;
}

void Bench::show_shape(Shape& shape, const Points& positions, const std::vector<float>* values, int n) {
    const std::shared_ptr<const Subdivided> fine = n > 0 ? level(n) : nullptr;
    if (!fine) n = 0;
    // in a photograph only the head is where the picture has it
    const bool head_only = &shape == &result_shape_ && shown_through_ >= 0 && n == 0;
    if (!shape.mesh || shape.level != n || shape.head_only != head_only) {
        shape.mesh =
            head_only ? head_display() : std::make_shared<DisplayMesh>(fine ? fine->mesh() : s_.state().kit->mesh);
        shape.level = n, shape.head_only = head_only, shape.skin = nullptr;
    }
    shape.mesh->set_positions(fine ? fine->positions(positions) : positions);
    shape.mesh->set_colours(!values ? std::vector<Colour>() : colours_of(fine ? fine->values(*values) : *values));
}

std::vector<float> Bench::values_of(const FitRecord& fit) {
    const BaseKit& kit = *s_.state().kit;
    std::vector<float> out;
    switch (look_.colours) {
        case Colouring::Distance:
            return *fit.distances;
        case Colouring::SignedDistance: {
            const FitRecord& current = *s_.state().fit();
            const auto surface = s_.fit_surface();
            if (!surface) s_.prepare_fit_cache();  // comes back when it is there
            if (!surface || fit.source != current.source) return std::vector<float>(fit.positions->size(), NAN);
            return signed_distances(kit, *fit.positions, *surface, *fit.distances,
                                    current.source_to_kit * fit.source_to_kit.inverse());
        }
        case Colouring::EdgeStretch:
            out = edge_stretch(kit, *fit.positions);
            for (float& v : out) v *= 100;
            return out;
        case Colouring::SeenBy:
            out.assign(fit.positions->size(), NAN);
            for (std::size_t v = 0; fit.photo && v < fit.photo->seen_by.size(); ++v)
                out[v] = static_cast<float>(fit.photo->seen_by[v]);
            return out;
        case Colouring::AngleChange:
            return angle_change(kit, *fit.positions);
        default:
            return {};
    }
}

// The source in the colours of its distance to the fit, or again as it is. The distances of a large source take a
// while: they come from the background, and until then the colours are those of the shape before.
void Bench::colour_source(const FitRecord* fit) {
    const std::shared_ptr<const PreparedSource> prepared = s_.shared_prepared();
    const bool wanted = fit && look_.colours == Colouring::FromSource && prepared && s_.state().source() &&
                        s_.state().source()->id == fit->source_id;
    if (!wanted) {
        source_distances_.asked = {};
        if (!source_coloured_) return;
        if (prepared) prepared->display->set_colours({});
        source_coloured_ = false;
        return refresh_source();
    }
    const SourceDistances::Of now{fit->positions, prepared->mesh};
    if (source_distances_.of != now) {
        ask_source_distances(*fit, prepared, now);
        if (source_distances_.of.source != now.source) {  // nothing of this source yet
            source_coloured_ = false;
            return refresh_source();
        }
    }
    prepared->display->set_colours(colours_of(source_distances_.mm));
    source_coloured_ = true;
    refresh_source();
}

void Bench::ask_source_distances(const FitRecord& fit, const std::shared_ptr<const PreparedSource>& prepared,
                                 const SourceDistances::Of& of) {
    if (source_distances_.asked == of) return;
    s_.jobs().cancel(source_distances_.job);
    source_distances_.asked = of;
    source_distances_.job = s_.jobs().start<std::vector<float>>(
        {JobKind::Measure, tr("Distances from the source"), s_.subject(), true},
        [kit = s_.state().kit, positions = fit.positions, to_kit = fit.source_to_kit,
         prepared](const Progress&) -> Result<std::vector<float>> {
            return source_distances(*kit, *positions, prepared->shown(), to_kit, kFromSourceMm);
        },
        [this, of](Result<std::vector<float>>&& made) {
            if (source_distances_.asked != of) return;  // another shape is looked at by now
            source_distances_.job = 0;
            if (!made) return s_.say_why_not(made.error());
            source_distances_.of = of;
            source_distances_.mm = std::move(*made);
            refresh_result();
        });
}

const Points* Bench::other_shape() const {
    const Subject* subject = s_.state().current();
    if (look_.against == 1) return &s_.state().kit->mesh.positions;
    const int at = look_.against - 2;
    return subject && at >= 0 && at < static_cast<int>(subject->fits.size())
               ? subject->fits[static_cast<std::size_t>(at)].positions.get()
               : nullptr;
}

QString Bench::other_name() const {
    const int at = look_.against - 2;
    return look_.against == 1 || !other_shape()
               ? tr("Base")
               : QString::fromStdString(s_.state().current()->fits[static_cast<std::size_t>(at)].name);
}

void Bench::refresh_base() {
    const ProjectState& state = s_.state();
    base_->set_legend({});
    base_->set_title(tr("Base"));
    std::vector<Layer> layers;
    const bool fitting = station_ == Station::Fit || station_ == Station::Touch;
    if (state.kit && station_ == Station::Fit && regions_.shows()) {
        show_shape(region_shape_, state.kit->mesh.positions, nullptr, 0);
        std::vector<Colour> colours;
        for (const float w : regions_.weights()) {
            const QColor c = theme::distance_colour(static_cast<double>(w));
            colours.push_back({static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
                               static_cast<std::uint8_t>(c.blue()), 255});
        }
        region_shape_.mesh->set_colours(colours);
        layers.push_back({region_shape_.mesh, {}, theme::kClay, Shading::Colours, wire_, 1});
        base_->set_title(tr("Base  %1").arg(regions_.shown_name()));
        base_->set_legend({100, "%", false, false});
    } else if (state.kit && fitting && look_.compare == Compare::Beside && other_shape() && state.fit()) {
        // the same colours as the fit's, so that both are read by one scale
        const int at = look_.against - 2;
        std::vector<float> values;
        if (at >= 0) values = values_of(state.current()->fits[static_cast<std::size_t>(at)]);
        const bool coloured =
            look_.colours != Colouring::None && look_.colours != Colouring::FromSource && !values.empty();
        show_shape(other_shape_, *other_shape(), coloured ? &values : nullptr, look_.level);
        layers.push_back({other_shape_.mesh, {}, theme::kClay, coloured ? Shading::Colours : shading_, wire_, 1});
        base_->set_title(other_name());
        if (coloured) base_->set_legend({look_.worst, unit_of(look_.colours), both_ways(look_.colours)});
    } else if (!show_share(layers) && s_.base_display()) {
        layers.push_back({s_.base_display(), {}, theme::kClay, shading_, wire_, 1});
    }
    base_->set_layers(std::move(layers));
    const bool painting = station_ == Station::Fit && regions_.painting(),
               sharing = station_ == Station::Bank && bank_.painting();
    base_->set_gesture(painting || sharing ? Gesture::Touch : Gesture::Turn);
    base_->set_brush(sharing ? bank_.radius_mm : regions_.radius_mm);
    base_->set_prompt(painting  ? regions_.prompt()
                      : sharing ? tr("Paint what belongs to the head; Ctrl removes.")
                                : QString());
}

std::optional<Plane> Bench::cut_plane() const {
    if (look_.cut == Cut::None || !s_.has_kit()) return {};
    const BaseKit& kit = *s_.state().kit;
    const Box box = s_.state().settings.part == FitPart::Head ? head_box(kit) : bounding_box(kit.mesh.positions);
    Plane out;
    if (look_.cut == Cut::AsSeen) {
        out = seen_cut_;
        out.offset += (look_.cut_at - 0.5) * 0.5 * box.size().norm();
        return out;
    }
    const int axis = static_cast<int>(look_.cut) - static_cast<int>(Cut::Side);
    return Plane::through(box.low + look_.cut_at * box.size(), Vec3::Unit(axis));
}

void Bench::draw_cut(const Plane& plane, const FitRecord* fit) {
    const BaseKit& kit = *s_.state().kit;
    std::vector<GuideLine> lines;
    add_section(lines, kit.mesh.positions, kit.triangulation.triangles, plane, {}, theme::kDim, true);
    if (look_.against >= 2 && other_shape())
        add_section(lines, *other_shape(), kit.triangulation.triangles, plane, {}, theme::kText, false);
    const PreparedSource* prepared = s_.prepared();
    if (prepared && fit && s_.state().source()->id == fit->source_id)
        add_section(lines, prepared->shown().positions, prepared->triangulation.triangles, plane, fit->source_to_kit,
                    theme::kTeal, false);
    if (fit) add_section(lines, *fit->positions, kit.triangulation.triangles, plane, {}, theme::kOchre, false);
    result_->set_lines(std::move(lines));
}

void Bench::refresh_result() {
    const ProjectState& state = s_.state();
    const bool mixing = station_ == Station::Bank || station_ == Station::Deliver;
    const FitRecord* fit = state.fit();
    const bool fitting = (station_ == Station::Fit || station_ == Station::Touch) && (fit || live_);
    const bool photo = (station_ == Station::Mark && s_.photo()) || (photo_station() && station_ == Station::Fit);
    source_->setVisible(!mixing && !photo && !photo_station());
    photo_->setVisible(photo);
    result_->setVisible((mixing && state.kit) || fitting);
    const int shown = base_->isVisibleTo(this) + source_->isVisibleTo(this) + 8 * photo_->isVisibleTo(this) +
                      result_->isVisibleTo(this);
    if (shown != shown_views_) {
        shown_views_ = shown;
        splitter_->setSizes({10000, 10000, 10000, 10000});  // equal shares of what there is
    }
    colour_source(fitting && !live_ ? fit : nullptr);
    if (!result_->isVisibleTo(this) || !state.kit) return;
    if (mixing) return show_mix();
    result_->set_markers({});
    const bool from_source = source_coloured_ && !live_;
    const bool coloured = look_.colours != Colouring::None && !from_source && !live_;
    if (fit && !live_ && (result_shape_.shown != fit->positions || result_shape_.level != look_.level) &&
        !touch_.stroking() && !photo_live_) {
        const std::vector<float> values = coloured ? values_of(*fit) : std::vector<float>();
        show_shape(result_shape_, *fit->positions, values.empty() ? nullptr : &values, look_.level);
        result_shape_.shown = fit->positions;
    }
    if (fit) wear_skin(result_shape_, fit);
    std::vector<Layer> layers;
    const Similarity to_view = fit && !live_ ? fit->source_to_kit : s_.source_to_view();
    const Points* other = live_ ? nullptr : other_shape();
    const bool wiping = look_.compare == Compare::Wipe && !live_,
               beside = look_.compare == Compare::Beside && !live_ && other;
    const double share = live_ ? 0.75 : from_source ? 0 : beside ? 1 : look_.share;
    if (share < 0.999 || live_) {
        Layer below;
        if (other && !from_source) {
            show_shape(other_shape_, *other, nullptr, look_.level);
            below = {other_shape_.mesh, {}, theme::kTealClay, shading_, wire_, 1};
        } else if (s_.prepared()) {
            below = {s_.prepared()->display,
                     to_view,
                     theme::kTealClay,
                     from_source ? Shading::Colours : shading_,
                     false,
                     1};
        }
        if (wiping) below.to = 1 - share;
        if (below.mesh) layers.push_back(below);
    }
    Layer top{result_shape_.mesh,
              {},
              theme::kClay,
              coloured ? Shading::Colours : shading_ == Shading::Clay || live_ ? Shading::Clay : shading_,
              wire_ || live_,
              wiping ? 1 : share};
    if (wiping) top.from = 1 - share;
    if (result_shape_.mesh) layers.push_back(top);
    result_->set_layers(std::move(layers));
    result_->set_divider(wiping && share > 0 && share < 1 ? 1 - share : -1);
    const bool seen = look_.colours == Colouring::SeenBy;
    result_->set_legend((coloured && !seen) || from_source
                            ? Legend{look_.worst, unit_of(look_.colours), both_ways(look_.colours)}
                            : Legend{});
    const auto plane = live_ ? std::nullopt : cut_plane();
    result_->set_cut(plane);
    if (plane)
        draw_cut(*plane, fit);
    else
        result_->set_lines({});
    result_->set_title(live_         ? tr("Fitting…")
                       : from_source ? tr("Source, by its distance to the fit")
                                     : tr("Fit  %1").arg(QString::fromStdString(fit->name)));
    const bool touching = station_ == Station::Touch && !live_;
    const bool placing = station_ == Station::Fit && photos_.placing() && photo_station();
    result_->set_gesture(touching || placing ? Gesture::Touch : Gesture::Turn);
    result_->set_brush(placing ? 3 : touch_.brush.radius_mm);
    result_->set_prompt(
        touching && !touch_.why_not().isEmpty() ? touch_.why_not()
        : placing                               ? tr("Press on the mesh and drag it to where it is in the photograph.")
        : seen && coloured
            ? tr("Teal: seen by two photographs or more.  Ochre: by one.  Grey: by none, the base's own shape.")
            : QString());
}

void Bench::connect_regions() {
    connect(base_, &Viewport::stroke_begun, this, [this](const Ray& ray, double, Qt::KeyboardModifiers keys) {
        if (regions_.painting()) regions_.begin_stroke(ray, keys);
    });
    connect(base_, &Viewport::stroke_moved, this, [this](const Ray& ray, double) {
        if (regions_.painting()) regions_.move_stroke(ray);
    });
    connect(base_, &Viewport::stroke_ended, &regions_, &RegionController::end_stroke);
    connect(&regions_, &RegionController::changed, this, [this] {
        if (station_ == Station::Fit) refresh_base();
    });
}

}  // namespace veld
