// What a bake takes out of a scan's colours before all else: the light, the shadows that a lamp casts, highlights.
#include <tbb/parallel_for.h>

#include <cmath>

#include "core/linalg/statistics.h"
#include "core/skin/bake_work.h"
#include "core/skin/heal.h"

namespace veld {
namespace {

constexpr double kFaceFirst = 10;   // how much more a face says while hair, cap and cloth are still among the colours
constexpr double kOtherHue = 0.25;  // of the logarithm of red or blue against green
constexpr double kUnsure = 0.4;     // of SkinLight::unexplained()
constexpr double kLiftMm = 0.6;     // off the source's surface, where rays to a lamp begin

}  // namespace

// How much each place counts, mm^2. Before it is known what is no skin, the face says more than all else, and what is
// coloured otherwise than most of it (a cap, hair) little: what light does to a colour's hue is slight.
BakeWork::Says BakeWork::say_of(const SeenPlaces& seen) const {
    const auto hue = [](const Vec3& colour) {
        const Vec3 log = log_colour(colour);
        return Vec2(log[0] - log[1], log[2] - log[1]);
    };
    const auto face = static_cast<std::size_t>(std::find(base.region_names.begin(), base.region_names.end(), "face") -
                                               base.region_names.begin());
    std::vector<double> hues[2];
    for (Index t = 0; t < seen.size(); ++t) {
        if (base.region[base.triangles[t][0]] != face || base.part[t] != 0 || !seen[t][0].raw) continue;
        const Vec2 h = hue(*seen[t][0].raw);
        hues[0].push_back(h[0]), hues[1].push_back(h[1]);
    }
    const bool first = skin.far == 0 && hues[0].size() >= SkinLight::kLeastPlaces;
    const Vec2 usual = first ? Vec2(median(hues[0]), median(hues[1])) : Vec2(0, 0);
    Says out(base.triangles.size(), {0, 0, 0});
    for (Index t = 0; t < out.size(); ++t) {
        const Triangle& c = base.triangles[t];
        const double area =
            0.5 *
            (base.positions[c[1]] - base.positions[c[0]]).cross(base.positions[c[2]] - base.positions[c[0]]).norm();
        for (std::size_t k = 0; k < 3; ++k) {
            out[t][k] = area;
            if (!first || !seen[t][k].raw) continue;
            out[t][k] *= (base.region[c[0]] == face ? kFaceFirst : 1) *
                         geman_mcclure((hue(*seen[t][k].raw) - usual).norm(), kOtherHue);
        }
    }
    return out;
}

// Colours and what they are lit by, per vertex; where each is on the source.
BakeWork::Shot BakeWork::shot_of(const SeenPlaces& seen) const {
    const std::size_t count = base.positions.size();
    Shot out;
    out.colours.log.resize(count), out.colours.open.assign(count, 0), out.colours.sees_lamp.assign(count, 1);
    out.place.assign(count, Vec3::Zero()), out.colours.say.assign(count, 0);
    const Says say = say_of(seen);
    std::vector<float> found(count, 0);
    for (Index t = 0; t < seen.size(); ++t) {
        if (base.part[t] != 0) continue;
        const Triangle& c = base.triangles[t];
        for (std::size_t k = 0; k < 3; ++k) {
            const Seen& s = seen[t][k];
            if (!s.raw) continue;
            std::optional<Vec3>& log = out.colours.log[c[k]];
            log = log_colour(*s.raw) + (log ? *log : Vec3(Vec3::Zero()));
            out.colours.open[c[k]] += static_cast<float>(source_scalars(s.at)[0]);
            out.place[c[k]] += s.at.position, out.colours.say[c[k]] += say[t][k], ++found[c[k]];
        }
    }
    for (std::size_t v = 0; v < count; ++v) {
        if (!out.colours.log[v]) continue;
        *out.colours.log[v] /= found[v], out.colours.open[v] /= found[v], out.place[v] /= found[v];
    }
    return out;
}

// Of colours as they are after the shadows went, the light still in.
std::vector<std::optional<Vec3>> BakeWork::mean_logs(const SeenPlaces& seen) const {
    std::vector<std::optional<Vec3>> out(base.positions.size());
    std::vector<double> found(out.size(), 0);
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = base.triangles[t][k];
            if (base.part[t] != 0 || !seen[t][k].colour) continue;
            out[v] = log_colour(*seen[t][k].colour) + (out[v] ? *out[v] : Vec3(Vec3::Zero())), ++found[v];
        }
    }
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (out[v]) *out[v] /= found[v];
    }
    return out;
}

// The lamp, if there is one, and its shadow.
Status BakeWork::find_shadows(const SeenPlaces& seen, const Progress& progress) {
    lamp.reset(), shadow.reset();
    Shot shot = shot_of(seen);
    std::vector<LitPlace> places;
    VertexIndices of;
    for (Index v = 0; v < shot.place.size(); ++v) {
        if (!shot.colours.log[v]) continue;
        places.push_back(
            {colour_of_log(*shot.colours.log[v]), base.normals[v], shot.colours.open[v], shot.colours.say[v]});
        of.push_back(v);
    }
    const auto sees = [&](std::size_t i, const Vec3& towards) {
        const Index v = of[i];
        return !source.surface->query->first_hit(shot.place[v] + kLiftMm * base.normals[v], towards);
    };
    lamp = find_lamp(places, sees, progress);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    if (!lamp) return Done{};
    tbb::parallel_for(std::size_t{0}, of.size(), [&](std::size_t i) {
        shot.colours.sees_lamp[of[i]] =
            base.normals[of[i]].dot(lamp->towards) <= 0 || sees(i, lamp->towards) ? 1.0f : 0.0f;
    });
    auto found = CastShadow::find(base, shot.colours, *lamp);
    if (!found) return found.error();
    shadow = std::move(*found);
    return Done{};
}

// Colours that were seen, with what is known of shadows and highlights out of them.
void BakeWork::clean_colours(SeenPlaces& seen, double shadows, double highlights) const {
    tbb::parallel_for(std::size_t{0}, seen.size(), [&](std::size_t i) {
        const auto t = static_cast<Index>(i);
        for (int k = 0; k < 3; ++k) {
            Seen& s = seen[i][static_cast<std::size_t>(k)];
            if (s.raw) s.colour = cleaned(*s.raw, t, near_corner(k), shadows, highlights);
        }
    });
}

Status BakeWork::find_light(SeenPlaces& seen, std::vector<std::string>& notes, const Progress& progress) {
    shine.reset();
    if (auto ok = find_shadows(seen, progress); !ok) return ok;
    if (shadow) clean_colours(seen, 1, 0);
    std::vector<LitPlace> places;
    const Says say = say_of(seen);
    std::vector<double> open(base.positions.size(), 0), count(base.positions.size(), 0);
    for (Index t = 0; t < seen.size(); ++t) {
        const Triangle& c = base.triangles[t];
        for (std::size_t k = 0; k < 3; ++k) {
            const Seen& s = seen[t][k];
            if (!s.colour || base.part[t] != 0) continue;
            const Vec3 shares = near_corner(static_cast<int>(k));
            const double closed = source_scalars(s.at)[0];
            places.push_back({*s.colour, base.normal(t, shares).normalized(), closed, say[t][k]});
            open[c[k]] += closed, count[c[k]] += 1;
        }
    }
    lit = SkinLight::of(places, lamp);
    if (!lit.known()) {
        notes.push_back("Too little skin is seen to tell what light it was taken in; no light was taken out.");
        return Done{};
    }
    if (skin.far > 0 || !settings.colours_tell) {
        if (const double unsure = lit.unexplained(places); unsure > kUnsure)
            notes.push_back(
                "What is seen is so unlike itself (a beard, make-up, a cap) that skin and light are hard to tell "
                "apart; "
                "look at the colours, and take less of the light out where they are wrong.");
    }
    Points whole(base.positions.size(), Vec3::Zero());
    std::vector<std::uint8_t> known(whole.size(), 0);
    for (Index v = 0; v < whole.size(); ++v) {
        if (count[v] > 0) known[v] = 1, whole[v] = lit.light(base.normals[v], open[v] / count[v]);
    }
    if (auto ok = membrane(base.triangles, known, {{&whole}}); !ok) return ok;
    if (settings.shine_out > 0) {
        auto found = Shine::find(base, mean_logs(seen), whole);
        if (!found) return found.error();
        shine = std::move(*found);
    }
    if (shadow || shine) clean_colours(seen, settings.light_out, settings.shine_out);
    light = std::move(whole);
    for (Vec3& l : light) l *= settings.light_out;
    return Done{};
}

Vec3 BakeWork::cleaned(const Vec3& colour, Index t, const Vec3& shares, double shadows, double highlights) const {
    Vec3 out = colour;
    if (base.part[t] != 0) return out;
    if (shadow) out = shadow->without(out, t, shares, shadows);
    if (shine) out = shine->without(out, t, shares, highlights);
    return out;
}

}  // namespace veld
