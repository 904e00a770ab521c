// The colours of a fit: values per vertex, and the source's distances from it, which the background computes.
#include <cmath>
#include <utility>

#include "app/prepared_source.h"
#include "app/scene/colours.h"
#include "app/stations/fit/fit_scene.h"
#include "core/fit/vertex_figures.h"
#include "core/kit/base_kit.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {

constexpr double kFromSourceMm = 30;

}  // namespace

std::vector<float> FitScene::values_of(const FitRecord& fit) {
    const BaseKit& kit = *s_.state().kit;
    std::vector<float> out;
    switch (look().colours) {
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
        case Colouring::Guessed:
            if (fit.guessed) return *fit.guessed;
            return std::vector<float>(fit.positions->size(), NAN);
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

// The source in the colours of its distance to the fit, or again as it is. Until the distances are there, the colours
// are those of the shape before.
void FitScene::colour_source() {
    const FitRecord* fit = live() ? nullptr : s_.state().fit();
    const std::shared_ptr<const PreparedSource> prepared = s_.shared_prepared();
    const bool wanted = fit && look().colours == Colouring::FromSource && prepared && s_.state().source() &&
                        s_.state().source()->id == fit->source_id;
    if (!wanted) return left();
    const SourceDistances::Of now{fit->positions, prepared->mesh};
    if (distances_.of != now) ask_source_distances(*fit, now);
    source_coloured_ = distances_.of.source == now.source;  // else there are none of this source yet
    const SourceColours colours =
        source_coloured_ ? SourceColours{distances_.of, look().worst, colour_vision()} : SourceColours{};
    if (colours == coloured_ && source_coloured_) return;
    coloured_ = colours;
    scene_.source.colour(source_coloured_ ? look_colours(look(), distances_.mm) : std::vector<Colour>());
}

void FitScene::ask_source_distances(const FitRecord& fit, const SourceDistances::Of& of) {
    if (distances_.asked == of) return;
    distances_.asked = of;  // first: a job that ends or begins is heard of at once
    s_.jobs().cancel(std::exchange(distances_.job, 0));
    distances_.job = s_.jobs().start<std::vector<float>>(
        {JobKind::Measure, tr("Distances from the source"), s_.subject(), true},
        [kit = s_.state().kit, positions = fit.positions, to_kit = fit.source_to_kit,
         prepared = s_.shared_prepared()](const Progress&) -> Result<std::vector<float>> {
            return source_distances(*kit, *positions, prepared->shown(), to_kit, kFromSourceMm);
        },
        [this, of](Result<std::vector<float>>&& made) {
            if (distances_.asked != of) return;  // another shape is looked at by now
            distances_.job = 0;
            if (!made) return s_.say_why_not(made.error());
            distances_.of = of;
            distances_.mm = std::move(*made);
            views_.refresh({ViewId::Source, ViewId::Result});
        });
}

}  // namespace veld
