#include "core/skin/first_skin.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/photo/outline.h"
#include "core/skin/colour_of.h"
#include "core/skin/skin_work.h"

namespace veld {
namespace {

constexpr double kLeastCosine = 0.2, kOccludedMm = 2.0, kMirrorCounts = 0.35;

Chart head_chart(const BaseKit& kit) {
    Chart out;
    const Mesh& m = kit.mesh;
    if (m.corner_uv.empty() || m.face_material.empty()) return out;
    const KitPart& skin = *kit.part("skin");
    std::set<Index> head(kit.region("head_skin").begin(), kit.region("head_skin").end());
    int tile = -1;
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        if (!skin.has_face(face) || m.face_material[face] == kNone) continue;
        const Index corner = m.corner_uv[kit.triangulation.triangle_corner[t][0]];
        if (corner == kNone) continue;
        bool inside = true;
        for (const Index v : kit.triangulation.triangles[t]) inside &= head.contains(v);
        const int of = udim_of(m.uvs[corner]);
        if (tile < 0 && inside) tile = of, out.image = image_of(m.materials[m.face_material[face]], m.uvs[corner]);
        if (of == tile && tile >= 0) out.triangles.push_back(t);
    }
    return out;
}

// Calls put(x, y, barycentric) for every texel of a size x size tile whose middle lies in the triangle, or up to
// `beyond` of a texel outside.
template <class Put>
void each_texel(const BaseKit& kit, Index t, int size, double beyond, const Put& put) {
    Vec2 c[3];
    for (std::size_t k = 0; k < 3; ++k) {
        const Vec2& uv = kit.mesh.uvs[kit.mesh.corner_uv[kit.triangulation.triangle_corner[t][k]]];
        c[k] = size * Vec2(uv.x() - std::floor(uv.x()), 1 - (uv.y() - std::floor(uv.y())));
    }
    const double area = (c[1] - c[0]).x() * (c[2] - c[0]).y() - (c[2] - c[0]).x() * (c[1] - c[0]).y();
    if (std::abs(area) < 1e-9) return;
    const double longest = std::max({(c[1] - c[0]).norm(), (c[2] - c[1]).norm(), (c[0] - c[2]).norm()});
    if (longest > 0.5 * size) return;  // across the tile's edge
    const double out = beyond * longest / std::abs(area);
    const auto low = [&](int axis) {
        return std::max(0, static_cast<int>(std::floor(std::min({c[0][axis], c[1][axis], c[2][axis]}) - beyond)));
    };
    const auto high = [&](int axis) {
        return std::min(size - 1,
                        static_cast<int>(std::ceil(std::max({c[0][axis], c[1][axis], c[2][axis]}) + beyond)));
    };
    for (int y = low(1); y <= high(1); ++y) {
        for (int x = low(0); x <= high(0); ++x) {
            const Vec2 p(x + 0.5, y + 0.5);
            const auto cross = [&](const Vec2& a, const Vec2& b) {
                return (a.x() - p.x()) * (b.y() - p.y()) - (b.x() - p.x()) * (a.y() - p.y());
            };
            const double u = cross(c[1], c[2]) / area, v = cross(c[2], c[0]) / area, w = 1 - u - v;
            if (u < -out || v < -out || w < -out) continue;
            put(x, y, Vec3(u, v, w));
        }
    }
}

void lay_grid(SkinWork& w) {
    for (const Index t : w.chart.triangles) {
        each_texel(w.kit, t, kGrid, 0, [&](int x, int y, const Vec3& b) {
            const auto i = static_cast<std::size_t>(y * kGrid + x);
            w.triangle[i] = t, w.bary[i] = b;
        });
    }
}

void weigh(SkinWork& w, bool mirror) {
    const std::vector<Triangle>& solid = solid_triangles(w.kit);
    const SurfaceQuery query(w.shape, solid);
    const Points normals = vertex_normals(w.shape, solid);
    std::vector<EdgePicture> pictures;
    std::vector<SkinTone> tones;
    double sharpest = 0;
    const Vec3 middle =
        w.kit.landmarks.contains("sellion") ? w.kit.landmarks.at("sellion").at(w.shape) : Vec3(0, 0, 0);
    for (const SkinPhoto& p : w.photos) {
        pictures.push_back(edge_picture(*p.pixels, p.camera.pixels_per_mm(middle)));
        tones.push_back(skin_tone(pictures.back(), p.on_skin));
        sharpest = std::max(sharpest, p.camera.pixels_per_mm(middle));
    }
    VertexMask inner(w.shape.size(),
                     0);  // the face itself: brows, lips and beards are no skin by colour, and belong to it
    for (const char* name : {"face", "lips", "lid_l", "lid_r"}) {
        for (const Index v : w.kit.region(name)) inner[v] = 1;
    }
    w.weight.assign(w.labels, std::vector<float>(kGrid * kGrid, 0));
    tbb::parallel_for(std::size_t{0}, w.triangle.size(), [&](std::size_t i) {
        const Index t = w.triangle[i];
        if (t == kNone) return;
        for (std::size_t k = 0; k < w.photos.size(); ++k) {
            const PhotoCamera& camera = w.photos[k].camera;
            for (const bool mirrored : {false, true}) {
                if (mirrored && (!mirror || w.kit.mirror.empty())) continue;
                Vec3 n = Vec3::Zero();
                bool of_face = true;
                for (std::size_t c = 0; c < 3; ++c) {
                    const Index v = w.kit.triangulation.triangles[t][c], u = mirrored ? w.kit.mirror[v] : v;
                    n += w.bary[i][static_cast<Eigen::Index>(c)] * normals[u];
                    of_face &= inner[v] != 0;
                }
                const Vec3 p = w.place(t, w.bary[i], mirrored), towards = camera.towards(p);
                const double cosine = -n.normalized().dot(towards);
                if (cosine < kLeastCosine || (!camera.parallel && camera.to_camera(p).z() < 1)) continue;
                const Vec2 pixel = camera.project(p);
                if (pixel.x() < 1 || pixel.y() < 1 || pixel.x() > camera.width - 1 || pixel.y() > camera.height - 1)
                    continue;
                const Vec3 from = p - 600 * towards;
                const SurfaceHit hit = query.first_front_hit(from, towards);
                if (hit && (hit.position - from).norm() < 600 - kOccludedMm) continue;
                const Vec3 colour = pictures[k].colour(pixel);
                if (!of_face && !tones[k].skin(colour)) continue;
                const double straight = (cosine - kLeastCosine) / (1 - kLeastCosine);
                double value = straight * straight * std::sqrt(camera.pixels_per_mm(p) / sharpest);
                if (colour.maxCoeff() > 0.985 || colour.maxCoeff() < 0.04) value *= 0.1;  // burnt out, or black
                w.weight[2 * k + mirrored][i] = static_cast<float>(mirrored ? kMirrorCounts * value : value);
            }
        }
    });
}

// The best after averaging over a few cells, so that borders run smoothly; only of those that see the cell.
void choose(SkinWork& w) {
    const int reach = 4;
    std::vector<std::vector<float>> soft(w.labels);
    tbb::parallel_for(std::size_t{0}, w.labels - 1, [&](std::size_t l) {
        std::vector<float> row(kGrid * kGrid, 0);
        soft[l].assign(kGrid * kGrid, 0);
        for (int pass = 0; pass < 2; ++pass) {
            const std::vector<float>& in = pass == 0 ? w.weight[l] : row;
            std::vector<float>& out = pass == 0 ? row : soft[l];
            const int step = pass == 0 ? 1 : kGrid;
            for (int line = 0; line < kGrid; ++line) {
                const int start = pass == 0 ? line * kGrid : line;
                for (int i = 0; i < kGrid; ++i) {
                    float sum = 0;
                    for (int d = -reach; d <= reach; ++d) {
                        if (i + d >= 0 && i + d < kGrid) sum += in[static_cast<std::size_t>(start + (i + d) * step)];
                    }
                    out[static_cast<std::size_t>(start + i * step)] = sum;
                }
            }
        }
    });
    for (std::size_t i = 0; i < w.winner.size(); ++i) {
        if (w.triangle[i] == kNone) continue;
        float best = 0;
        w.winner[i] = static_cast<int>(w.labels) - 1;
        for (std::size_t l = 0; l + 1 < w.labels; ++l) {
            if (w.weight[l][i] > 0.004f && soft[l][i] > best) best = soft[l][i], w.winner[i] = static_cast<int>(l);
        }
    }
}

// The base's skin as bright and as coloured as the photographs', by the face that both show.
void match_base(SkinWork& w) {
    Vec3 sum[2] = {Vec3::Zero(), Vec3::Zero()}, square[2] = {Vec3::Zero(), Vec3::Zero()};
    double n = 0;
    for (std::size_t i = 0; i < w.winner.size(); ++i) {
        if (w.winner[i] < 0 || w.winner[i] / 2 != w.front || w.winner[i] + 1 == static_cast<int>(w.labels)) continue;
        const Vec2 texel((static_cast<double>(i % kGrid) + 0.5) / kGrid,
                         (static_cast<double>(i / kGrid) + 0.5) / kGrid);
        const Vec3 c[2] = {w.colour(static_cast<std::size_t>(w.winner[i]), w.triangle[i], w.bary[i], texel),
                           w.colour(w.labels - 1, w.triangle[i], w.bary[i], texel)};
        for (int k = 0; k < 2; ++k) sum[k] += c[k], square[k] += c[k].cwiseProduct(c[k]);
        ++n;
    }
    if (n < 200) return;
    for (int k = 0; k < 3; ++k) {
        const double photo = sum[0][k] / n, base = sum[1][k] / n;
        const double spread_photo = std::sqrt(std::max(1.0, square[0][k] / n - photo * photo)),
                     spread_base = std::sqrt(std::max(1.0, square[1][k] / n - base * base));
        w.gain[k] = std::clamp(spread_photo / spread_base, 0.5, 1.6);
        w.level[k] = photo - w.gain[k] * base;
    }
}

void paint(const SkinWork& w, FirstSkin& out, int size) {
    out.texture.width = out.texture.height = size;
    out.texture.rgba.resize(std::size_t{4} * static_cast<std::size_t>(size) * static_cast<std::size_t>(size), 255);
    const auto put = [&](int x, int y, const Vec3& c) {
        std::uint8_t* to = &out.texture.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size) +
                                                  static_cast<std::size_t>(x))];
        for (int k = 0; k < 3; ++k) to[k] = static_cast<std::uint8_t>(std::clamp(std::lround(c[k]), 0L, 255L));
    };
    const auto base_at = [&](int x, int y) {
        return colour_of(w.base, Vec2((x + 0.5) * w.base.width / size, (y + 0.5) * w.base.height / size));
    };
    tbb::parallel_for(0, size, [&](int y) {
        for (int x = 0; x < size; ++x) put(x, y, base_at(x, y));
    });
    tbb::parallel_for(std::size_t{0}, w.chart.triangles.size(), [&](std::size_t n) {
        const Index t = w.chart.triangles[n];
        each_texel(w.kit, t, size, 2.0, [&](int x, int y, const Vec3& outside) {
            Vec3 b = outside.cwiseMax(0.0);
            b /= b.sum();
            const Vec2 texel((x + 0.5) / size, (y + 0.5) / size);
            const double gx = texel.x() * kGrid - 0.5, gy = texel.y() * kGrid - 0.5;
            Vec3 sum = Vec3::Zero();
            double total = 0;
            std::size_t last = w.labels;
            Vec3 colour = Vec3::Zero();
            for (int c = 0; c < 4; ++c) {
                const int i = static_cast<int>(std::floor(gx)) + c % 2, j = static_cast<int>(std::floor(gy)) + c / 2;
                if (i < 0 || j < 0 || i >= kGrid || j >= kGrid) continue;
                const auto cell = static_cast<std::size_t>(j * kGrid + i);
                if (w.winner[cell] < 0) continue;
                const double share = (1 - std::abs(gx - i)) * (1 - std::abs(gy - j)) + 1e-9;
                const auto label = static_cast<std::size_t>(w.winner[cell]);
                if (label != last) colour = w.colour(label, t, b, texel), last = label;
                sum += share * (colour + w.change[label][cell]), total += share;
            }
            if (total > 0) put(x, y, sum / total);
        });
    });
    // eyes, teeth and tongue have their places in the same tile, and keep them
    for (Index t = 0; t < w.kit.triangulation.triangles.size(); ++t) {
        const Index face = w.kit.triangulation.triangle_face[t];
        const KitPart& skin = *w.kit.part("skin");
        const Index corner = w.kit.mesh.corner_uv[w.kit.triangulation.triangle_corner[t][0]];
        if (skin.has_face(face) || corner == kNone || w.kit.mesh.face_material[face] == kNone) continue;
        if (image_of(w.kit.mesh.materials[w.kit.mesh.face_material[face]], w.kit.mesh.uvs[corner]) != w.chart.image)
            continue;
        each_texel(w.kit, t, size, 1.0, [&](int x, int y, const Vec3&) { put(x, y, base_at(x, y)); });
    }
}

}  // namespace

std::vector<SkinPhoto> skin_photos(const std::vector<LookedAt>& looked,
                                   const std::vector<std::optional<PhotoCamera>>& cameras) {
    std::vector<SkinPhoto> out;
    for (std::size_t i = 0; i < looked.size() && i < cameras.size(); ++i) {
        if (!cameras[i]) continue;
        out.push_back({&looked[i].photo.pixels, *cameras[i], {}});
        for (std::size_t s = 0; looked[i].found && s < looked[i].found->samples.size(); ++s)
            out.back().on_skin.push_back(looked[i].found->samples[s].pixel);
    }
    return out;
}

Result<FirstSkin> first_skin(const BaseKit& kit, const Points& shape, const std::vector<SkinPhoto>& photos,
                             const FirstSkinSettings& settings, const Progress& progress) {
    if (photos.empty())
        return Error{ErrorCode::BadInput, "There is no photograph whose camera is known; make the head first."};
    if (settings.size < 64 || settings.size > 8192)
        return Error{ErrorCode::BadInput, "A skin has 64 to 8192 texels a side."};
    SkinWork w{kit, shape, photos, {}, head_chart(kit)};
    if (w.chart.triangles.empty() || w.chart.image < 0)
        return Error{ErrorCode::BadInput,
                     "The kit's head has no UVs with a texture; there is nothing to project a skin onto."};
    progress.say(0.05, "Reading the base's skin");
    auto base = decode_image(kit.mesh.images[static_cast<std::size_t>(w.chart.image)]);
    if (!base) return base.error();
    w.base = std::move(*base);
    w.labels = 2 * photos.size() + 1;
    double most = -2;
    for (std::size_t k = 0; k < photos.size(); ++k) {
        const double frontal = -photos[k].camera.forward().z();
        if (frontal > most) most = frontal, w.front = static_cast<int>(k);
    }
    FirstSkin out;
    out.image = w.chart.image;
    const auto cancelled = [&](double done, const char* stage) {
        progress.say(done, stage);
        return progress.is_cancelled();
    };
    const Error stop{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    lay_grid(w);
    if (cancelled(0.2, "Looking who sees what")) return stop;
    weigh(w, settings.mirror_fill);
    choose(w);
    if (settings.match_tone) match_base(w);
    if (cancelled(0.5, "Levelling the seams")) return stop;
    if (auto ok = level_seams(w, settings.blend_seams, out); !ok) return ok.error();
    if (cancelled(0.8, "Painting the skin")) return stop;
    double all = 0;
    for (const int l : w.winner) {
        if (l < 0) continue;
        ++all;
        (l + 1 == static_cast<int>(w.labels) ? out.from_base : l % 2 == 1 ? out.mirrored : out.from_photos) += 1;
    }
    if (all > 0) out.from_photos /= all, out.mirrored /= all, out.from_base /= all;
    paint(w, out, settings.size);
    progress.say(1, "Done");
    return out;
}

}  // namespace veld
