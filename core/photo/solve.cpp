#include "core/photo/solve.h"

#include <ceres/ceres.h>
#include <ceres/rotation.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <map>

namespace veld {
namespace {

using Eigen::VectorXd;
using Rows = Eigen::Matrix<double, 3, Eigen::Dynamic>;

// A camera as the solver moves it: a small turn on top of the one it started with, a shift, the focal
// length's logarithm, and the zero of its depths.
struct Block {
    double pose[6] = {0, 0, 0, 0, 0, 0};
    double log_focal = 0;
    double depth_zero = 0;
};

// Pixel or depth of x under pose (6), log focal (1), with derivatives by Ceres' dual numbers.
struct Projection {
    const PhotoCamera* camera;
    template <class T>
    void operator()(const T* pose, const T& log_focal, const T* x, T* pixel, T* depth) const {
        T turned[3], c[3];
        for (int i = 0; i < 3; ++i)
            turned[i] = T(camera->turn(i, 0)) * x[0] + T(camera->turn(i, 1)) * x[1] + T(camera->turn(i, 2)) * x[2];
        ceres::AngleAxisRotatePoint(pose, turned, c);
        for (int i = 0; i < 3; ++i) c[i] += pose[3 + i];
        const T f = ceres::exp(log_focal);
        const T scale = camera->parallel ? f : f / c[2];
        pixel[0] = T(camera->centre.x()) + scale * c[0];
        pixel[1] = T(camera->centre.y()) + scale * c[1];
        *depth = c[2];
    }
};

// Residual of one sight or depth. Parameters: pose, log focal, z; of a depth the zero as well.
class SeenCost : public ceres::CostFunction {
 public:
    SeenCost(const PhotoCamera& camera, const SurfacePoint& place, const SolveProblem& p, Eigen::Index modes)
        : projection_{&camera}, mean_(place.at(*p.base)), rows_(Rows::Zero(3, modes)) {
        for (std::size_t k = 0; k < 3; ++k) {
            if (place.weights[k] != 0 && modes > 0)
                rows_ += place.weights[k] * p.space->rows(place.vertices[k]).leftCols(modes);
        }
        mutable_parameter_block_sizes()->assign({6, 1});
        if (modes > 0) mutable_parameter_block_sizes()->push_back(static_cast<int>(modes));
    }
    void see(const Sight& sight) {
        pixel_ = sight.pixel, weight_ = 1 / sight.sigma, across_ = sight.across;
        set_num_residuals(across_ ? 1 : 2);
    }
    void sound(const DepthSight& depth) {
        depth_ = depth.depth_mm, weight_ = 1 / depth.sigma_mm, is_depth_ = true;
        mutable_parameter_block_sizes()->push_back(1);
        set_num_residuals(1);
    }

    bool Evaluate(double const* const* p, double* residual, double** jacobian) const override {
        using J = ceres::Jet<double, 10>;
        const Eigen::Index modes = rows_.cols();
        Vec3 x = mean_;
        if (modes > 0) x += rows_ * Eigen::Map<const VectorXd>(p[2], modes);
        J pose[6], place[3], pixel[2], depth;
        for (int i = 0; i < 6; ++i) pose[i] = J(p[0][i], i);
        const J focal(p[1][0], 6);
        for (int i = 0; i < 3; ++i) place[i] = J(x[i], 7 + i);
        projection_(pose, focal, place, pixel, &depth);
        if (!projection_.camera->parallel && !(depth.a > 1)) return false;  // behind the camera
        J out[2];
        int count = 2;
        const std::size_t zero = modes > 0 ? 3 : 2;
        if (is_depth_)
            out[0] = weight_ * (depth - J(p[zero][0]) - J(depth_)), count = 1;
        else if (across_)
            out[0] = weight_ * (across_->x() * (pixel[0] - J(pixel_.x())) + across_->y() * (pixel[1] - J(pixel_.y()))),
            count = 1;
        else
            out[0] = weight_ * (pixel[0] - J(pixel_.x())), out[1] = weight_ * (pixel[1] - J(pixel_.y()));
        for (int r = 0; r < count; ++r) {
            residual[r] = out[r].a;
            if (!jacobian) continue;
            if (jacobian[0]) std::copy_n(out[r].v.data(), 6, jacobian[0] + 6 * r);
            if (jacobian[1]) jacobian[1][r] = out[r].v[6];
            if (modes > 0 && jacobian[2])
                Eigen::Map<VectorXd>(jacobian[2] + modes * r, modes).noalias() =
                    rows_.transpose() * out[r].v.tail<3>();
            if (is_depth_ && jacobian[zero]) jacobian[zero][r] = -weight_;
        }
        return true;
    }

 private:
    Projection projection_;
    Vec3 mean_;
    Rows rows_;
    Vec2 pixel_ = Vec2::Zero();
    std::optional<Vec2> across_;
    double weight_ = 1, depth_ = 0;
    bool is_depth_ = false;
};

// weight * (value - expected), of a block of numbers
class PriorCost : public ceres::CostFunction {
 public:
    PriorCost(int size, double expected, double weight) : expected_(expected), weight_(weight) {
        set_num_residuals(size);
        mutable_parameter_block_sizes()->push_back(size);
    }
    bool Evaluate(double const* const* p, double* residual, double** jacobian) const override {
        const int n = num_residuals();
        for (int i = 0; i < n; ++i) residual[i] = weight_ * (p[0][i] - expected_);
        if (jacobian && jacobian[0]) {
            Eigen::Map<Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>> j(jacobian[0], n, n);
            j.setZero();
            j.diagonal().setConstant(weight_);
        }
        return true;
    }

 private:
    double expected_, weight_;
};

// (yaw - expected) / sigma, of a camera's pose; yaw as head_turn() has it
struct YawCost {
    Mat3 start;
    double expected, weight;  // radians
    template <class T>
    bool operator()(const T* pose, T* residual) const {
        // what looks along the camera's axis, backwards, in the head's frame
        T rotation[9], back[3];
        ceres::AngleAxisToRotationMatrix(pose, ceres::ColumnMajorAdapter3x3(rotation));
        for (int i = 0; i < 3; ++i) {
            back[i] = T(0);
            for (int k = 0; k < 3; ++k) back[i] -= rotation[3 * k + 2] * T(start(k, i));
        }
        const T c = T(std::cos(expected)), s = T(std::sin(expected));
        residual[0] = T(weight) * ceres::atan2(c * back[0] - s * back[2], s * back[0] + c * back[2]);
        return true;
    }
};

// (|a - b| - known) / sigma, of z
class SizeCost : public ceres::CostFunction {
 public:
    SizeCost(const KnownSize& size, const SolveProblem& p, Eigen::Index modes)
        : size_(size), between_(size.a.at(*p.base) - size.b.at(*p.base)), rows_(Rows::Zero(3, modes)) {
        for (std::size_t k = 0; k < 3; ++k) {
            rows_ += size.a.weights[k] * p.space->rows(size.a.vertices[k]).leftCols(modes);
            rows_ -= size.b.weights[k] * p.space->rows(size.b.vertices[k]).leftCols(modes);
        }
        set_num_residuals(1);
        mutable_parameter_block_sizes()->push_back(static_cast<int>(modes));
    }
    bool Evaluate(double const* const* p, double* residual, double** jacobian) const override {
        const Vec3 d = between_ + rows_ * Eigen::Map<const VectorXd>(p[0], rows_.cols());
        residual[0] = (d.norm() - size_.mm) / size_.sigma_mm;
        if (jacobian && jacobian[0])
            Eigen::Map<VectorXd>(jacobian[0], rows_.cols()) = rows_.transpose() * d.normalized() / size_.sigma_mm;
        return true;
    }

 private:
    KnownSize size_;
    Vec3 between_;
    Rows rows_;
};

class Stop : public ceres::IterationCallback {
 public:
    explicit Stop(const Progress& progress) : progress_(progress) {}
    ceres::CallbackReturnType operator()(const ceres::IterationSummary&) override {
        return progress_.is_cancelled() ? ceres::SOLVER_ABORT : ceres::SOLVER_CONTINUE;
    }

 private:
    const Progress& progress_;
};

PhotoCamera camera_of(const PhotoCamera& start, const Block& b, double log_focal) {
    PhotoCamera out = start;
    Mat3 r;
    ceres::AngleAxisToRotationMatrix(b.pose, ceres::ColumnMajorAdapter3x3(r.data()));
    out.turn = r * start.turn;
    out.move = Vec3(b.pose[3], b.pose[4], b.pose[5]);
    out.focal = std::exp(log_focal);
    return out;
}

}  // namespace

namespace {

// Per view the number whose focal length it shares; its own when it shares none. Of one lens for all, pictures of one
// size share: a typed focal length is then everybody's, but for a picture whose own typed one is another. A camera
// that stays as it is shares with nobody.
std::vector<std::size_t> shared_lens(const SolveProblem& p) {
    std::vector<std::size_t> out(p.views.size());
    std::map<std::pair<int, int>, std::size_t> lead;
    const auto size = [&](std::size_t i) {
        const PhotoCamera& c = p.views[i].camera;
        return std::pair(std::max(c.width, c.height), std::min(c.width, c.height));
    };
    const auto shares = [&](std::size_t i) { return p.one_lens && !p.views[i].camera.parallel && !p.views[i].fixed; };
    for (const bool typed : {true, false}) {  // who knows the lens leads
        for (std::size_t i = 0; i < out.size(); ++i) {
            if (p.views[i].focal_fixed != typed) continue;
            out[i] = shares(i) ? lead.try_emplace(size(i), i).first->second : i;
            if (typed && p.views[out[i]].camera.focal != p.views[i].camera.focal) out[i] = i;
        }
    }
    return out;
}

// The unknowns of one solve, where Ceres finds them.
struct Unknowns {
    std::vector<Block> block;    // per photograph
    std::vector<double*> focal;  // per photograph: its own, or the one that it shares
    VectorXd z;
};

// All that photograph i says: its landmarks, depths, and what is expected of its camera.
void add_photo(const SolveProblem& p, std::size_t i, bool focal_fixed, Unknowns& u, ceres::Problem& problem) {
    const SolveView& view = p.views[i];
    const Eigen::Index modes = p.z.size();
    Block& block = u.block[i];
    for (int k = 0; k < 3; ++k) block.pose[3 + k] = view.camera.move[k];
    const auto add = [&](SeenCost* cost, double loss, double* zero) {
        std::vector<double*> parameters{block.pose, u.focal[i]};
        if (modes > 0) parameters.push_back(u.z.data());
        if (zero) parameters.push_back(zero);
        problem.AddResidualBlock(cost, new ceres::CauchyLoss(loss), parameters);
    };
    for (const Sight& s : view.sights) {
        auto* cost = new SeenCost(view.camera, s.place, p, modes);
        cost->see(s);
        add(cost, 2.0, nullptr);
    }
    if (!view.depths.empty()) {
        const DepthSight& d = view.depths.front();
        block.depth_zero = view.camera.to_camera(d.place.at(*p.base)).z() - d.depth_mm;
    }
    for (const DepthSight& d : view.depths) {
        auto* cost = new SeenCost(view.camera, d.place, p, modes);
        cost->sound(d);
        add(cost, 2.0, &block.depth_zero);
    }
    if (!problem.HasParameterBlock(block.pose)) return;
    if (view.expected_focal > 0)
        problem.AddResidualBlock(new PriorCost(1, std::log(view.expected_focal), 1 / view.focal_sigma), nullptr,
                                 u.focal[i]);
    if (view.expected_yaw && !view.fixed)
        problem.AddResidualBlock(new ceres::AutoDiffCostFunction<YawCost, 1, 6>(new YawCost{
                                     view.camera.turn, *view.expected_yaw * M_PI / 180, 180 / M_PI / view.yaw_sigma}),
                                 nullptr, block.pose);
    if (view.fixed) problem.SetParameterBlockConstant(block.pose);
    if (view.fixed || focal_fixed) problem.SetParameterBlockConstant(u.focal[i]);
    if (view.camera.parallel && !view.fixed) problem.SetManifold(block.pose, new ceres::SubsetManifold(6, {5}));
}

ceres::Solver::Options solver_options(int iterations) {
    ceres::Solver::Options options;
    options.linear_solver_type = ceres::DENSE_NORMAL_CHOLESKY;
    options.dense_linear_algebra_library_type = ceres::LAPACK;
    options.max_num_iterations = iterations;
    options.function_tolerance = 1e-5;
    options.logging_type = ceres::SILENT;
    options.num_threads = 1;  // the same numbers on every machine
    return options;
}

}  // namespace

Result<Solved> solve_photos(const SolveProblem& p, const Progress& progress) {
    const std::size_t n = p.views.size();
    const Eigen::Index modes = p.z.size();
    Unknowns u{std::vector<Block>(n), std::vector<double*>(n), p.z};
    ceres::Problem problem;
    const std::vector<std::size_t> lens = shared_lens(p);
    for (std::size_t i = 0; i < n; ++i) u.block[i].log_focal = std::log(p.views[i].camera.focal);
    bool any = false;
    for (std::size_t i = 0; i < n; ++i) {
        u.focal[i] = &u.block[lens[i]].log_focal;
        add_photo(p, i, p.views[lens[i]].focal_fixed, u, problem);
        any |= p.views[i].sights.size() >= 3;
    }
    if (!any)
        return Error{ErrorCode::DegenerateInput,
                     "Too little is marked: every photograph needs at least three landmarks, and one of them more."};
    if (modes > 0) problem.AddResidualBlock(new PriorCost(static_cast<int>(modes), 0, p.prior), nullptr, u.z.data());
    for (const KnownSize& size : p.sizes) {
        if (modes > 0) problem.AddResidualBlock(new SizeCost(size, p, modes), nullptr, u.z.data());
    }
    Stop stop(progress);
    ceres::Solver::Options options = solver_options(p.iterations);
    options.callbacks.push_back(&stop);
    ceres::Solver::Summary summary;
    ceres::Solve(options, &problem, &summary);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
    if (!summary.IsSolutionUsable())
        return Error{ErrorCode::DegenerateInput,
                     "No cameras explain these landmarks. Look for exchanged or far misplaced ones."};
    Solved out;
    for (std::size_t i = 0; i < n; ++i) out.cameras.push_back(camera_of(p.views[i].camera, u.block[i], *u.focal[i]));
    out.z = u.z, out.cost = summary.final_cost, out.iterations = static_cast<int>(summary.iterations.size());
    return out;
}

Result<PhotoCamera> place_camera(const PhotoCamera& like, const std::vector<Sight>& sights, const Points& shape) {
    const Error few{
        ErrorCode::DegenerateInput,
        "A photograph needs at least four landmarks that do not lie on a line to know where its camera stood."};
    if (sights.size() < 4) return few;
    Vec3 m3 = Vec3::Zero();
    Vec2 m2 = Vec2::Zero();
    double total = 0;
    for (const Sight& s : sights) {
        const double w = 1 / (s.sigma * s.sigma);
        m3 += w * s.place.at(shape), m2 += w * s.pixel, total += w;
    }
    m3 /= total, m2 /= total;
    Mat3 a = Mat3::Zero();
    Eigen::Matrix<double, 2, 3> b = Eigen::Matrix<double, 2, 3>::Zero();
    for (const Sight& s : sights) {
        const Vec3 x = s.place.at(shape) - m3;
        a += x * x.transpose(), b += (s.pixel - m2) * x.transpose();
    }
    const Eigen::SelfAdjointEigenSolver<Mat3> spread(a);
    if (spread.eigenvalues()[1] < 1e-4 * spread.eigenvalues()[2] || spread.eigenvalues()[2] <= 0) return few;
    // a flat set of points says nothing across itself: a small ridge keeps the map sensible there
    a += 0.02 * spread.eigenvalues()[2] * Mat3::Identity();
    const Eigen::Matrix<double, 2, 3> rows = b * a.inverse();
    const double scale = std::max(rows.row(0).norm(), rows.row(1).norm());
    if (!(scale > 0)) return few;
    Mat3 r;
    r.row(0) = rows.row(0) / scale, r.row(1) = rows.row(1) / scale;
    r.row(2) = r.row(0).cross(r.row(1));
    const Eigen::JacobiSVD<Mat3> svd(r, Eigen::ComputeFullU | Eigen::ComputeFullV);
    PhotoCamera out = like;
    out.turn = svd.matrixU() * Vec3(1, 1, (svd.matrixU() * svd.matrixV().transpose()).determinant()).asDiagonal() *
               svd.matrixV().transpose();
    const double depth = like.parallel ? 1000 : like.focal / scale;
    if (like.parallel) out.focal = scale;
    const Vec2 at = (m2 - like.centre) / (like.parallel ? out.focal : scale);
    out.move = Vec3(at.x(), at.y(), depth) - out.turn * m3;
    SolveProblem alone;
    alone.base = &shape;
    alone.views.emplace_back();
    alone.views[0].camera = out, alone.views[0].sights = sights, alone.views[0].focal_fixed = !like.parallel;
    alone.iterations = 25;
    auto solved = solve_photos(alone, {});
    if (!solved) return solved.error();
    return solved->cameras.front();
}

}  // namespace veld
