#include "core/skin/bake_work.h"

#include <tbb/parallel_for.h>

#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"
#include "core/skin/at_corners.h"
#include "core/skin/heal.h"
#include "core/skin/photo_colours.h"
#include "core/skin/relief.h"
#include "core/spatial/openness.h"

namespace veld {
namespace {

constexpr double kMostRatio = 1.6;  // of its logarithm
constexpr double kCavityRadiusMm = 1.5;
constexpr double kDetailMm = 0.5;         // apart: places whose lightness is compared
constexpr int kMirrorFade = 4;            // edges over which the other side goes over into the base
constexpr double kNoiseDeviations = 1.5;  // less deep than that is the surface's own unevenness

Vec3 logs(const Vec3& source, const Vec3& base) {
    Vec3 out;
    for (int k = 0; k < 3; ++k)
        out[k] = std::clamp(std::log((source[k] + kDark) / (base[k] + kDark)), -kMostRatio, kMostRatio);
    return out;
}

}  // namespace

Colour mask_colour(std::size_t number) {
    // hues by the golden ratio, so that neighbours differ
    const double hue = std::fmod(0.11 + 0.61803398875 * static_cast<double>(number), 1.0) * 6;
    const double value = number % 2 == 0 ? 0.9 : 0.65;
    const auto channel = [&](double middle) {
        const double d = std::abs(std::fmod(hue - middle + 9, 6.0) - 3);
        return static_cast<std::uint8_t>(std::lround(255 * value * std::clamp(2 - d, 0.15, 1.0)));
    };
    return {channel(0), channel(2), channel(4), 255};
}

Result<std::unique_ptr<BakeWork>> BakeWork::make(const BakeSurface& base, const Mesh& kit_mesh,
                                                 const BakeSource& source, const BakeSettings& settings,
                                                 std::vector<std::string>& notes, const Progress& progress) {
    std::vector<bool> asked(base.part_names.size(), settings.parts);
    asked.front() = true;
    std::unique_ptr<BakeWork> out(new BakeWork{.base = base, .source = source, .settings = settings, .asked = asked});
    if (!source.photos) {
        auto projection = Projection::make(base, *source.surface, asked, settings.reach_mm, progress);
        if (!projection) return projection.error();
        out->projection = std::move(*projection);
    }
    out->wants_source = std::any_of(settings.maps.begin(), settings.maps.end(),
                                    [](SkinMap m) { return m != SkinMap::Parts && m != SkinMap::Regions; });
    out->read_base(kit_mesh, notes);
    progress.say(0.12, "Looking at the source's skin");
    if (auto ok = out->look_at_source(notes, progress); !ok) return ok.error();
    out->shows_colours = out->wants(SkinMap::Colour), out->shows_normals = out->wants(SkinMap::Normal);
    out->shows_scalars =
        out->wants(SkinMap::Occlusion) || out->wants(SkinMap::Curvature) || out->wants(SkinMap::Cavity);
    progress.say(0.2, "Filling what the source does not show");
    if (auto ok = out->fill_vertices(notes, progress); !ok) return ok.error();
    return out;
}

void BakeWork::read_base(const Mesh& kit_mesh, std::vector<std::string>& notes) {
    image.assign(base.triangles.size(), -1);
    base_images.resize(kit_mesh.images.size());
    for (const UvTile& tile : base.tiles) {
        if (tile.image < 0) continue;
        Pixels& pixels = base_images[static_cast<std::size_t>(tile.image)];
        if (pixels.width == 0) {
            auto read = decode_image(kit_mesh.images[static_cast<std::size_t>(tile.image)]);
            if (!read) {
                notes.push_back(read.error().message);
                continue;
            }
            pixels = std::move(*read);
        }
        for (const Index t : tile.triangles) {
            if (base.pictured[t]) image[t] = tile.image;
        }
    }
}

Status BakeWork::look_at_source(std::vector<std::string>& notes, const Progress& progress) {
    if (source.photos) return Done{};
    if (wants(SkinMap::Colour)) {
        double dense = 0;
        for (const UvTile& tile : base.tiles)
            dense = std::max(dense, uv_figures(base, tile).density * settings.size * settings.samples / 1024);
        colours.emplace(*source.mesh, *source.fans, source.scale, dense);
        notes.insert(notes.end(), colours->notes().begin(), colours->notes().end());
        if (!colours->any()) {
            if (settings.maps.size() == 1)
                return Error{ErrorCode::BadInput,
                             "The source has no colours: neither a texture that can be read nor colours of vertices."};
            notes.push_back("The source has no colours; the colour map is left out.");
            std::erase(settings.maps, SkinMap::Colour);
        }
    }
    const Points& at = source.surface->positions;
    const Points& normals = projection->source_normals();
    const std::vector<Triangle>& triangles = source.surface->triangles;
    if (wants(SkinMap::Occlusion) || ((settings.light_out > 0 || settings.shine_out > 0) && wants(SkinMap::Colour))) {
        occlusion = openness_of(at, normals, triangles, *source.surface->query, {}, progress);
        if (occlusion.empty()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    }
    if (wants(SkinMap::Curvature) || wants(SkinMap::Cavity)) {
        const std::vector<Index> place = same_place(at);
        if (wants(SkinMap::Curvature)) curvature = mean_curvature(at, normals, triangles, place);
        if (wants(SkinMap::Cavity)) {
            cavity = relief(at, normals, triangles, place, kCavityRadiusMm);
            std::vector<double> off;
            for (const float h : cavity) off.push_back(std::abs(h));
            const auto noise = static_cast<float>(kNoiseDeviations * 1.4826 * median(std::move(off)));
            for (float& h : cavity) h = h < 0 ? std::min(0.0f, h + noise) : h;
        }
    }
    return Done{};
}

BakeWork::SeenPlaces BakeWork::look_everywhere() const {
    SeenPlaces seen(base.triangles.size());
    tbb::parallel_for(std::size_t{0}, seen.size(), [&](std::size_t i) {
        const auto t = static_cast<Index>(i);
        if (!asked[base.part[t]]) return;
        for (int k = 0; k < 3; ++k) {
            Seen& s = seen[i][static_cast<std::size_t>(k)];
            s.at = look(t, near_corner(k));
            if (s.at.triangle != kNone && shows_colours) s.colour = s.raw = plain_colour(s.at);
        }
    });
    return seen;
}

// From then on they are missed, as those of hide_other_colours().
void BakeWork::hide_never_seen(SeenPlaces& seen) {
    hidden.resize(base.positions.size(), 0);
    const std::vector<std::uint8_t> never = never_seen(base);
    for (std::size_t v = 0; v < never.size(); ++v) hidden[v] = std::max<float>(hidden[v], never[v]);
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (base.part[t] == 0 && never[base.triangles[t][k]]) seen[t][k] = {};
        }
    }
}

void BakeWork::hide_other_colours(SeenPlaces& seen) {
    const SkinByColour by_colour = not_skin_by_colour(base, unlit_logs(seen), settings.keep_brows);
    skin = by_colour.skin, skin_light = light;
    doubtful.assign(by_colour.doubtful.begin(), by_colour.doubtful.end());
    if (by_colour.share == 0) return;
    hidden.resize(base.positions.size(), 0);
    const double left = 1 - other_colour;  // of what was seen
    other_colour += left * by_colour.share;
    for (std::size_t v = 0; v < hidden.size(); ++v) hidden[v] = std::max<float>(hidden[v], by_colour.other[v]);
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (base.part[t] != 0 || hidden[base.triangles[t][k]] == 0) continue;
            seen[t][k] = {};
        }
    }
}

std::vector<int> BakeWork::sides() const {
    std::vector<int> out;
    if (base.mirror.size() != base.positions.size()) return out;
    for (Index v = 0; v < base.mirror.size(); ++v) {
        const double x = base.positions[v].x() - base.positions[base.mirror[v]].x();
        out.push_back(base.mirror[v] == v ? 0 : x > 0 ? 1 : -1);
    }
    return out;
}

void BakeWork::compare_halves(const SeenPlaces& seen) {
    const std::vector<int> side = sides();
    if (side.empty() || !shows_colours) return;
    const auto lightness = [](const Vec3& c) { return std::log(c.mean() + kDark); };
    std::vector<HalfPlace> places(3 * seen.size());
    tbb::parallel_for(std::size_t{0}, seen.size(), [&](std::size_t i) {
        const auto t = static_cast<Index>(i);
        if (base.part[t] != 0) return;
        const Triangle& c = base.triangles[t];
        const double edge = (base.positions[c[1]] - base.positions[c[0]]).norm();
        for (std::size_t k = 0; k < 3; ++k) {
            if (side[c[k]] == 0) continue;
            const Seen& s = seen[t][k];
            HalfPlace& to = places[3 * i + k];
            to.region = base.region_names[base.region[c[k]]], to.left = side[c[k]] > 0;
            to.seen = s.colour.has_value();
            if (!s.colour) continue;
            const Vec3 shares = near_corner(static_cast<int>(k)), lit = at_vertices(light, t, shares);
            if (!light.empty() && settings.light_out > 0) to.light = std::exp(lit.mean() / settings.light_out);
            if (k != 0 || edge < 2 * kDetailMm) continue;
            const double step = kDetailMm / edge;
            const SourcePlace beside = look(t, shares + Vec3(-step, step, 0));
            const auto colour = beside.triangle == kNone ? std::nullopt : plain_colour(beside);
            if (colour) to.detail = std::abs(lightness(*colour) - lightness(*s.colour));
        }
    });
    std::erase_if(places, [](const HalfPlace& p) { return p.region.empty(); });
    halves = half_figures(places);
}

// The half that is not wanted is missed.
void BakeWork::hide_half(SeenPlaces& seen) {
    const std::vector<int> side = sides();
    if (side.empty()) return;
    const int away = settings.half == SkinHalf::Left ? -1 : 1;
    hidden.resize(base.positions.size(), 0);
    for (std::size_t v = 0; v < hidden.size(); ++v) {
        if (side[v] == away) hidden[v] = 1;
    }
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (base.part[t] == 0 && side[base.triangles[t][k]] == away) seen[t][k] = {};
        }
    }
}

// known: per vertex of the base, 1 where it is not filled.
void BakeWork::find_other_side(const std::vector<std::uint8_t>& known) {
    other_side = mirrored_triangles(base);
    if (other_side.empty()) return;
    mirrored.assign(known.size(), 0);
    for (std::size_t v = 0; v < known.size(); ++v) mirrored[v] = known[base.mirror[v]] && base.mirror[v] != v;
    const Adjacency ways = vertex_neighbours(base.triangles, static_cast<Index>(known.size()));
    for (int round = 0; round < kMirrorFade; ++round) {
        std::vector<float> next = mirrored;
        for (Index v = 0; v < next.size(); ++v) {
            float sum = mirrored[v], count = 1;
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += mirrored[*w], ++count;
            next[v] = std::min(mirrored[v], sum / count);
        }
        mirrored = std::move(next);
    }
}

// A vertex knows what was found near it; the others are filled.
Status BakeWork::fill_vertices(std::vector<std::string>& notes, const Progress& progress) {
    if (!wants_source) return Done{};
    SeenPlaces seen = look_everywhere();
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    const bool lights = (settings.light_out > 0 || settings.shine_out > 0) && shows_colours && !source.photos;
    if (lights) {
        if (auto ok = find_light(seen, notes, progress); !ok) return ok;
    }
    if (settings.colours_tell && shows_colours) {
        hide_never_seen(seen);
        hide_other_colours(seen);
        // the light again, of skin alone, and what is no skin in that light
        if (lights && lit.known() && other_colour > 0) {
            if (auto ok = find_light(seen, notes, progress); !ok) return ok;
            hide_other_colours(seen);
        }
    }
    compare_halves(seen);
    if (settings.half != SkinHalf::Both && shows_colours) hide_half(seen);
    if (settings.tone > 0 && shows_colours) {
        if (auto ok = take_tone_out(seen); !ok) return ok;
    }
    const std::size_t count = base.positions.size();
    ratio.assign(count, Vec3::Zero()), along.assign(count, Vec3::Zero()), scalars.assign(count, Vec3::Zero());
    std::vector<float> found(count, 0);
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Seen& s = seen[t][k];
            if (s.at.triangle == kNone) continue;
            const Index v = base.triangles[t][k];
            const Vec3 shares = near_corner(static_cast<int>(k));
            found[v] += 1;
            along[v][0] += s.at.along, scalars[v] += source_scalars(s.at);
            if (s.colour) ratio[v] += logs(*s.colour, base_colour(t, shares)) - at_vertices(light, t, shares);
        }
    }
    std::vector<std::uint8_t> known(count, 0);
    for (std::size_t v = 0; v < count; ++v) {
        if (found[v] < 2) continue;
        known[v] = 1;
        for (Points* values : {&ratio, &along, &scalars}) (*values)[v] /= found[v];
    }
    if (shows_colours) find_grain(seen, known, notes);
    if ((settings.fill_mirrored || settings.half != SkinHalf::Both) && shows_colours) find_other_side(known);
    return membrane(base.triangles, known, {{&ratio}, {&along}, {&scalars, Vec3(1, 0, 0)}});
}

Vec3 BakeWork::base_colour(Index t, const Vec3& shares) const {
    if (image[t] < 0) {
        const Colour& c = base.plain[t];
        return Vec3(srgb_to_linear(c.r / 255.0), srgb_to_linear(c.g / 255.0), srgb_to_linear(c.b / 255.0));
    }
    const Pixels& p = base_images[static_cast<std::size_t>(image[t])];
    const Vec2 uv = shares[0] * base.uv[t][0] + shares[1] * base.uv[t][1] + shares[2] * base.uv[t][2];
    const Vec2 in(uv.x() - std::floor(uv.x()), uv.y() - std::floor(uv.y()));
    return linear_between(p, Vec2(in.x() * p.width, (1 - in.y()) * p.height), false);
}

SourcePlace BakeWork::look(Index t, const Vec3& shares) const {
    SourcePlace out;
    if (!hidden.empty() && base.part[t] == 0 && between_corners(hidden, base.triangles[t], shares) > 0.5) return out;
    if (!source.photos) {
        out = projection->at(t, shares);
    } else if (base.part[t] == 0 && source.photos->shows(t, shares)) {
        out.found = Found::Along, out.triangle = t, out.shares = shares;
        out.position = base.place(t, shares);
    }
    if (out.triangle == kNone || doubtful.empty() || base.part[t] != 0 ||
        between_corners(doubtful, base.triangles[t], shares) <= 0.5)
        return out;
    const std::optional<Vec3> colour = source_colour(out, t, shares);
    return !colour || skin.skin(log_colour(*colour) - at_vertices(skin_light, t, shares)) ? out : SourcePlace{};
}

Vec3 BakeWork::filled_colour(Index t, const Vec3& shares, double& from_mirrored) const {
    from_mirrored = mirrored.empty() || base.part[t] != 0 ? 0 : between_corners(mirrored, base.triangles[t], shares);
    std::optional<Vec3> other;
    const SkinSpot there = from_mirrored > 0 ? mirrored_place(base, other_side[t], shares) : SkinSpot{};
    if (there.triangle != kNone) {
        const SourcePlace at = look(there.triangle, there.shares);
        if (at.triangle != kNone) other = unlit_colour(at, there.triangle, there.shares);
    }
    if (!other) from_mirrored = 0;
    Vec3 own = log_colour(base_colour(t, shares));
    if (const double share = grain && base.part[t] == 0 ? between_corners(grained, base.triangles[t], shares) : 0;
        share > 0)
        own = (1 - share) * own + share * (at_vertices(base_smooth, t, shares) + grain->at(t, shares));
    Vec3 out = colour_of_log(own + at_vertices(ratio, t, shares));
    out = out.cwiseMax(0).cwiseMin(1);
    if (other) out = from_mirrored * *other + (1 - from_mirrored) * out;
    return out;
}

std::optional<Vec3> BakeWork::plain_colour(const SourcePlace& at) const {
    if (source.photos) return source.photos->at(at.triangle, at.shares);
    if (!colours || !colours->any()) return {};
    return colours->at(source.surface->origin[at.triangle], at.shares);
}

std::optional<Vec3> BakeWork::source_colour(const SourcePlace& at, Index t, const Vec3& shares) const {
    std::optional<Vec3> out = plain_colour(at);
    if (out && (shadow || shine)) out = cleaned(*out, t, shares, settings.light_out, settings.shine_out);
    return out;
}

Vec3 BakeWork::unlit(const Vec3& colour, Index t, const Vec3& shares) const {
    if (light.empty()) return colour;
    return colour.cwiseProduct((-at_vertices(light, t, shares)).array().exp().matrix()).cwiseMin(1.0);
}

std::optional<Vec3> BakeWork::unlit_colour(const SourcePlace& at, Index t, const Vec3& shares) const {
    std::optional<Vec3> out = source_colour(at, t, shares);
    if (out) *out = unlit(*out, t, shares);
    return out;
}

Vec3 BakeWork::shown_colour(const SourcePlace& at, Index t, const Vec3& shares) const {
    const std::optional<Vec3> own = source_colour(at, t, shares);
    if (!own) return base_colour(t, shares);
    Vec3 out = unlit(*own, t, shares);
    if (doubtful.empty() || base.part[t] != 0) return out;
    // full where the doubt begins
    const double near = std::clamp(2.0 * between_corners(doubtful, base.triangles[t], shares), 0.0, 1.0);
    if (near <= 0) return out;
    const double doubt = near * skin.doubt(log_colour(*own) - at_vertices(skin_light, t, shares));
    double mirrored_share = 0;
    if (doubt > 0) out = (1 - doubt) * out + doubt * filled_colour(t, shares, mirrored_share);
    return out;
}

Vec3 BakeWork::source_normal(const SourcePlace& at) const {
    const Triangle& t = source.surface->triangles[at.triangle];
    const Points& n = projection->source_normals();
    return (at.shares[0] * n[t[0]] + at.shares[1] * n[t[1]] + at.shares[2] * n[t[2]]).normalized();
}

Vec3 BakeWork::source_scalars(const SourcePlace& at) const {
    Vec3 out(1, 0, 0);
    if (source.photos) return out;
    const Triangle& t = source.surface->triangles[at.triangle];
    if (!occlusion.empty()) out[0] = between_corners(occlusion, t, at.shares);
    if (!curvature.empty()) out[1] = between_corners(curvature, t, at.shares);
    if (!cavity.empty()) out[2] = between_corners(cavity, t, at.shares);
    return out;
}

}  // namespace veld
