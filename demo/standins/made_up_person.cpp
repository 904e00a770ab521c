#include "demo/standins/made_up_person.h"

#include <cmath>
#include <map>
#include <random>
#include <set>

#include "core/base/file.h"
#include "core/base/smoothstep.h"
#include "core/fit/creases.h"
#include "core/io/image.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

using Random = std::mt19937_64;

double uniform(Random& random, double low, double high) {
    // std::uniform_real_distribution differs between libraries; this does not
    return low + (high - low) * (static_cast<double>(random() >> 11) * 0x1.0p-53);
}
double normal(Random& random) {
    return std::sqrt(-2 * std::log(1 - uniform(random, 0, 1))) * std::cos(2 * M_PI * uniform(random, 0, 1));
}
Vec3 unit_vector(Random& random) {
    Vec3 v(normal(random), normal(random), normal(random));
    return v.normalized();
}

// Smooth displacement field: Gaussian bumps at anatomical places, constant around each eyeball.
class Warp {
 public:
    Warp(const BaseKit& kit, double size, Random& random) {
        const Points& x = kit.mesh.positions;
        const auto bump = [&](const char* name, double sigma, double share) {
            const auto at = kit.landmarks.find(name);
            if (at == kit.landmarks.end()) return;
            bumps_.push_back(
                {at->second.at(x), sigma, size * share * uniform(random, 0.5, 1.0) * unit_vector(random)});
        };
        bump("gnathion", 38, 1.0), bump("gonion_l", 34, 0.7), bump("gonion_r", 34, 0.7);
        bump("pronasale", 20, 0.5), bump("glabella", 30, 0.5), bump("cheek_l", 28, 0.5), bump("cheek_r", 28, 0.5);
        bump("vertex", 60, 1.0), bump("opisthocranion", 60, 1.0), bump("tragion_l", 30, 0.4),
            bump("tragion_r", 30, 0.4);
        for (const KitEye& eye : kit.eyes) eyes_.push_back(eye.centre);
    }
    Vec3 operator()(const Vec3& p) const {
        Vec3 out = raw(p);
        for (const Vec3& eye : eyes_) {
            const double t = std::clamp(((p - eye).norm() - 17.0) / 22.0, 0.0, 1.0);
            const double keep = t * t * t * (10 + t * (6 * t - 15));
            out = keep * out + (1 - keep) * raw(eye);
        }
        return out;
    }

 private:
    struct Bump {
        Vec3 centre;
        double sigma;
        Vec3 shift;
    };
    Vec3 raw(const Vec3& p) const {
        Vec3 out = Vec3::Zero();
        for (const Bump& b : bumps_)
            out += std::exp(-0.5 * (p - b.centre).squaredNorm() / (b.sigma * b.sigma)) * b.shift;
        return out;
    }
    std::vector<Bump> bumps_;
    std::vector<Vec3> eyes_;
};

// Fine relief along the normal: waves of 9 to 25 mm that add up to at most `size`.
class Detail {
 public:
    Detail(double size, Random& random) {
        for (int i = 0; i < 6; ++i) {
            waves_.push_back(
                {2 * M_PI / uniform(random, 9, 25) * unit_vector(random), uniform(random, 0, 6.28), size / 6});
        }
    }
    double operator()(const Vec3& p) const {
        double out = 0;
        for (const auto& w : waves_) out += w.size * std::sin(w.vector.dot(p) + w.phase);
        return out;
    }

 private:
    struct Wave {
        Vec3 vector;
        double phase, size;
    };
    std::vector<Wave> waves_;
};

struct FineSurface {
    Points on_base;  // on the base's surface, jittered
    std::vector<Triangle> triangles;
};

// Every quad becomes n x n; vertices slide along the base so that none stays on a base vertex.
FineSurface subdivide(const BaseKit& kit, const std::vector<Index>& faces, int n, Random& random) {
    FineSurface out;
    const Points& x = kit.mesh.positions;
    std::map<std::tuple<Index, Index, int>, Index> edge_points;
    std::map<Index, Index> corners;
    const auto add = [&](const Vec3& p) {
        out.on_base.push_back(p);
        return static_cast<Index>(out.on_base.size() - 1);
    };
    for (Index f : faces) {
        const Index* c = kit.mesh.corner_vertex.data() + kit.mesh.face_start[f];
        if (kit.mesh.face_size(f) != 4) continue;
        std::vector<Index> grid(static_cast<std::size_t>((n + 1) * (n + 1)));
        for (int i = 0; i <= n; ++i) {
            for (int j = 0; j <= n; ++j) {
                const double u = static_cast<double>(i) / n, v = static_cast<double>(j) / n;
                const Vec3 p =
                    (1 - u) * (1 - v) * x[c[0]] + u * (1 - v) * x[c[1]] + u * v * x[c[2]] + (1 - u) * v * x[c[3]];
                Index& slot = grid[static_cast<std::size_t>(i * (n + 1) + j)];
                const auto on_edge = [&](Index a, Index b, int k) {
                    const auto key = a < b ? std::tuple(a, b, k) : std::tuple(b, a, n - k);
                    const auto [at, fresh] = edge_points.try_emplace(key, 0);
                    if (fresh) at->second = add(p);
                    slot = at->second;
                };
                const bool i_end = i == 0 || i == n, j_end = j == 0 || j == n;
                if (i_end && j_end) {
                    const Index corner = i == 0 ? (j == 0 ? c[0] : c[3]) : (j == 0 ? c[1] : c[2]);
                    const auto [at, fresh] = corners.try_emplace(corner, 0);
                    if (fresh) at->second = add(p);
                    slot = at->second;
                } else if (j == 0)
                    on_edge(c[0], c[1], i);
                else if (i == n)
                    on_edge(c[1], c[2], j);
                else if (j == n)
                    on_edge(c[3], c[2], i);
                else if (i == 0)
                    on_edge(c[0], c[3], j);
                else
                    slot = add(p);
            }
        }
        for (int i = 0; i < n; ++i) {
            for (int j = 0; j < n; ++j) {
                const auto g = [&](int a, int b) { return grid[static_cast<std::size_t>(a * (n + 1) + b)]; };
                const Index q[4] = {g(i, j), g(i + 1, j), g(i + 1, j + 1), g(i, j + 1)};
                const int k = static_cast<int>(random() & 1);  // either diagonal
                out.triangles.push_back({q[k], q[k + 1], q[k + 2]});
                out.triangles.push_back({q[k], q[k + 2], q[(k + 3) % 4]});
            }
        }
    }
    const SurfaceQuery base(x, kit.triangulation.triangles);
    const Points original = out.on_base;
    const Points normals = vertex_normals(original, out.triangles);
    for (std::size_t v = 0; v < original.size(); ++v) {
        const FacingFilter facing{normals[v], 0.7};
        const SurfaceHit hit =
            base.closest(original[v] + 0.25 * uniform(random, 0, 1) * unit_vector(random), 2.0, &facing);
        if (hit) out.on_base[v] = hit.position;
    }
    return out;
}

std::vector<Index> visible_faces(const BaseKit& kit, const std::vector<double>& open, double lowest_y) {
    std::set<Index> hidden;
    for (const char* name : {"socket_l", "socket_r", "mouth_inner", "nostril_inside"}) {
        hidden.insert(kit.region(name).begin(), kit.region(name).end());
    }
    std::vector<Index> out;
    const KitPart& skin = *kit.part("skin");
    for (const Index f : faces_of(skin)) {
        bool inside = true, low = false;
        double seen = 0;
        for (Index c = kit.mesh.face_start[f]; c < kit.mesh.face_start[f + 1]; ++c) {
            inside &= hidden.contains(kit.mesh.corner_vertex[c]);
            seen = std::max(seen, open[kit.mesh.corner_vertex[c]]);
            low |= kit.mesh.positions[kit.mesh.corner_vertex[c]].y() < lowest_y;
        }
        if (!inside && !low && seen > 0.15) out.push_back(f);  // no camera looks into a crease
    }
    return out;
}

void add_stray_parts(Mesh& scan, const Vec3& centre, Random& random) {
    for (int part = 0; part < 6; ++part) {
        const Vec3 at = centre + uniform(random, 130, 220) * unit_vector(random);
        const Index first = scan.vertex_count();
        for (int i = 0; i < 30; ++i) scan.positions.push_back(at + uniform(random, 2, 9) * unit_vector(random));
        for (Index i = 0; i + 2 < 30; ++i) {
            for (Index k = 0; k < 3; ++k) scan.corner_vertex.push_back(first + i + k);
            scan.face_start.push_back(static_cast<Index>(scan.corner_vertex.size()));
        }
    }
}

}  // namespace

Points worn_by(const BaseKit& kit, const SubjectOptions& options, const Points& shape) {
    Random random(options.seed * 7919 + 17);
    const Warp warp(kit, options.warp_mm, random);
    Points out = shape;
    for (Vec3& p : out) p += warp(p);
    for (const KitEye& eye : kit.eyes)
        for (const Index v : kit.part(eye.part)->vertices) out[v] = shape[v] + warp(eye.centre);
    return out;
}

SyntheticSubject make_subject(const BaseKit& kit, const SubjectOptions& options) {
    Random random(options.seed * 7919 + 17);
    const Warp warp(kit, options.warp_mm, random);
    const Detail detail(options.detail_mm, random);
    const Points base_normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
    // relief fades where skin meets skin: lips that grow into each other are no anatomy
    const std::vector<double> open =
        openness(kit.mesh.positions, kit.triangulation.triangles, VertexMask(kit.mesh.positions.size(), 1), 25.0);
    std::vector<double> relief;
    for (double o : open) {
        relief.push_back(smoothstep((o - 0.3) / 0.4));
    }
    SyntheticSubject out;
    out.truth_mm.resize(kit.mesh.positions.size());
    for (std::size_t v = 0; v < out.truth_mm.size(); ++v) {
        const Vec3& p = kit.mesh.positions[v];
        out.truth_mm[v] = p + warp(p) + relief[v] * detail(p) * base_normals[v];
    }
    for (const KitEye& eye : kit.eyes) {
        for (Index v : kit.part(eye.part)->vertices) out.truth_mm[v] = kit.mesh.positions[v] + warp(eye.centre);
    }

    FineSurface fine = subdivide(kit, visible_faces(kit, open, options.lowest_y), options.subdivisions, random);
    const SurfaceQuery base(kit.mesh.positions, kit.triangulation.triangles);
    for (const Vec3& p : fine.on_base) {
        const SurfaceHit hit = base.closest(p, 5.0);
        Vec3 n = Vec3::Zero();
        double amount = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const Index v = kit.triangulation.triangles[hit.triangle][k];
            n += hit.barycentric[k] * base_normals[v];
            amount += hit.barycentric[k] * relief[v];
        }
        out.surface_mm.push_back(p + warp(p) + amount * detail(p) * n.normalized());
    }
    out.surface_triangles = fine.triangles;
    out.surface_on_base_mm = fine.on_base;
    // the eyes' fronts are part of what a camera sees
    std::map<Index, Index> eye_vertex;
    for (const KitEye& eye : kit.eyes) {
        const KitPart& part = *kit.part(eye.part);
        for (const Index f : faces_of(part)) {
            const Index* c = kit.mesh.corner_vertex.data() + kit.mesh.face_start[f];
            if (kit.mesh.positions[c[0]].z() < eye.centre.z() + 0.6 * eye.radius) continue;
            for (Index k = 1; k + 1 < kit.mesh.face_size(f); ++k) {
                Triangle t{};
                int i = 0;
                for (Index corner : {c[0], c[k], c[k + 1]}) {
                    const auto [at, fresh] = eye_vertex.try_emplace(corner, static_cast<Index>(out.surface_mm.size()));
                    if (fresh)
                        out.surface_mm.push_back(out.truth_mm[corner]),
                            out.surface_on_base_mm.push_back(kit.mesh.positions[corner]);
                    t[static_cast<std::size_t>(i++)] = at->second;
                }
                out.surface_triangles.push_back(t);
            }
        }
    }

    Mesh& scan = out.scan;
    const Points normals = vertex_normals(out.surface_mm, out.surface_triangles);
    for (std::size_t v = 0; v < out.surface_mm.size(); ++v) {
        scan.positions.push_back(out.surface_mm[v] + options.noise_mm * normal(random) * normals[v]);
    }
    std::vector<std::pair<Vec3, double>> holes;
    for (int i = 0; options.holes && i < 6; ++i) {
        holes.emplace_back(out.surface_mm[random() % fine.on_base.size()], uniform(random, 4, 9));
    }
    for (const Triangle& t : out.surface_triangles) {
        bool open = false;
        for (const auto& [centre, radius] : holes) open |= (out.surface_mm[t[0]] - centre).norm() < radius;
        if (open) continue;
        scan.corner_vertex.insert(scan.corner_vertex.end(), t.begin(), t.end());
        scan.face_start.push_back(static_cast<Index>(scan.corner_vertex.size()));
    }
    if (options.stray_parts) add_stray_parts(scan, kit.landmarks.at("sellion").at(kit.mesh.positions), random);

    out.scan_from_mm.scale = uniform(random, 0.08, 0.12);  // a scan in centimetres, a little off in size
    out.scan_from_mm.rotation = Eigen::AngleAxisd(uniform(random, -3, 3), unit_vector(random)).toRotationMatrix();
    out.scan_from_mm.translation = 30 * unit_vector(random);
    for (Vec3& p : scan.positions) p = out.scan_from_mm(p);

    std::vector<std::string> names;
    for (const SchemePoint& p : landmark_scheme().points) {
        if (p.name == "cervicale") break;
        if (kit.landmarks.contains(p.name) && !p.name.starts_with("pupil")) names.push_back(p.name);
    }
    for (std::size_t i = names.size(); i > 1; --i) std::swap(names[i - 1], names[random() % i]);
    for (std::size_t i = 0; i < names.size() && i < static_cast<std::size_t>(options.landmark_count); ++i) {
        const Vec3 p = kit.landmarks.at(names[i]).at(out.truth_mm) + options.landmark_error_mm * unit_vector(random);
        out.landmarks.points[names[i]] = out.scan_from_mm(p);
    }
    return out;
}

std::vector<Colour> skin_colours(const BaseKit& kit, const Points& on_base, const std::string& skin) {
    std::vector<Pixels> pixels;
    for (const Image& image : kit.mesh.images) {
        Image worn = image;
        if (const auto end = image.name.rfind('_'); !skin.empty() && end != std::string::npos) {
            if (auto bytes = read_file(kit.folder + "/textures/" + skin + image.name.substr(end)))
                worn.bytes.assign(bytes->data.get(), bytes->data.get() + bytes->size);
        }
        auto decoded = decode_image(worn);
        pixels.push_back(decoded ? std::move(*decoded) : Pixels{});
    }
    const SurfaceQuery query(kit.mesh.positions, kit.triangulation.triangles);
    std::vector<Colour> out;
    for (const Vec3& p : on_base) {
        Colour colour{190, 150, 130, 255};
        const SurfaceHit hit = query.closest(p, 10);
        if (hit && !kit.mesh.corner_uv.empty() && !kit.mesh.face_material.empty()) {
            Vec2 uv = Vec2::Zero();
            for (std::size_t k = 0; k < 3; ++k)
                uv += hit.barycentric[k] *
                      kit.mesh.uvs[kit.mesh.corner_uv[kit.triangulation.triangle_corner[hit.triangle][k]]];
            const int image = image_of(
                kit.mesh.materials[kit.mesh.face_material[kit.triangulation.triangle_face[hit.triangle]]], uv);
            if (image >= 0 && pixels[static_cast<std::size_t>(image)].width > 0) {
                const Pixels& px = pixels[static_cast<std::size_t>(image)];
                const int x = static_cast<int>((uv.x() - std::floor(uv.x())) * (px.width - 1)),
                          y = static_cast<int>((1 - (uv.y() - std::floor(uv.y()))) * (px.height - 1));
                const std::uint8_t* c =
                    &px.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(px.width) +
                                  static_cast<std::size_t>(x))];
                colour = {c[0], c[1], c[2], 255};
            }
        }
        out.push_back(colour);
    }
    return out;
}

TruthFigures compare_with_truth(const BaseKit& kit, const SyntheticSubject& subject, const Points& fit_mm) {
    std::set<Index> hidden, face(kit.region("face").begin(), kit.region("face").end());
    for (const char* name : {"socket_l", "socket_r", "mouth_inner", "nostril_inside"}) {
        hidden.insert(kit.region(name).begin(), kit.region(name).end());
    }
    const std::set<Index> neck(kit.region("neck").begin(), kit.region("neck").end());
    const SurfaceQuery truth(subject.surface_mm, subject.surface_triangles);
    TruthFigures out;
    std::vector<double> surface;
    double face_sum = 0, head_sum = 0;
    int face_count = 0, head_count = 0;
    for (Index v : kit.region("head_skin")) {
        if (hidden.contains(v) || neck.contains(v)) continue;  // the neck fades into the base's own
        const double d = (fit_mm[v] - subject.truth_mm[v]).norm();
        head_sum += d;
        ++head_count;
        if (!face.contains(v)) continue;
        face_sum += d;
        ++face_count;
        surface.push_back(truth.closest(fit_mm[v], 50).distance);
    }
    out.face_mean = face_sum / std::max(face_count, 1);
    out.head_mean = head_sum / std::max(head_count, 1);
    out.face_surface_median = median(surface);
    out.face_surface_p95 = quantile(surface, 0.95);
    const auto mean_of = [&](std::initializer_list<const char*> regions) {
        double sum = 0;
        int count = 0;
        for (const char* name : regions) {
            for (Index v : kit.region(name)) {
                if (hidden.contains(v)) continue;
                sum += (fit_mm[v] - subject.truth_mm[v]).norm();
                ++count;
            }
        }
        return sum / std::max(count, 1);
    };
    out.lids_lips_mean = mean_of({"lid_l", "lid_r", "lips"});
    out.ears_mean = mean_of({"ear_l", "ear_r"});
    for (const KitEye& eye : kit.eyes) {
        Vec3 a = Vec3::Zero(), b = Vec3::Zero();
        for (Index v : kit.part(eye.part)->vertices) a += fit_mm[v], b += subject.truth_mm[v];
        out.eye_worst =
            std::max(out.eye_worst, (a - b).norm() / static_cast<double>(kit.part(eye.part)->vertices.size()));
    }
    return out;
}

}  // namespace veld
