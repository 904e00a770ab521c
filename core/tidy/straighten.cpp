#include "core/tidy/straighten.h"

#include <algorithm>
#include <cmath>

#include "core/base/number_text.h"
#include "core/linalg/fit_similarity.h"
#include "core/mesh/stand_in.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr double kHeadSliceMm = 230;  // crown to chin

// Points and normals spread evenly over the surface, always the same for the same mesh.
struct Samples {
    Points points, normals;
};
Samples sample(const Points& positions, const std::vector<Triangle>& triangles, std::size_t wanted) {
    std::vector<double> sum;
    double total = 0;
    for (const Triangle& t : triangles) {
        total += (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]).norm();
        sum.push_back(total);
    }
    Samples out;
    for (std::size_t i = 0; i < wanted && total > 0; ++i) {
        const auto at = static_cast<std::size_t>(
            std::lower_bound(sum.begin(), sum.end(),
                             total * (static_cast<double>(i) + 0.5) / static_cast<double>(wanted)) -
            sum.begin());
        const Triangle& t = triangles[std::min(at, triangles.size() - 1)];
        out.points.push_back((positions[t[0]] + positions[t[1]] + positions[t[2]]) / 3);
        out.normals.push_back(
            (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]).normalized());
    }
    return out;
}

Vec3 head_middle(const Points& points) {
    double top = -1e300;
    for (const Vec3& p : points) top = std::max(top, p.y());
    Vec3 sum = Vec3::Zero();
    int n = 0;
    for (const Vec3& p : points) {
        if (p.y() > top - kHeadSliceMm) sum += p, ++n;
    }
    return sum / std::max(n, 1);
}

struct Attempt {
    Similarity motion;     // rough frame -> kit frame; scale near 1 takes up another size
    double score = 1e300;  // median distance of the nearer 70 %
    VertexMask matched;
};

class Registration {
 public:
    // lowest: what of the kit is looked at, for a head alone
    Registration(const BaseKit& kit, Samples coarse, Samples fine, double lowest = -1e9)
        : coarse_(std::move(coarse)), fine_(std::move(fine)) {
        // the skin only: sockets and teeth would pull
        const KitPart& skin = kit.parts.front();
        for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t) {
            const Index f = kit.triangulation.triangle_face[t];
            const bool above = kit.mesh.positions[kit.triangulation.triangles[t][0]].y() >= lowest;
            if (above && skin.has_face(f)) triangles_.push_back(kit.triangulation.triangles[t]);
        }
        positions_ = kit.mesh.positions;
        query_ = std::make_unique<SurfaceQuery>(positions_, triangles_);
        head_ = head_middle(sample(positions_, triangles_, 6000).points);
    }

    Attempt start(const Mat3& attitude) const {
        Attempt out;
        out.motion.rotation = attitude;
        Points turned;
        for (const Vec3& p : coarse_.points) turned.push_back(attitude * p);
        out.motion.translation = head_ - head_middle(turned);
        return out;
    }
    void run(Attempt& a, bool fine, int rounds, double reach_from, double reach_to) const {
        const Samples& s = fine ? fine_ : coarse_;
        for (int i = 0; i <= rounds; ++i) {
            const double reach =
                reach_from * std::pow(reach_to / reach_from, static_cast<double>(i) / std::max(rounds, 1));
            if (!step(a, s, reach, i == rounds)) return;
        }
    }

 private:
    bool step(Attempt& a, const Samples& s, double reach, bool last) const {
        struct Pair {
            double distance;
            std::size_t sample;
            Vec3 target;
        };
        std::vector<Pair> pairs;
        for (std::size_t i = 0; i < s.points.size(); ++i) {
            const Vec3 p = a.motion(s.points[i]);
            const FacingFilter facing{a.motion.rotation * s.normals[i], 0.4};
            const SurfaceHit hit = query_->closest(p, 4 * reach, &facing);
            pairs.push_back({hit ? hit.distance : 4 * reach, i, hit ? hit.position : p});
        }
        std::sort(pairs.begin(), pairs.end(), [](const Pair& x, const Pair& y) {
            return x.distance != y.distance ? x.distance < y.distance : x.sample < y.sample;
        });
        pairs.resize(pairs.size() * 7 / 10);
        a.score = pairs[pairs.size() / 2].distance;
        a.matched.assign(s.points.size(), 0);
        if (last) {
            for (const Pair& p : pairs) a.matched[p.sample] = p.distance < 12;
            return true;
        }
        Points from, to;
        for (const Pair& p : pairs) {
            if (p.distance < reach) from.push_back(s.points[p.sample]), to.push_back(p.target);
        }
        if (from.size() < 30) return false;
        SimilarityOptions options;
        options.outlier_mm = 0;
        auto next = fit_similarity(from, to, options);
        if (!next) return false;
        if (next->scale < 0.85 || next->scale > 1.18) {
            options.allow_scale = false;
            const double scale = std::clamp(next->scale, 0.85, 1.18);
            for (Vec3& p : from) p *= scale;
            next = fit_similarity(from, to, options);
            if (!next) return false;
            next->scale = scale;
        }
        a.motion = *next;
        return true;
    }

    Samples coarse_, fine_;
    Points positions_;
    std::vector<Triangle> triangles_;
    std::unique_ptr<SurfaceQuery> query_;
    Vec3 head_;
};

std::vector<Mat3> attitudes() {
    std::vector<Mat3> out;
    // as it stands first: of equals the earliest wins
    for (UpAxis up : {UpAxis::PlusY, UpAxis::PlusZ, UpAxis::MinusZ, UpAxis::PlusX, UpAxis::MinusX, UpAxis::MinusY}) {
        for (int quarter = 0; quarter < 4; ++quarter)
            out.push_back(Eigen::AngleAxisd(quarter * M_PI / 2, Vec3::UnitY()).toRotationMatrix() *
                          rotation_to_y_up(up));
    }
    return out;
}

// The small motion that lays the head's mirror plane on x = 0: ICP between the head and its own mirror
// image, point to plane [after Podolak et al. 2006; Chen & Medioni 1992]. A turn w about y and z and a
// step t along x move a mirrored point q by -2 (w x q + t), so three unknowns are solved for.
Similarity onto_mirror_plane(const Points& positions, const std::vector<Triangle>& triangles, const Points& samples) {
    const SurfaceQuery query(positions, triangles);
    const Points& normals = query.triangle_normals();
    Similarity total;
    Vec3 middle = Vec3::Zero();
    for (const Vec3& p : samples) middle += p / static_cast<double>(std::max<std::size_t>(samples.size(), 1));
    for (int round = 0; round < 25; ++round) {
        const Similarity back = total.inverse();
        struct Row {
            Vec3 factors;
            double off;
        };
        std::vector<Row> rows;
        std::vector<double> sizes;
        for (const Vec3& s : samples) {
            const Vec3 p = total(s), q(-p.x(), p.y(), p.z());
            const SurfaceHit hit = query.closest(back(q), 20);
            if (!hit) continue;
            const Vec3 n = total.rotation * normals[hit.triangle], arm = q - Vec3(0, middle.y(), middle.z());
            rows.push_back({2 * Vec3(arm.cross(n).y(), arm.cross(n).z(), n.x()), n.dot(q - total(hit.position))});
            sizes.push_back(std::abs(rows.back().off));
        }
        if (rows.size() < 60) return total;
        std::nth_element(sizes.begin(), sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2), sizes.end());
        const double usual = std::max(sizes[sizes.size() / 2], 0.05);
        Mat3 a = Mat3::Identity() * 1e-9;
        Vec3 b = Vec3::Zero();
        for (const Row& r : rows) {
            const double t = r.off / (2 * usual), w = 1 / ((1 + t * t) * (1 + t * t));  // Geman-McClure
            a += w * r.factors * r.factors.transpose();
            b += w * r.off * r.factors;
        }
        const Vec3 x = a.ldlt().solve(b);
        Similarity step;
        const Vec3 turn(0, x[0], x[1]);
        if (turn.norm() > 0) step.rotation = Eigen::AngleAxisd(turn.norm(), turn.normalized()).toRotationMatrix();
        const Vec3 about(0, middle.y(), middle.z());
        step.translation = about - step.rotation * about + Vec3(x[2], 0, 0);
        total = step * total;
        if (turn.norm() < 1e-6 && std::abs(x[2]) < 1e-4) break;
    }
    return total;
}

Error not_recognised(const char* how) {
    return {ErrorCode::DegenerateInput, std::string("No head or figure was recognised") + how};
}

Result<Attempt> best_attitude(const Registration& registration, bool figure, const Progress& progress) {
    std::vector<Attempt> attempts;
    const std::vector<Mat3> starts = attitudes();
    for (const Mat3& attitude : starts) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Stopped; nothing was changed."};
        progress.say(0.6 * static_cast<double>(attempts.size()) / static_cast<double>(starts.size()),
                     "Trying attitudes");
        attempts.push_back(registration.start(attitude));
        registration.run(attempts.back(), false, 14, 160, 30);
    }
    std::stable_sort(attempts.begin(), attempts.end(),
                     [](const Attempt& a, const Attempt& b) { return a.score < b.score; });
    attempts.resize(4);
    for (Attempt& a : attempts) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Stopped; nothing was changed."};
        progress.say(0.7, "Refining");
        registration.run(a, true, 25, 60, 12);
    }
    std::stable_sort(attempts.begin(), attempts.end(),
                     [](const Attempt& a, const Attempt& b) { return a.score < b.score; });
    const Attempt& best = attempts.front();
    // a heavy-set figure with its arms down lies further off than any head
    if (!(best.score < (figure ? 45 : 20)))
        return not_recognised(". Check the unit, cut away what is not the subject, or pick both eyes and the nose.");
    // a ball or a box lies against the base as well one way as another: that is no recognition
    for (const Attempt& other : attempts) {
        const double apart = Eigen::AngleAxisd(other.motion.rotation * best.motion.rotation.transpose()).angle();
        if (apart > 0.7 && other.score < 1.08 * best.score)
            return not_recognised(" for sure: it lies as well one way as another. Pick both eyes and the nose.");
    }
    return attempts.front();
}

// A bust stands by its head: the neck may be turned against the shoulders. points: all samples; those of
// the head afterwards, when there are enough.
void stand_by_head(const BaseKit& kit, const Points& normals, Attempt& best, Points& points) {
    const auto chin = kit.landmarks.find("gnathion");
    const double lowest = chin != kit.landmarks.end() ? chin->second.at(kit.mesh.positions).y() - 15
                                                      : bounding_box(kit.mesh.positions).high.y() - kHeadSliceMm;
    Samples head;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (best.matched[i] && best.motion(points[i]).y() > lowest)
            head.points.push_back(points[i]), head.normals.push_back(normals[i]);
    }
    if (head.points.size() <= 100) return;
    points = head.points;
    const Registration head_only(kit, head, head, lowest - 20);
    head_only.run(best, true, 30, 30, 8);
}

}  // namespace

Result<Straightened> straighten(const Mesh& mesh, const BaseKit& kit, const Similarity& rough,
                                const Progress& progress) {
    progress.say(0, "Straightening");
    Points positions;
    positions.reserve(mesh.positions.size());
    for (const Vec3& p : mesh.positions) positions.push_back(rough(p));
    const std::vector<Triangle> triangles = stand_in_triangles(positions, triangulate(mesh).triangles, 120000);
    Samples coarse = sample(positions, triangles, 500), fine = sample(positions, triangles, 3000);
    if (coarse.points.empty()) return Error{ErrorCode::DegenerateInput, "The mesh has no surface to straighten."};
    Points fine_points = fine.points;
    const Points fine_normals = fine.normals;
    const bool whole = is_figure(positions, 1);
    const Registration registration(kit, std::move(coarse), std::move(fine));
    auto found = best_attitude(registration, whole, progress);
    if (!found) return found.error();
    Attempt& best = *found;
    if (!whole) stand_by_head(kit, fine_normals, best, fine_points);
    // the subject keeps its size: rotation from the match, place by the middle of what matched
    Vec3 middle = Vec3::Zero(), target = Vec3::Zero();
    double n = 0;
    Points head;
    for (std::size_t i = 0; i < fine_points.size(); ++i) {
        if (!best.matched[i]) continue;
        middle += fine_points[i], target += best.motion(fine_points[i]), n += 1;
    }
    if (n < 30) return not_recognised(". Check the unit, or pick both eyes and the nose.");
    Similarity place{1, best.motion.rotation, Vec3::Zero()};
    place.translation = target / n - place.rotation * (middle / n);
    const double crown = bounding_box(kit.mesh.positions).high.y();
    for (std::size_t i = 0; i < fine_points.size(); ++i) {
        if (best.matched[i] && place(fine_points[i]).y() > crown - 1.3 * kHeadSliceMm)
            head.push_back(place(fine_points[i]));
    }
    Points placed;
    placed.reserve(positions.size());
    for (const Vec3& p : positions) placed.push_back(place(p));
    progress.say(0.85, "Finding the mirror plane");
    const Similarity even = onto_mirror_plane(placed, triangles, head);
    Straightened out;
    // a lopsided source (hair, a shadow side of noise) must not turn a good match by much
    const bool believable = Eigen::AngleAxisd(even.rotation).angle() < 12 * M_PI / 180;
    out.to_upright = (believable ? even * place : place) * rough;
    Box box;
    for (const Vec3& p : positions) box.add((out.to_upright * rough.inverse())(p));
    const bool figure = whole;
    if (figure) out.to_upright.translation.y() -= box.low.y();
    out.fit_mm = best.score;
    const double turn = Eigen::AngleAxisd(out.to_upright.rotation * rough.rotation.transpose()).angle() * 180 / M_PI;
    out.said = std::string(figure ? "A figure" : "A head") + " was recognised (half of it within " +
               number_text(best.score, 2) + " mm of the base) and turned by " + number_text(turn) + " degrees.";
    return out;
}

Result<Similarity> straighten_by_face(const BaseKit& kit, const Similarity& now, const std::array<Vec3, 3>& picked) {
    const auto at = [&](const char* name) { return kit.landmarks.at(name).at(kit.mesh.positions); };
    for (const char* name : {"exocanthion_r", "exocanthion_l", "endocanthion_r", "endocanthion_l", "pronasale"}) {
        if (!kit.landmarks.contains(name))
            return Error{ErrorCode::BadInput, std::string("The base kit has no landmark '") + name +
                                                  "', so a face cannot be straightened by points."};
    }
    const Points to{0.5 * (at("exocanthion_r") + at("endocanthion_r")),
                    0.5 * (at("exocanthion_l") + at("endocanthion_l")), at("pronasale")};
    // the triangle's own frame, so that another size of face turns nothing
    const auto frame = [](const Vec3& right, const Vec3& left, const Vec3& nose, Mat3& out) {
        const Vec3 x = left - right, down = nose - 0.5 * (right + left);
        const Vec3 n = x.cross(-down);
        if (n.norm() < 1e-3 * x.norm() * down.norm() || x.norm() == 0) return false;
        out.col(0) = x.normalized();
        out.col(2) = n.normalized();
        out.col(1) = out.col(2).cross(out.col(0));
        return true;
    };
    Mat3 mine, base;
    if (!frame(now(picked[0]), now(picked[1]), now(picked[2]), mine))
        return Error{
            ErrorCode::DegenerateInput,
            "The three points lie on one line or on one place. Pick the right eye, the left eye and the nose tip."};
    if (!frame(to[0], to[1], to[2], base))
        return Error{ErrorCode::BadInput, "The base kit's eyes and nose lie on one line."};
    Similarity turn;
    turn.rotation = base * mine.transpose();
    const Vec3 eyes = 0.5 * (now(picked[0]) + now(picked[1]));
    turn.translation = 0.5 * (to[0] + to[1]) - turn.rotation * eyes;
    return turn * now;
}

}  // namespace veld
