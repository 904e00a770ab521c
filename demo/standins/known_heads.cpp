// Makes a kit's known_heads.bin: how heads differ, from two kinds of made-up people. Variations of the kit's own head
// by themselves would know nothing that the kit does not; heads that share nothing with it are fitted by their true
// landmarks.
#include <CLI/CLI.hpp>
#include <Eigen/Eigenvalues>
#include <cstdio>

#include "core/base/file.h"
#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"
#include "demo/standins/foreign/scan.h"
#include "demo/standins/sitting.h"

using namespace veld;
using Eigen::MatrixXd;
using Eigen::VectorXd;

namespace {

constexpr unsigned kFirstForeign = 501;  // apart from those that are tuned on and those that are measured
constexpr int kComponents = 48, kParts = 4;
constexpr Index kMostCuts = 8;
constexpr double kCellMm = 1.3, kBandMm = 55;

// Nothing worn, nothing open.
foreign::Form bare(unsigned seed) {
    foreign::Form form = foreign::make_form(seed);
    form.mouth = foreign::Mouth::Shut, form.lids = foreign::Lids::Open, form.cover = foreign::Cover::Bald;
    form.beard = form.glasses = form.collar = form.smile = false;
    form.jaw_open = 0, form.ear.missing = false;
    form.lid_up = std::max(form.lid_up, 0.8 * form.lid_down);  // those whose lids hung
    return form;
}

std::optional<Points> fitted_foreign(const BaseKit& kit, unsigned seed) {
    const foreign::Head head(bare(seed));
    foreign::ScanOptions options;
    options.cell_mm = kCellMm, options.any_frame = false;
    const foreign::Scan scan = foreign::make_scan(head, options);
    FitInput input;
    input.kit = &kit, input.source = &scan.mesh, input.unit = Unit::Millimetre;
    input.landmarks.points = scan.points;
    // not the lips: their borders meet in the corners on the base, and do not on these heads
    for (const auto& [name, line] : scan.curves) {
        if (name.find("lip") == std::string::npos) input.landmarks.curves[name] = line;
    }
    const auto fit = run_fit(input, {});
    if (!fit) return {};
    std::printf("  %u %s: median %.3f mm, flips %u, cuts %u\n", seed, foreign::kind_name(head.form().kind),
                fit->figures.surface.median, fit->figures.flipped_faces, fit->figures.self_intersections);
    if (fit->figures.surface.p95 > 3 || fit->figures.flipped_faces > 0 || fit->figures.self_intersections > kMostCuts)
        return {};
    return fit->positions;
}

// Principal components by the small matrix of inner products [Sirovich 1987]; scaled by their deviation.
MatrixXd components(const MatrixXd& heads, int most) {
    const double n = static_cast<double>(heads.cols());
    const Eigen::SelfAdjointEigenSolver<MatrixXd> eigen(heads.transpose() * heads / n);
    const auto kept = std::min<Eigen::Index>(most, heads.cols() - 1);
    MatrixXd out(heads.rows(), kept);
    for (Eigen::Index k = 0; k < kept; ++k)
        out.col(k) = heads * eigen.eigenvectors().col(heads.cols() - 1 - k) / std::sqrt(n);
    return out;
}

// What heads have beyond the components of the others: rms per vertex, each quarter against the other three.
std::vector<float> beyond(const MatrixXd& heads) {
    std::vector<double> sum(static_cast<std::size_t>(heads.rows() / 3), 0);
    for (int part = 0; part < kParts; ++part) {
        std::vector<Eigen::Index> in, out;
        // a head and its mirrored one go together
        for (Eigen::Index h = 0; h < heads.cols(); ++h) (h / 2 % kParts == part ? out : in).push_back(h);
        const MatrixXd mode = components(heads(Eigen::all, in), kComponents);
        const MatrixXd small = mode.transpose() * mode + MatrixXd::Identity(mode.cols(), mode.cols());
        for (const Eigen::Index h : out) {
            const VectorXd left = heads.col(h) - mode * small.ldlt().solve(mode.transpose() * heads.col(h));
            for (std::size_t i = 0; i < sum.size(); ++i)
                sum[i] += left.segment<3>(static_cast<Eigen::Index>(3 * i)).squaredNorm();
        }
    }
    std::vector<float> rms;
    for (const double s : sum) rms.push_back(static_cast<float>(std::sqrt(s / static_cast<double>(heads.cols()))));
    return rms;
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app("Makes known_heads.bin of a kit from made-up heads.");
    std::string folder, out;
    int foreign = 48, own = 24;
    app.add_option("--kit", folder, "Folder of the base kit")->required();
    app.add_option("--out", out, "File to write")->required();
    app.add_option("--foreign", foreign, "How many heads that share nothing with the kit");
    app.add_option("--own", own, "How many variations of the kit's own head");
    CLI11_PARSE(app, argc, argv);
    auto kit = read_base_kit(folder);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    kit->known_heads = nullptr;
    std::vector<Points> heads;
    for (int i = 0; i < foreign; ++i) {
        if (auto shape = fitted_foreign(*kit, kFirstForeign + static_cast<unsigned>(i))) heads.push_back(*shape);
        std::fflush(stdout);
    }
    std::vector<Morph> made = made_up_heads(*kit, own);
    std::vector<const Morph*> morphs;
    for (const Morph& m : made) morphs.push_back(&m);
    const auto deltas = whole_deltas(*kit, morphs);
    if (!deltas) return std::fprintf(stderr, "%s\n", deltas.error().message.c_str()), 1;
    for (const Points& d : *deltas) {
        heads.push_back(kit->mesh.positions);
        for (std::size_t v = 0; v < d.size(); ++v) heads.back()[v] += d[v];
    }
    KnownHeads known;
    const std::vector<double> fade = head_fade(*kit, kBandMm);
    const VertexMask active = head_vertices(*kit, fade);
    std::vector<Index> slot(active.size(), kNone);
    for (Index v = 0; v < active.size(); ++v)
        if (active[v]) slot[v] = static_cast<Index>(known.vertex.size()), known.vertex.push_back(v);
    MatrixXd columns(static_cast<Eigen::Index>(3 * known.vertex.size()), static_cast<Eigen::Index>(2 * heads.size()));
    for (std::size_t h = 0; h < heads.size(); ++h) {
        for (const Index v : known.vertex) {
            const Vec3 d = heads[h][v] - kit->mesh.positions[v];
            const Index m = kit->mirror[v];
            columns.block<3, 1>(3 * slot[v], static_cast<Eigen::Index>(2 * h)) = d;
            if (slot[m] != kNone)
                columns.block<3, 1>(3 * slot[m], static_cast<Eigen::Index>(2 * h + 1)) = Vec3(-d.x(), d.y(), d.z());
        }
    }
    const VectorXd mean = columns.rowwise().mean();
    columns.colwise() -= mean;
    known.heads = static_cast<int>(heads.size());
    known.mean = mean.cast<float>().reshaped(3, static_cast<Eigen::Index>(known.vertex.size()));
    known.mode = components(columns, kComponents).cast<float>();
    known.beyond = beyond(columns);
    double sum = 0;
    for (const float b : known.beyond) sum += b / static_cast<double>(known.beyond.size());
    const std::string bytes = known_heads_bytes(known, kit->topology_key);
    if (auto ok = write_file(out, bytes); !ok) return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    std::printf("%d heads, %d components, %.2f mm beyond them on average, %.1f MB: %s\n", known.heads, known.count(),
                sum, static_cast<double>(bytes.size()) / 1e6, out.c_str());
    return 0;
}
