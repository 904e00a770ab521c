#include "core/morph/region_mix.h"

#include <algorithm>
#include <limits>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/mesh/soft_region.h"
#include "core/mesh/surface_distance.h"
#include "core/morph/face_region_names.h"

namespace veld {
namespace {

constexpr double kWholeHead = 0.6;  // this share of a head's skin moves in another head

// Which places of the scheme stand for a region; and which parts of the kit belong to it.
struct RegionSeed {
    const char* name;
    std::vector<std::string> points, curves, kit_regions, parts;
};

const std::vector<RegionSeed>& seeds() {
    static const std::vector<RegionSeed> all = {
        {"forehead", {"trichion", "frontotemporale_l", "frontotemporale_r"}, {}, {}, {}},
        {"brows", {"glabella"}, {"brow_l", "brow_r"}, {}, {}},
        {"eyes",
         {},
         {"upper_lid_l", "upper_lid_r", "lower_lid_l", "lower_lid_r"},
         {"lid_l", "lid_r", "socket_l", "socket_r"},
         {"eye_l", "eye_r", "lash_l", "lash_r"}},
        {"nose",
         {"sellion", "pronasale", "subnasale", "alare_l", "alare_r", "subalare_l", "subalare_r"},
         {},
         {"nostril_inside"},
         {}},
        {"cheeks", {"zygion_l", "zygion_r", "cheek_l", "cheek_r"}, {}, {}, {}},
        {"mouth",
         {"labiale_superius", "labiale_inferius"},
         {"upper_lip_border", "lower_lip_border", "mouth_line"},
         {"lips", "mouth_inner"},
         {"teeth_upper", "teeth_lower", "tongue"}},
        {"chin and jaw", {"pogonion", "gnathion", "sublabiale", "gonion_l", "gonion_r"}, {"jaw_line"}, {}, {}},
        {"ears", {}, {"ear_rim_l", "ear_rim_r"}, {"ear_l", "ear_r"}, {}},
        {"skull", {"vertex", "opisthocranion"}, {}, {}, {}},
        {"neck", {"cervical_point", "cervicale"}, {}, {"neck"}, {}},
        {"body", {}, {}, {}, {}},
    };
    return all;
}

// Nearest region along the skin; 0xff where no way leads.
std::vector<std::uint8_t> nearest_region(const BaseKit& kit, const Adjacency& ways,
                                         const std::vector<std::vector<Index>>& sources) {
    VertexIndices all;
    std::vector<std::uint8_t> region;
    for (std::size_t r = 0; r < sources.size(); ++r) {
        all.insert(all.end(), sources[r].begin(), sources[r].end());
        region.insert(region.end(), sources[r].size(), static_cast<std::uint8_t>(r));
    }
    const SurfaceDistances found = surface_distances(kit.mesh.positions, ways, all);
    std::vector<std::uint8_t> owner(kit.mesh.positions.size(), 0xff);
    for (std::size_t v = 0; v < owner.size(); ++v) {
        if (found.source[v] != kNone) owner[v] = region[found.source[v]];
    }
    return owner;
}

// Brings a shape's head to the base's size and place. A shape that leaves much of the head alone is no other head.
Similarity head_placement(const BaseRegions& regions, const Morph& m) {
    Points from, to;
    std::size_t moves = 0;
    for (const Index v : regions.head) {
        const auto at = std::lower_bound(m.index.begin(), m.index.end(), v);
        const bool moved = at != m.index.end() && *at == v;
        moves += moved;
        to.push_back(regions.base[v]);
        from.push_back(moved ? Vec3(regions.base[v] + m.delta[static_cast<std::size_t>(at - m.index.begin())])
                             : regions.base[v]);
    }
    if (moves < kWholeHead * static_cast<double>(regions.head.size())) return {};
    SimilarityOptions options;
    options.outlier_mm = 8;
    const auto fit = fit_similarity(from, to, options);
    return fit ? *fit : Similarity{};
}

Index nearest_corner(const SurfacePoint& p) {
    return p
        .vertices[static_cast<std::size_t>(std::max_element(p.weights.begin(), p.weights.end()) - p.weights.begin())];
}

}  // namespace

std::vector<std::string> face_region_names() {
    std::vector<std::string> out;
    for (const RegionSeed& seed : seeds()) out.emplace_back(seed.name);
    return out;
}

BaseRegions face_regions(const BaseKit& kit, double soft_mm) {
    BaseRegions out;
    out.base = kit.mesh.positions;
    for (std::size_t i = 0; i < kit.region("head_skin").size(); i += 4) out.head.push_back(kit.region("head_skin")[i]);
    const std::size_t count = kit.mesh.positions.size();
    std::vector<std::vector<Index>> sources;
    VertexMask head(count, 0);
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    for (const RegionSeed& seed : seeds()) {
        std::vector<Index> own;
        for (const std::string& name : seed.points) {
            if (const auto at = kit.landmarks.find(name); at != kit.landmarks.end())
                own.push_back(nearest_corner(at->second));
        }
        for (const std::string& name : seed.curves) {
            if (const auto at = kit.curves.find(name); at != kit.curves.end()) {
                for (const SurfacePoint& p : at->second) own.push_back(nearest_corner(p));
            }
        }
        for (const std::string& name : seed.kit_regions)
            own.insert(own.end(), kit.region(name).begin(), kit.region(name).end());
        if (seed.name == std::string("body")) {
            for (const Index v : kit.part("skin")->vertices) {
                if (!head[v]) own.push_back(v);
            }
        }
        if (own.empty()) continue;
        out.names.push_back(seed.name);
        sources.push_back(std::move(own));
    }
    const Adjacency& ways = kit_neighbours(kit);
    out.owner = nearest_region(kit, ways, sources);
    for (std::uint8_t& o : out.owner) {
        if (o == 0xff)
            o = static_cast<std::uint8_t>(out.names.size() - 1);  // loose parts nobody claims: with the body
    }
    for (const RegionSeed& seed : seeds()) {
        const auto at = std::find(out.names.begin(), out.names.end(), seed.name);
        if (at == out.names.end()) continue;
        for (const std::string& name : seed.parts) {
            if (const KitPart* part = kit.part(name)) {
                for (const Index v : part->vertices) out.owner[v] = static_cast<std::uint8_t>(at - out.names.begin());
            }
        }
    }
    std::vector<float> sum(count, 0);
    for (std::size_t r = 0; r < out.names.size(); ++r) {
        VertexIndices core;
        for (Index v = 0; v < count; ++v) {
            if (out.owner[v] == r) core.push_back(v);
        }
        out.weight.push_back(soft_region(kit.mesh.positions, ways, core, soft_mm));
        for (std::size_t v = 0; v < count; ++v) sum[v] += out.weight[r][v];
    }
    for (auto& weight : out.weight) {
        for (std::size_t v = 0; v < count; ++v) weight[v] /= sum[v];
    }
    return out;
}

Vec3 add_region_deltas(const BaseRegions& regions, const std::vector<RegionAmount>& amounts,
                       const std::vector<const Morph*>& morphs, Points& delta) {
    Vec3 root = Vec3::Zero();
    for (const RegionAmount& a : amounts) {
        const auto region = std::find(regions.names.begin(), regions.names.end(), a.region);
        const auto morph =
            std::find_if(morphs.begin(), morphs.end(), [&](const Morph* m) { return m->name == a.morph; });
        if (region == regions.names.end() || morph == morphs.end() || a.amount == 0) continue;
        const std::vector<float>& weight = regions.weight[static_cast<std::size_t>(region - regions.names.begin())];
        const Morph& m = **morph;
        const Similarity place = a.region == "body" ? Similarity{} : head_placement(regions, m);
        const bool placed = place.scale != 1 || !place.translation.isZero(0);
        std::size_t next = 0;  // of the morph's own vertices
        for (Index v = 0; v < delta.size(); ++v) {
            const bool moves = next < m.index.size() && m.index[next] == v;
            const Vec3 own = moves ? m.delta[next++] : Vec3(Vec3::Zero());
            if (weight[v] == 0 || (!moves && !placed)) continue;
            const Vec3 d = placed ? Vec3(place(regions.base[v] + own) - regions.base[v]) : own;
            delta[v] += a.amount * static_cast<double>(weight[v]) * d;
        }
        if (a.region == "body") root += a.amount * m.root;
    }
    return root;
}

void add_region_mix(const BaseRegions& regions, const std::vector<RegionAmount>& amounts,
                    const std::vector<const Morph*>& morphs, Points& shape) {
    const Vec3 root = add_region_deltas(regions, amounts, morphs, shape);
    if (root.isZero(0)) return;
    for (Vec3& p : shape) p += root;
}

const std::string* region_met(const BaseRegions& regions, const BaseKit& kit, const SurfaceQuery& shape,
                              const Vec3& origin, const Vec3& direction) {
    const SurfaceHit hit = shape.first_hit(origin, direction);
    if (!hit) return nullptr;
    const auto corner = static_cast<std::size_t>(std::max_element(hit.barycentric.begin(), hit.barycentric.end()) -
                                                 hit.barycentric.begin());
    return &regions.names[regions.owner[kit.triangulation.triangles[hit.triangle][corner]]];
}

VertexIndices middles_of(const BaseRegions& regions, const BaseKit& kit) {
    const std::size_t n = regions.names.size();
    VertexIndices out(n, kNone);
    std::vector<Vec3> sum(n, Vec3::Zero());
    std::vector<double> count(n, 0);
    const KitPart* skin = kit.part("skin");
    if (!skin) return out;
    const auto left = [&](Index v) { return regions.base[v].x() >= 0; };
    for (const Index v : skin->vertices) {
        if (left(v)) sum[regions.owner[v]] += regions.base[v], ++count[regions.owner[v]];
    }
    std::vector<double> least(n, std::numeric_limits<double>::infinity());
    for (const Index v : skin->vertices) {
        const std::size_t r = regions.owner[v];
        if (!left(v) || count[r] == 0) continue;
        const double d = (regions.base[v] - sum[r] / count[r]).squaredNorm();
        if (d < least[r]) least[r] = d, out[r] = v;
    }
    return out;
}

}  // namespace veld
