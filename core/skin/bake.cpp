#include "core/skin/bake.h"

#include <tbb/parallel_for.h>

#include <atomic>
#include <cmath>
#include <fstream>

#include "core/mesh/topology.h"
#include "core/skin/bake_work.h"
#include "core/skin/heal.h"
#include "core/skin/join_borders.h"
#include "core/skin/photo_colours.h"
#include "core/skin/relief.h"

namespace veld {
namespace {

constexpr double kBeyond = 2.5;  // texels that go on across a seam
constexpr int kBand = 16;        // rows that one thread works on
constexpr int kTable = 1 << 16;
constexpr double kDeepMm = 0.4;         // of a cavity that is black
constexpr double kNormalsFade = 0.25;   // relief fades sooner than colours
constexpr double kMuchOverlap = 0.005;  // of a tile's used texels
constexpr double kReached = 0.02;       // of a region's texels
constexpr double kSpreadShare = 0.012;  // of the size: as far as borders tell what is filled

constexpr std::pair<SkinMap, const char*> kNames[] = {
    {SkinMap::Colour, "colour"},       {SkinMap::Normal, "normal"},       {SkinMap::Displacement, "displacement"},
    {SkinMap::Occlusion, "occlusion"}, {SkinMap::Curvature, "curvature"}, {SkinMap::Cavity, "cavity"},
    {SkinMap::Parts, "parts"},         {SkinMap::Regions, "regions"}};

// Bytes that may still be taken; all there are where the system does not tell.
std::size_t free_memory() {
    std::ifstream in("/proc/meminfo");
    std::string name;
    std::size_t kib = 0;
    while (in >> name >> kib) {
        if (name == "MemAvailable:") return kib * 1024;
        in.ignore(64, '\n');
    }
    return std::numeric_limits<std::size_t>::max();
}

Status check(const BakeSurface& base, const BakeSource& source, const BakeSettings& s) {
    const auto bad = [](const std::string& why) { return Error{ErrorCode::BadInput, why}; };
    if (s.size < kLeastTexels || s.size > kMostTexels)
        return bad("A map has " + std::to_string(kLeastTexels) + " to " + std::to_string(kMostTexels) +
                   " texels a side, not " + std::to_string(s.size) + ".");
    if (s.samples < 1 || s.samples > 8) return bad("A texel has 1 to 8 samples a side.");
    if (s.padding < 0 || s.padding > 256) return bad("The padding is 0 to 256 texels.");
    if (s.maps.empty()) return bad("Say at least one map to bake.");
    if (!(s.light_out >= 0 && s.light_out <= 1)) return bad("Light goes out by 0 (none of it) to 1 (all of it).");
    if (s.light_out > 0 && std::find(s.maps.begin(), s.maps.end(), SkinMap::Colour) == s.maps.end())
        return bad("Light goes out of a colour map, and none is asked for.");
    if (!(s.shine_out >= 0 && s.shine_out <= 1))
        return bad("Highlights go out by 0 (none of them) to 1 (all of them).");
    if (!(s.tone >= 0 && s.tone <= 1)) return bad("A tone is matched by 0 (not at all) to 1 (wholly).");
    for (const SkinMap map : s.maps) {
        if (source.photos && map != SkinMap::Colour && map != SkinMap::Parts && map != SkinMap::Regions)
            return bad(std::string("Photographs show colours; a map of ") + skin_map_name(map) +
                       " needs a scan or sculpt.");
    }
    for (const std::string& wanted : s.tiles) {
        std::string names;
        bool known = false;
        for (const UvTile& t : base.tiles) known |= t.name == wanted, names += (names.empty() ? "" : ", ") + t.name;
        if (!known) return bad("The base has no tile '" + wanted + "'; it has " + names + ".");
    }
    const std::size_t needed = bake_bytes(s), there = free_memory();
    if (needed > there)
        return Error{ErrorCode::Limit, "Maps of " + std::to_string(s.size) + " texels take " +
                                           std::to_string(needed >> 20u) + " MB, and " + std::to_string(there >> 20u) +
                                           " MB are free. Bake them smaller, or fewer at a time."};
    return Done{};
}

// --- what a texel shows

// Sums over a texel's samples.
struct Sum {
    Vec3 colour = Vec3::Zero(), normal = Vec3::Zero(), scalars = Vec3::Zero();
    double along = 0;
    int found = 0, asked = 0, wrong = 0, places = 0;
    bool closest = false;
    double mirrored = 0;
    Vec3 kept = Vec3::Zero(), filled_colour = Vec3::Zero(), filled_scalars = Vec3::Zero();
    double filled_along = 0;
};

void add_sample(const BakeWork& w, const TexelPlace& place, Sum& sum) {
    const Index t = place.triangle;
    ++sum.places;
    if (!w.asked[w.base.part[t]]) {
        sum.kept += w.base_colour(t, place.shares);
        return;
    }
    ++sum.asked;
    const SourcePlace at = w.look(t, place.shares);
    if (at.found != Found::Along && at.found != Found::Closest) {
        sum.wrong += at.found == Found::WrongSheet;
        double mirrored = 0;
        if (w.shows_colours) sum.filled_colour += w.filled_colour(t, place.shares, mirrored);
        sum.mirrored += mirrored;
        sum.filled_along += w.at_vertices(w.along, t, place.shares)[0];
        sum.filled_scalars += w.at_vertices(w.scalars, t, place.shares);
        return;
    }
    ++sum.found;
    sum.closest |= at.found == Found::Closest;
    sum.along += at.along;
    if (w.shows_colours) sum.colour += w.shown_colour(at, t, place.shares);
    if (w.shows_normals) sum.normal += w.source_normal(at);
    if (w.shows_scalars) sum.scalars += w.source_scalars(at);
}

struct TexelWriter {
    const BakeWork& w;
    BakedTile& out;

    // sRGB of linear light, from a table: exact to a tenth of a 16-bit step but for the darkest
    static Vec3 srgb_of(const Vec3& linear) {
        static const std::vector<float> table = [] {
            std::vector<float> out;
            for (int i = 0; i <= kTable; ++i) out.push_back(static_cast<float>(linear_to_srgb(i / double{kTable})));
            return out;
        }();
        Vec3 out;
        for (int k = 0; k < 3; ++k) {
            const double at = std::clamp(linear[k], 0.0, 1.0) * kTable;
            const auto i = std::min(static_cast<std::size_t>(at), std::size_t{kTable - 1});
            out[k] = table[i] + (at - static_cast<double>(i)) * (table[i + 1] - table[i]);
        }
        return out;
    }
    static void unit(MapImage& to, std::size_t i, const Vec3& value) {
        for (int c = 0; c < to.channels; ++c)
            to.unit[i * static_cast<std::size_t>(to.channels) + static_cast<std::size_t>(c)] =
                static_cast<std::uint16_t>(65535 * std::clamp(value[c], 0.0, 1.0) + 0.5);
    }
    // From what was found, or from what it is filled with. place: one of the texel's.
    void put(std::size_t i, const Sum& sum, bool good, const TexelPlace& place) const {
        const double n = good ? sum.found : std::max(1, sum.asked - sum.found);
        const bool kept = sum.asked == 0;
        for (auto& [map, image] : out.maps) {
            const auto scalar = [&](int k) { return (good ? sum.scalars : sum.filled_scalars)[k] / n; };
            switch (map) {
                case SkinMap::Colour:
                    unit(image, i,
                         srgb_of(kept ? Vec3(sum.kept / sum.places)
                                      : Vec3((good ? sum.colour : sum.filled_colour) / n)));
                    break;
                case SkinMap::Normal: {
                    Vec3 v = Vec3::UnitZ();
                    if (good) v = w.base.frame(place.shown_by, place.shown_shares).inverse() * sum.normal;
                    if (!(v.squaredNorm() > 1e-12) || !v.allFinite()) v = Vec3::UnitZ();
                    unit(image, i, 0.5 * (v.normalized() + Vec3::Ones()));
                    break;
                }
                case SkinMap::Displacement:
                    image.real[i] = kept ? 0 : static_cast<float>((good ? sum.along : sum.filled_along) / n);
                    break;
                case SkinMap::Occlusion:
                    unit(image, i, Vec3::Constant(kept ? 1 : scalar(0)));
                    break;
                case SkinMap::Curvature:
                    unit(image, i, Vec3::Constant(kept ? 0.5 : 0.5 + scalar(1)));
                    break;
                case SkinMap::Cavity:
                    unit(image, i, Vec3::Constant(kept ? 1 : 1 - std::max(0.0, -scalar(2)) / kDeepMm));
                    break;
                case SkinMap::Parts:
                case SkinMap::Regions:
                    break;  // put_masks
            }
        }
    }
    void put_masks(std::size_t i, const TexelPlace& place) const {
        const auto as_unit = [](const Colour& c) { return Vec3(Vec3(c.r, c.g, c.b) / 255); };
        const std::size_t part = w.base.part[place.triangle];
        for (auto& [map, image] : out.maps) {
            if (map == SkinMap::Parts) unit(image, i, as_unit(mask_colour(part)));
            if (map != SkinMap::Regions) continue;
            Eigen::Index most = 0;
            place.shares.maxCoeff(&most);
            const std::size_t region = w.base.region[w.base.triangles[place.triangle][static_cast<std::size_t>(most)]];
            unit(image, i, part == 0 ? as_unit(mask_colour(region)) : Vec3(Vec3::Zero()));
        }
    }
};

struct Counts {
    std::vector<std::array<Index, 4>> of;  // per region: texels, missed, wrong, mirrored
};

MapImage blank(SkinMap map, int size) {
    MapImage out;
    out.width = out.height = size;
    const bool colours = map == SkinMap::Colour || map == SkinMap::Parts || map == SkinMap::Regions;
    out.channels = colours || map == SkinMap::Normal ? 3 : 1;
    out.srgb = colours;
    const std::size_t n = out.texels() * static_cast<std::size_t>(out.channels);
    if (map == SkinMap::Displacement) {
        out.real.assign(n, 0);
        return out;
    }
    std::uint16_t fill = 0;
    if (map == SkinMap::Normal || map == SkinMap::Curvature) fill = 32768;
    if (map == SkinMap::Occlusion || map == SkinMap::Cavity) fill = 65535;
    out.unit.assign(n, fill);
    for (std::size_t i = 2; i < n && map == SkinMap::Normal; i += 3) out.unit[i] = 65535;
    return out;
}

void bake_band(const BakeWork& w, const TexelRows& rows, int first, int count, TexelWriter& writer,
               std::vector<Texel>& texels, Counts& counts) {
    std::vector<TexelPlace> places;
    rows.rows(first, count, places);
    const int size = w.settings.size, n = w.settings.samples;
    const auto wide = static_cast<std::size_t>(size) * static_cast<std::size_t>(n);
    for (int y = 0; y < count; ++y) {
        for (int x = 0; x < size; ++x) {
            const std::size_t i =
                static_cast<std::size_t>(first + y) * static_cast<std::size_t>(size) + static_cast<std::size_t>(x);
            Sum sum;
            const TexelPlace* one = nullptr;
            for (int s = 0; s < n * n; ++s) {
                const TexelPlace& place =
                    places[static_cast<std::size_t>(y * n + s / n) * wide + static_cast<std::size_t>(x * n + s % n)];
                if (place.triangle == kNone) continue;
                if (!one || s == n * n / 2 + n / 2) one = &place;
                if (w.wants_source)
                    add_sample(w, place, sum);
                else
                    ++sum.places;
            }
            if (!one) continue;
            writer.put_masks(i, *one);
            const bool good = sum.found > 0;
            writer.put(i, sum, good, *one);
            texels[i] = Texel::Kept;
            if (sum.asked == 0) continue;
            texels[i] = good ? Texel::Good : Texel::Missed;
            Found how = sum.closest ? Found::Closest : Found::Along;
            if (!good) how = sum.wrong > 0 ? Found::WrongSheet : Found::Missed;
            if (!good && sum.mirrored > 0.5 * sum.asked) how = Found::Mirrored;
            writer.out.found[i] = static_cast<std::uint8_t>(how);
            if (w.base.part[one->triangle] != 0 || one->beyond) continue;
            auto& c = counts.of[w.base.region[w.base.triangles[one->triangle][0]]];
            ++c[0], c[1] += how == Found::Missed, c[2] += how == Found::WrongSheet, c[3] += how == Found::Mirrored;
        }
    }
}

// One thread for each map; what they remember of borders is each one's own.
void finish_tile(const BakeWork& w, std::vector<Texel> texels, std::map<SkinMap, BorderMemory>& memory, double done,
                 const Progress& progress, BakedTile& out) {
    const int size = w.settings.size;
    progress.say(done, "Finishing tile " + out.tile.name);
    const TexelBorders borders(std::move(texels), size, size, kSpreadShare * size, w.settings.padding);
    std::vector<std::pair<SkinMap, MapImage*>> maps;
    for (auto& [map, image] : out.maps) maps.emplace_back(map, &image), memory[map];
    tbb::parallel_for(std::size_t{0}, maps.size(), [&](std::size_t i) {
        const auto [map, image] = maps[i];
        if (map != SkinMap::Parts && map != SkinMap::Regions) {
            borders.spread(*image, map == SkinMap::Normal ? kNormalsFade : 1);
            join_borders(w.base, out.tile, static_cast<int>(map), map == SkinMap::Normal, *image, memory.at(map));
        }
        borders.pad(*image);
    });
}

Result<BakedTile> bake_tile(const BakeWork& w, const UvTile& tile, Counts& counts,
                            std::map<SkinMap, BorderMemory>& memory, double done, double share,
                            const Progress& progress) {
    BakedTile out{tile, {}, {}};
    const int size = w.settings.size;
    std::vector<Texel> texels;
    try {
        for (const SkinMap map : w.settings.maps) out.maps.emplace(map, blank(map, size));
        texels.assign(static_cast<std::size_t>(size) * static_cast<std::size_t>(size), Texel::Outside);
        out.found.assign(texels.size(), static_cast<std::uint8_t>(Found::Nothing));
    } catch (const std::bad_alloc&) {
        return Error{ErrorCode::Limit, "There is not enough memory for maps of " + std::to_string(size) +
                                           " texels; bake them smaller, or fewer at a time."};
    }
    const TexelRows rows(w.base, tile, size, w.settings.samples, kBeyond);
    const int bands = (size + kBand - 1) / kBand;
    std::vector<Counts> of_band(static_cast<std::size_t>(bands));
    std::atomic<int> finished{0};
    std::atomic<bool> cancelled{false};
    TexelWriter writer{w, out};
    tbb::parallel_for(0, bands, [&](int b) {
        if (cancelled || progress.is_cancelled()) {
            cancelled = true;
            return;
        }
        Counts& mine = of_band[static_cast<std::size_t>(b)];
        mine.of.resize(w.base.region_names.size());
        bake_band(w, rows, b * kBand, std::min(kBand, size - b * kBand), writer, texels, mine);
        progress.say(done + 0.9 * share * ++finished / bands, "Baking tile " + tile.name);
    });
    if (cancelled) return Error{ErrorCode::Cancelled, "Cancelled."};
    for (const Counts& c : of_band) {
        for (std::size_t r = 0; r < c.of.size(); ++r) {
            for (std::size_t k = 0; k < 4; ++k) counts.of[r][k] += c.of[r][k];
        }
    }
    finish_tile(w, std::move(texels), memory, done + share, progress, out);
    return out;
}

void report(const BakeWork& w, const Counts& counts, BakeReport& out) {
    double all = 0;
    for (std::size_t r = 0; r < counts.of.size(); ++r) {
        const auto& [texels, missed, wrong, mirrored] = counts.of[r];
        if (texels == 0) continue;
        out.regions.push_back({w.base.region_names[r], texels, missed, wrong, mirrored});
        all += texels, out.missed += missed, out.wrong += wrong, out.mirrored += mirrored;
    }
    if (all > 0) {
        out.missed /= all, out.wrong /= all, out.mirrored /= all;
        out.seen = 1 - out.missed - out.wrong - out.mirrored;
    }
    for (std::size_t p = 0; p < w.base.part_names.size(); ++p) out.part_colours[w.base.part_names[p]] = mask_colour(p);
    for (std::size_t r = 0; r < w.base.region_names.size(); ++r)
        out.region_colours[w.base.region_names[r]] = mask_colour(r);
}

}  // namespace

const char* skin_map_name(SkinMap map) {
    for (const auto& [m, name] : kNames) {
        if (m == map) return name;
    }
    return "";
}

std::optional<SkinMap> skin_map_from_name(const std::string& name) {
    for (const auto& [m, known] : kNames) {
        if (name == known) return m;
    }
    return {};
}

std::size_t bake_bytes(const BakeSettings& s) {
    std::size_t a_texel = 2;  // what was found, and how it is filled
    for (const SkinMap map : s.maps) {
        const MapImage one = blank(map, 1);
        a_texel += 2 * one.unit.size() + 4 * one.real.size();
    }
    return a_texel * static_cast<std::size_t>(s.size) * static_cast<std::size_t>(s.size) + (std::size_t{64} << 20u);
}

Result<BakeReport> bake(const BakeSurface& base, const Mesh& kit_mesh, const BakeSource& source,
                        const BakeSettings& wanted, const std::function<Status(BakedTile&&)>& take,
                        const Progress& progress) {
    if (auto ok = check(base, source, wanted); !ok) return ok.error();
    BakeReport out;
    auto work = BakeWork::make(base, kit_mesh, source, wanted, out.notes, progress);
    if (!work) return work.error();
    BakeWork& w = **work;
    if (w.projection) out.reaches = w.projection->reaches();
    out.tones = w.tones, out.halves = w.halves, out.other_colour = w.other_colour;
    if (source.photos)
        out.darkest = source.photos->darkest(), out.lightest = source.photos->lightest(),
        out.shadow = source.photos->shadow(), out.shine = source.photos->shine();
    if (w.lit.known()) out.darkest = w.lit.darkest(), out.lightest = w.lit.lightest();
    if (w.shadow) out.shadow = w.shadow->share(), out.lamp = w.lamp->towards;
    if (w.shine) out.shine = w.shine->share();
    Counts counts{std::vector<std::array<Index, 4>>(base.region_names.size(), {0, 0, 0, 0})};
    std::map<SkinMap, BorderMemory> memory;
    std::vector<const UvTile*> tiles;
    for (const UvTile& tile : base.tiles) {
        if (w.settings.tiles.empty() ||
            std::find(w.settings.tiles.begin(), w.settings.tiles.end(), tile.name) != w.settings.tiles.end())
            tiles.push_back(&tile);
    }
    for (std::size_t k = 0; k < tiles.size(); ++k) {
        const double share = 0.75 / static_cast<double>(tiles.size());
        auto tile = bake_tile(w, *tiles[k], counts, memory, 0.25 + share * static_cast<double>(k), share, progress);
        if (!tile) return tile.error();
        if (auto ok = take(std::move(*tile)); !ok) return ok.error();
    }
    for (const UvTile* tile : tiles) {
        const UvFigures figures = uv_figures(base, *tile);
        if (figures.overlap < kMuchOverlap) continue;
        char share[16];
        std::snprintf(share, sizeof share, "%.1f %%", 100 * figures.overlap);
        out.notes.push_back("Tile " + tile->name + ": UVs overlap on " + share +
                            " of its texels. They show the triangle that comes first in the file.");
    }
    report(w, counts, out);
    progress.say(1, "Done");
    return out;
}

bool is_reached(const RegionBaked& r) { return r.texels - r.missed - r.wrong - r.mirrored >= kReached * r.texels; }

ReachedShares where_it_reaches(const BakeReport& report) {
    double all = 0;
    ReachedShares out;
    for (const RegionBaked& r : report.regions) {
        if (!is_reached(r)) continue;
        all += r.texels, out.seen += r.texels - r.missed - r.wrong - r.mirrored, out.mirrored += r.mirrored;
    }
    if (all > 0) out.seen /= all, out.mirrored /= all;
    return out;
}

}  // namespace veld
