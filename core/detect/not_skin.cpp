#include "core/detect/not_skin.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kCellMm = 4;
constexpr double kToldApartMm = 160;  // beyond this of the likely head nothing is told apart
constexpr double kCheekMm = 45;       // around the nose's tip: the colour of skin is taken there
constexpr double kNearSkin = 2;       // deviations; farther out it gives no colour of skin
constexpr double kLeastPatchMm2 = 600;
constexpr int kEvenRounds = 3;
constexpr double kSure = 0.5, kGrows = 0.3;  // likelihood of what begins a patch, and of what it grows over

std::int64_t key_of(const Vec3& p) {
    const auto at = [](double x) { return static_cast<std::int64_t>(std::floor(x / kCellMm)) + (1 << 19); };
    return (at(p.x()) << 40) | (at(p.y()) << 20) | at(p.z());
}

struct Gathered {
    Vec3 place = Vec3::Zero(), normal = Vec3::Zero(), colour = Vec3::Zero();
    double area = 0;
    int coloured = 0;
};

Vec2 chroma_of(const Vec3& linear) {
    const double sum = linear.sum();
    return sum > 0.012 ? Vec2(linear.x() / sum, linear.y() / sum) : Vec2::Constant(-1);
}

std::optional<HeadPart> part_of(const std::vector<std::optional<HeadPart>>& by_vertex, const Triangle& t,
                                const std::array<double, 3>& b) {
    return by_vertex[t[static_cast<std::size_t>(std::max_element(b.begin(), b.end()) - b.begin())]];
}

// Empty: no vertex of the head.
std::vector<std::optional<HeadPart>> parts_of(const BaseKit& kit) {
    std::vector<std::optional<HeadPart>> out(kit.mesh.positions.size());
    for (const Index v : kit.region("head_skin")) out[v] = HeadPart::Neck;
    for (const auto& [region, part] : {std::pair{"face", HeadPart::Face},
                                       {"skull", HeadPart::Skull},
                                       {"ear_l", HeadPart::Ear},
                                       {"ear_r", HeadPart::Ear}}) {
        for (const Index v : kit.region(region)) out[v] = part;
    }
    return out;
}

}  // namespace

const char* head_part_name(HeadPart part) {
    constexpr const char* names[] = {"face", "ears", "skull", "neck"};
    return names[static_cast<int>(part)];
}

std::vector<SkinCell> skin_cells(const SurfaceLook& look, const BaseKit& kit, const LikelyHead& likely) {
    const SourceSurface& s = look.surface;
    std::unordered_map<std::int64_t, Index> cell_of;
    std::vector<SkinCell> cells;
    std::vector<Gathered> sums;
    std::vector<Index> at_vertex(s.positions.size(), kNone);
    const auto cell_at = [&](Index v) {
        if (at_vertex[v] != kNone) return at_vertex[v];
        const auto [it, fresh] = cell_of.emplace(key_of(s.positions[v]), static_cast<Index>(cells.size()));
        if (fresh) cells.emplace_back(), sums.emplace_back();
        cells[it->second].vertices.push_back(v);
        return at_vertex[v] = it->second;
    };
    for (std::size_t i = 0; i < s.triangles.size(); ++i) {
        const Triangle& t = s.triangles[i];
        const Vec3 n = 0.5 * (s.positions[t[1]] - s.positions[t[0]]).cross(s.positions[t[2]] - s.positions[t[0]]);
        const Vec3 middle = (s.positions[t[0]] + s.positions[t[1]] + s.positions[t[2]]) / 3;
        const Index a = cell_at(t[0]);
        Gathered& g = sums[a];
        g.area += n.norm(), g.normal += n, g.place += n.norm() * middle;
        // a cell's colour needs no more than a few places
        if (look.coloured && g.coloured < 6) {
            SurfaceHit hit;
            hit.triangle = static_cast<Index>(i), hit.barycentric = {1.0 / 3, 1.0 / 3, 1.0 / 3};
            const Vec3 c = colour_at(look, hit);
            g.colour += c.unaryExpr([](double x) { return std::pow(std::max(x, 0.0), 2.2); }), ++g.coloured;
        }
        for (const std::size_t k : {1u, 2u}) {
            const Index b = cell_at(t[k]);
            if (b == a) continue;
            cells[a].beside.push_back(b), cells[b].beside.push_back(a);
        }
    }
    for (SkinCell& c : cells) {
        std::sort(c.beside.begin(), c.beside.end());
        c.beside.erase(std::unique(c.beside.begin(), c.beside.end()), c.beside.end());
    }
    const std::vector<Triangle>& skin = skin_triangles(kit);
    const SurfaceQuery query(likely.positions, skin);
    const std::vector<std::optional<HeadPart>> parts = parts_of(kit);
    const auto tip = kit.landmarks.find("pronasale");
    const Vec3 nose = tip == kit.landmarks.end() ? Vec3(Vec3::Zero()) : tip->second.at(likely.positions);
    tbb::parallel_for(std::size_t{0}, cells.size(), [&](std::size_t i) {
        SkinCell& c = cells[i];
        Gathered around = sums[i];
        for (const Index b : c.beside) around.normal += sums[b].normal, around.area += sums[b].area;
        c.area = sums[i].area;
        c.rough = around.area > 0 ? 1 - around.normal.norm() / around.area : 0;
        if (!(c.area > 0)) return;
        const SurfaceHit hit = query.closest(sums[i].place / c.area, kToldApartMm);
        c.part = HeadPart::Neck;
        if (!hit) return;
        const Triangle& t = skin[hit.triangle];
        const auto part = part_of(parts, t, hit.barycentric);
        if (!part) return;
        c.part = *part, c.told = true;
        const double side = (sums[i].place / c.area - hit.position).dot(query.triangle_normals()[hit.triangle]);
        c.outside = side < 0 ? -hit.distance : hit.distance;
        double sure = 0;
        for (std::size_t k = 0; k < 3; ++k) sure += hit.barycentric[k] * likely.sure[t[k]];
        c.deviations = std::clamp(c.outside / std::hypot(sure, 1.0), -20.0, 20.0);
    });
    if (!look.coloured) return cells;
    std::array<std::vector<double>, 3> of_skin;
    std::vector<Vec2> chroma(cells.size(), Vec2::Constant(-1));
    std::vector<double> light(cells.size(), 0);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (sums[i].coloured == 0) continue;
        const Vec3 c = sums[i].colour / sums[i].coloured;
        chroma[i] = chroma_of(c), light[i] = std::log2(c.sum() + 0.01);
        const bool cheek = (sums[i].place / std::max(sums[i].area, 1e-9) - nose).norm() < kCheekMm;
        if (!cheek || cells[i].part != HeadPart::Face || std::abs(cells[i].deviations) > kNearSkin ||
            chroma[i].x() < 0)
            continue;
        of_skin[0].push_back(chroma[i].x()), of_skin[1].push_back(chroma[i].y()), of_skin[2].push_back(light[i]);
    }
    if (of_skin[0].size() < 20) return cells;
    const Vec2 usual(median(of_skin[0]), median(of_skin[1]));
    const double bright = median(of_skin[2]);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        cells[i].coloured = sums[i].coloured > 0;
        if (chroma[i].x() >= 0) cells[i].colour = (chroma[i] - usual).norm();
        if (cells[i].coloured) cells[i].light = bright - light[i];
    }
    return cells;
}

// Measured on made-up heads (benchmarks/README.md): constant, deviations outside, the same squared, rough. That skin
// is left out costs three times what it costs to keep what is none; thin covers (cropped hair) count little. Colours
// add less than they would there, since shadows are in many scans' colours: kColour a unit of chromaticity, kDark a
// halving of the light.
double not_skin(const SkinCell& c) {
    constexpr double kWeights[kHeadParts][2][4] = {
        {{-6.49, 2.349, -0.1212, 0}, {-7.27, 1.580, -0.1055, 0}},
        {{-4.33, 2.204, -0.1436, 0}, {-5.16, 1.829, -0.1474, 0}},
        {{-3.93, 1.869, -0.1019, 0}, {-4.70, 1.378, -0.0629, 0}},
        {{-5.67, 1.191, -0.1011, 4.69}, {-6.31, 1.052, -0.1049, 2.89}},
    };
    constexpr double kColour = 18, kDark = 1.2;
    if (!c.told) return 0;
    const double* w = kWeights[static_cast<int>(c.part)][c.coloured];
    const double out = std::clamp(c.deviations, 0.0, 8.0);
    double sum = w[0] + w[1] * out + w[2] * out * out + w[3] * c.rough;
    if (c.coloured) sum += kColour * std::min(c.colour, 0.3) + kDark * std::clamp(c.light, 0.0, 2.5);
    return 1 / (1 + std::exp(-sum));
}

namespace {

// Patches of `selected` cells that are too small are given back; a piece by itself (an eyeball) stays what it is.
void drop_small(const std::vector<SkinCell>& cells, std::vector<std::uint8_t>& selected) {
    std::vector<std::uint8_t> seen(cells.size(), 0);
    std::vector<Index> patch;
    for (Index seed = 0; seed < cells.size(); ++seed) {
        if (!selected[seed] || seen[seed]) continue;
        patch.assign(1, seed), seen[seed] = 1;
        double area = 0;
        bool alone = true;
        for (std::size_t i = 0; i < patch.size(); ++i) {
            area += cells[patch[i]].area;
            for (const Index b : cells[patch[i]].beside) {
                alone &= selected[b] != 0;
                if (selected[b] && !seen[b]) seen[b] = 1, patch.push_back(b);
            }
        }
        if (alone || area >= kLeastPatchMm2) continue;
        for (const Index c : patch) selected[c] = 0;
    }
}

}  // namespace

LeftOut find_not_skin(const SurfaceLook& look, const BaseKit& kit, const LikelyHead& likely) {
    const std::vector<SkinCell> cells = skin_cells(look, kit, likely);
    std::vector<double> p(cells.size()), next(cells.size());
    for (std::size_t i = 0; i < cells.size(); ++i) p[i] = not_skin(cells[i]);
    for (int round = 0; round < kEvenRounds; ++round) {
        for (std::size_t i = 0; i < cells.size(); ++i) {
            double sum = p[i], n = 1;
            for (const Index b : cells[i].beside) sum += p[b], n += 1;
            next[i] = sum / n;
        }
        p.swap(next);
    }
    std::vector<std::uint8_t> selected(cells.size(), 0);
    std::vector<Index> reached;
    for (Index i = 0; i < cells.size(); ++i) {
        if (p[i] > kSure) selected[i] = 1, reached.push_back(i);
    }
    // what hangs together with it is likely the same thing
    for (std::size_t i = 0; i < reached.size(); ++i) {
        for (const Index b : cells[reached[i]].beside) {
            if (!selected[b] && p[b] > kGrows) selected[b] = 1, reached.push_back(b);
        }
    }
    drop_small(cells, selected);
    for (std::uint8_t& c : selected) c = !c;  // islands inside are part of it
    drop_small(cells, selected);
    for (std::uint8_t& c : selected) c = !c;
    LeftOut out;
    out.vertices.assign(look.surface.positions.size(), 0);
    double all = 0;
    std::array<double, kHeadParts> of_part{}, left_out{};
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const auto part = static_cast<std::size_t>(cells[i].part);
        all += cells[i].area, of_part[part] += cells[i].told ? cells[i].area : 0;
        if (!selected[i]) continue;
        out.share += cells[i].area, left_out[part] += cells[i].area;
        for (const Index v : cells[i].vertices) out.vertices[v] = 1;
    }
    out.share = all > 0 ? out.share / all : 0;
    for (std::size_t part = 0; part < kHeadParts; ++part) {
        if (left_out[part] > 0 && of_part[part] > 0)
            out.part[static_cast<HeadPart>(part)] = left_out[part] / of_part[part];
    }
    return out;
}

}  // namespace veld
