#include "core/shape/shape_space.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/kit/lips.h"
#include "core/linalg/surface_energy.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

// Lengths of the deformations that are looked for, and how far each moves a face: what is left at the end of
// made and measured heads is of all lengths, the longer the larger.
struct Length {
    double lambda, share;
};
constexpr Length kLengths[] = {{55, 1.0}, {26, 0.55}, {12, 0.28}, {6, 0.12}};
constexpr int kControls = 300;
constexpr double kKnownLeaves = 0.5;  // of the smooth deformations' size, where heads are known

// Spread over the head, closer where landmarks and guide curves are; with every vertex its mirrored one.
std::vector<Index> control_vertices(const BaseKit& kit, const std::vector<Index>& slot,
                                    const std::vector<Index>& vertices) {
    const Points& x = kit.mesh.positions;
    std::set<Index> selected;
    const auto add = [&](Index v) {
        const Index m = kit.mirror.empty() ? v : kit.mirror[v];
        if (slot[v] != kNone && slot[m] != kNone) selected.insert(v), selected.insert(m);
    };
    const auto nearest_corner = [](const SurfacePoint& p) {
        return p.vertices[static_cast<std::size_t>(std::max_element(p.weights.begin(), p.weights.end()) -
                                                   p.weights.begin())];
    };
    for (const auto& [name, place] : kit.landmarks) add(nearest_corner(place));
    for (const auto& [name, curve] : kit.curves) {
        if (name == kInnerLips[0] || name == kInnerLips[1]) continue;  // on the base they are the mouth line
        for (std::size_t i = 0; i < curve.size(); i += 2) add(nearest_corner(curve[i]));
    }
    // farthest first [Gonzalez 1985]
    std::vector<double> far(vertices.size(), 1e300);
    const auto reached = [&](Index c) {
        for (std::size_t i = 0; i < vertices.size(); ++i)
            far[i] = std::min(far[i], (x[vertices[i]] - x[c]).squaredNorm());
    };
    if (selected.empty() && !vertices.empty()) add(vertices.front());
    for (const Index c : selected) reached(c);
    while (selected.size() < std::min<std::size_t>(kControls, vertices.size())) {
        const Index v = vertices[static_cast<std::size_t>(std::max_element(far.begin(), far.end()) - far.begin())];
        const std::size_t before = selected.size();
        add(v);
        reached(v);
        if (!kit.mirror.empty()) reached(kit.mirror[v]);
        if (selected.size() == before &&
            far[static_cast<std::size_t>(std::max_element(far.begin(), far.end()) - far.begin())] <= 0)
            break;
    }
    return {selected.begin(), selected.end()};
}

// Columns of the covariance at the control vertices, all lengths together; unit variance on the middle.
MatrixXd smooth_covariance(const BaseKit& kit, const VertexMask& active, const std::vector<Index>& slot,
                           std::size_t count, const std::vector<Index>& controls) {
    SurfaceEnergy energy(make_stencil(kit.mesh, skin_faces(kit), active), kit.mesh.positions, {});
    energy.set_stiffness(std::vector<double>(kit.mesh.positions.size(), 1.0));
    const SurfaceStencil& s = energy.stencil();
    MatrixXd out = MatrixXd::Zero(static_cast<Eigen::Index>(count), static_cast<Eigen::Index>(controls.size()));
    for (const Length& length : kLengths) {
        Points rhs(s.vertex.size(), Vec3::Zero());
        energy.assemble(length.lambda, 0.15 * length.lambda, kit.mesh.positions, rhs);
        for (std::size_t u = 0; u < s.vertex.size(); ++u)
            energy.solver().values()[energy.solver().slot(static_cast<Index>(u), static_cast<Index>(u))] +=
                s.vertex_area[s.vertex[u]];
        if (!energy.solver().factor()) continue;
        MatrixXd part = MatrixXd::Zero(out.rows(), out.cols());
        std::vector<double> own;
        for (std::size_t c = 0; c < controls.size(); c += 3) {
            Points one(s.vertex.size(), Vec3::Zero());
            for (std::size_t k = 0; k < 3 && c + k < controls.size(); ++k)
                one[s.unknown[controls[c + k]]][static_cast<Eigen::Index>(k)] = 1;
            const Points x = energy.solver().solve(one);
            for (std::size_t u = 0; u < x.size(); ++u) {
                for (std::size_t k = 0; k < 3 && c + k < controls.size(); ++k)
                    part(slot[s.vertex[u]], static_cast<Eigen::Index>(c + k)) = x[u][static_cast<Eigen::Index>(k)];
            }
        }
        for (std::size_t c = 0; c < controls.size(); ++c)
            own.push_back(part(slot[controls[c]], static_cast<Eigen::Index>(c)));
        std::nth_element(own.begin(), own.begin() + static_cast<std::ptrdiff_t>(own.size() / 2), own.end());
        out += length.share * length.share / own[own.size() / 2] * part;
    }
    return out;
}

// Scalar modes that are alike on both sides (sign 1) or opposite (-1).
MatrixXd scalar_modes(const MatrixXd& covariance, const std::vector<Index>& controls, const std::vector<Index>& slot,
                      const std::vector<Index>& mirror, double sign, int most) {
    const auto n = static_cast<Eigen::Index>(controls.size());
    std::map<Index, Eigen::Index> column;
    for (Eigen::Index c = 0; c < n; ++c) column[controls[static_cast<std::size_t>(c)]] = c;
    MatrixXd both = covariance;
    for (Eigen::Index c = 0; c < n; ++c) {
        const Index v = controls[static_cast<std::size_t>(c)], m = mirror.empty() ? v : mirror[v];
        both.col(c) = 0.5 * (covariance.col(c) + sign * covariance.col(column.at(m)));
    }
    MatrixXd small(n, n);
    for (Eigen::Index c = 0; c < n; ++c) small.row(c) = both.row(slot[controls[static_cast<std::size_t>(c)]]);
    const Eigen::SelfAdjointEigenSolver<MatrixXd> eigen(0.5 * (small + small.transpose()));
    const double largest = eigen.eigenvalues()[n - 1];
    int kept = 0;
    while (kept < most && kept < n && eigen.eigenvalues()[n - 1 - kept] > 1e-7 * largest) ++kept;
    MatrixXd out(both.rows(), kept);
    for (int k = 0; k < kept; ++k)
        out.col(k) = both * eigen.eigenvectors().col(n - 1 - k) / std::sqrt(eigen.eigenvalues()[n - 1 - k]);
    return out;
}

// One column for each head and its mirrored one.
Result<MatrixXd> known_heads(const BaseKit& kit, const ShapeSpace& space, const std::vector<Points>& heads,
                             const std::vector<double>& fade) {
    MatrixXd out = MatrixXd::Zero(space.mode.rows(), static_cast<Eigen::Index>(2 * heads.size()));
    for (std::size_t h = 0; h < heads.size(); ++h) {
        if (heads[h].size() != fade.size())
            return Error{ErrorCode::BadInput, "A known head has " + std::to_string(heads[h].size()) +
                                                  " vertices, the base has " + std::to_string(fade.size()) + "."};
        for (Index v = 0; v < fade.size(); ++v) {
            if (space.slot[v] == kNone || heads[h][v].isZero(0)) continue;
            const Vec3 d = fade[v] * heads[h][v];
            out.block<3, 1>(3 * space.slot[v], static_cast<Eigen::Index>(2 * h)) = d;
            const Index w = kit.mirror.empty() ? v : kit.mirror[v];
            if (space.slot[w] != kNone)
                out.block<3, 1>(3 * space.slot[w], static_cast<Eigen::Index>(2 * h + 1)) = Vec3(-d.x(), d.y(), d.z());
        }
    }
    return out;
}

// An eyeball goes where its lids go.
void add_eyes(const BaseKit& kit, ShapeSpace& space) {
    for (const KitEye& eye : kit.eyes) {
        const KitPart* part = kit.part(eye.part);
        if (!part) continue;
        Eigen::MatrixXf rows = Eigen::MatrixXf::Zero(3, space.mode.cols());
        int count = 0;
        for (const Index v : space.vertex) {
            if ((kit.mesh.positions[v] - eye.centre).norm() > 1.25 * eye.radius) continue;
            rows += space.mode.middleRows<3>(3 * space.slot[v]), ++count;
        }
        if (count == 0) continue;
        const auto at = static_cast<Index>(space.mode.rows() / 3);
        space.mode.conservativeResize(space.mode.rows() + 3, Eigen::NoChange);
        space.mode.bottomRows<3>() = rows / static_cast<float>(count);
        for (const Index v : part->vertices) space.slot[v] = at;
    }
}

}  // namespace

Eigen::Matrix<double, 3, Eigen::Dynamic> ShapeSpace::rows(Index v) const {
    if (slot[v] == kNone) return Eigen::Matrix<double, 3, Eigen::Dynamic>::Zero(3, mode.cols());
    return mode.middleRows<3>(3 * slot[v]).cast<double>();
}

Points ShapeSpace::shape(const Points& base, const VectorXd& z) const {
    const Eigen::VectorXf moved =
        mode.topLeftCorner(static_cast<Eigen::Index>(3 * vertex.size()), z.size()) * z.cast<float>();
    Points out = base;
    for (std::size_t i = 0; i < vertex.size(); ++i)
        out[vertex[i]] += moved.segment<3>(static_cast<Eigen::Index>(3 * i)).cast<double>();
    return out;
}

Result<ShapeSpace> make_shape_space(const BaseKit& kit, const std::vector<Points>& heads,
                                    const ShapeSpaceOptions& options) {
    ShapeSpace out;
    out.topology = kit.topology_key;
    const std::vector<double> fade = head_fade(kit, options.neck_band_mm);
    const VertexMask active = head_vertices(kit, fade);
    out.slot.assign(active.size(), kNone);
    for (Index v = 0; v < active.size(); ++v) {
        if (active[v]) out.slot[v] = static_cast<Index>(out.vertex.size()), out.vertex.push_back(v);
    }
    if (out.vertex.size() < 50)
        return Error{
            ErrorCode::BadInput,
            "The kit has no head region (head_skin above neck_ring); heads cannot be made from photographs with it."};
    const std::vector<Index> controls = control_vertices(kit, out.slot, out.vertex);
    const MatrixXd covariance = smooth_covariance(kit, active, out.slot, out.vertex.size(), controls);
    const MatrixXd even = scalar_modes(covariance, controls, out.slot, kit.mirror, 1, options.smooth_modes / 2);
    const MatrixXd odd =
        scalar_modes(covariance, controls, out.slot, kit.mirror, -1, options.smooth_modes - options.smooth_modes / 2);

    out.mode.resize(static_cast<Eigen::Index>(3 * out.vertex.size()), 0);
    MatrixXd known(out.mode.rows(), 0);
    if (!heads.empty()) {
        auto columns = known_heads(kit, out, heads, fade);
        if (!columns) return columns.error();
        // The differences are from the base and not from their mean: the base is one of them. Many rows and few
        // columns, so their principal directions come from the small matrix of inner products [Sirovich 1987, method
        // of snapshots]; what is below a hundredth of the largest is left out, long before squaring costs digits.
        *columns /= std::sqrt(static_cast<double>(columns->cols()));
        const Eigen::SelfAdjointEigenSolver<MatrixXd> eigen(columns->transpose() * *columns);
        const Eigen::Index n = columns->cols();
        Eigen::Index kept = 0;
        while (kept < options.known_modes && kept < n &&
               eigen.eigenvalues()[n - 1 - kept] > 1e-4 * eigen.eigenvalues()[n - 1])
            ++kept;
        known = *columns * eigen.eigenvectors().rightCols(kept).rowwise().reverse();
    }
    out.known = static_cast<int>(known.cols());
    const double size = options.smooth_mm * (out.known > 0 ? kKnownLeaves : 1.0);
    const double alike = size * std::sqrt(1 + options.mirror), apart = size * std::sqrt(1 - options.mirror);
    const Eigen::Index first = known.cols(), pair = even.cols() + odd.cols();
    out.mode.setZero(static_cast<Eigen::Index>(3 * out.vertex.size()), first + 3 * pair);
    out.mode.leftCols(first) = known.cast<float>();
    // softest first, whichever coordinate
    Eigen::Index at = first;
    for (Eigen::Index k = 0; k < std::max(even.cols(), odd.cols()); ++k) {
        for (int axis = 0; axis < 3; ++axis) {
            for (const bool of_even : {true, false}) {
                const MatrixXd& from = of_even ? even : odd;
                if (k >= from.cols()) continue;
                const double sd = of_even == (axis != 0) ? alike : apart;
                for (std::size_t i = 0; i < out.vertex.size(); ++i)
                    out.mode(static_cast<Eigen::Index>(3 * i) + axis, at) =
                        static_cast<float>(sd * from(static_cast<Eigen::Index>(i), k));
                ++at;
            }
        }
    }
    add_eyes(kit, out);
    return out;
}

VectorXd coefficients_of(const ShapeSpace& space, const Points& base, const Points& shape, double noise_mm) {
    const auto skin_rows = static_cast<Eigen::Index>(3 * space.vertex.size());
    VectorXd d(skin_rows);
    for (std::size_t i = 0; i < space.vertex.size(); ++i)
        d.segment<3>(static_cast<Eigen::Index>(3 * i)) = shape[space.vertex[i]] - base[space.vertex[i]];
    const MatrixXd m = space.mode.topRows(skin_rows).cast<double>();
    MatrixXd a = m.transpose() * m / (noise_mm * noise_mm);
    a.diagonal().array() += 1;
    return a.ldlt().solve(m.transpose() * d / (noise_mm * noise_mm));
}

}  // namespace veld
