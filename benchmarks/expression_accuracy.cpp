// The kit's expressions on other heads: how lids and lips meet, what crosses, how far from the truth where it is
// known, several at once, and how long that takes. Heads: made-up ones, whose own expressions are known, and shapes of
// the base as files.
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <random>
#include <set>

#include "core/base/stopwatch.h"
#include "core/fit/meeting.h"
#include "core/io/mesh_file.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/proof/carry_expression.h"
#include "core/proof/eye_ball.h"
#include "core/proof/face.h"
#include "core/spatial/self_intersections.h"
#include "demo/standins/made_up_person.h"

using namespace veld;

namespace {

constexpr unsigned kFirstSeed = 5001;
constexpr double kAmounts[] = {0.25, 0.5, 0.75, 1};

struct Head {
    std::string name;
    Points rest;
    std::map<std::string, Points> own;  // expressions that are known
};

struct Sums {
    std::size_t bad = 0, plain_bad = 0, looked = 0, cuts = 0, plain_cuts = 0;
    double gap = 0, plain_gap = 0, near = 1e9;
    std::vector<double> share;  // of the plain morph's distance to the truth
};

class Looker {
 public:
    Looker(const BaseKit& kit, const Points& rest) : kit_(kit) {
        for (const auto& pair : self_intersections(rest, skin_triangles(kit))) own_.insert(pair);
    }
    // Pairs of skin that cut and do not at rest.
    std::size_t cuts(const Points& x) const {
        std::size_t out = 0;
        for (const auto& pair : self_intersections(x, skin_triangles(kit_))) out += !own_.contains(pair);
        return out;
    }

 private:
    const BaseKit& kit_;
    std::set<std::pair<Index, Index>> own_;
};

double off_by(const BaseKit& kit, const Points& shape, const Points& truth, const Points& rest) {
    double sum = 0;
    std::size_t moved = 0;
    for (const Index v : kit.part("skin")->vertices)
        if ((truth[v] - rest[v]).norm() > 0.1) sum += (shape[v] - truth[v]).norm(), ++moved;
    return moved ? sum / static_cast<double>(moved) : 0;
}

// How far outside its ball the edges of shut lids lie, at least.
double edges_outside(const BaseKit& kit, const Points& shape) {
    double out = 1e9;
    for (const KitEye& eye : kit.eyes) {
        const EyeBall ball(kit, eye, shape);
        for (const Meeting& m : meetings_of(kit, kit.expressions.at("blink")))
            for (const Index v : {m.a, m.b})
                if (ball.near(shape[v])) out = std::min(out, ball.outside(shape[v]));
    }
    return out;
}

void look_at_each(const BaseKit& kit, const Head& head, const Face& face, const Looker& looker, Sums& out) {
    for (const auto& [name, full] : kit.expressions) {
        for (const double amount : kAmounts) {
            const Points shape = face({{name, amount}}), plain = plain_expression(kit, head.rest, name, amount);
            const std::size_t cuts = looker.cuts(shape), plain_cuts = looker.cuts(plain);
            ++out.looked, out.bad += cuts > 0, out.plain_bad += plain_cuts > 0;
            out.cuts += cuts, out.plain_cuts += plain_cuts;
            if (cuts) std::printf("    %s %.2f: %zu cuts (plain %zu)\n", name.c_str(), amount, cuts, plain_cuts);
            if (amount < 1) continue;
            const ContactFigures now = contact_figures(kit, shape, name), before = contact_figures(kit, plain, name);
            out.gap = std::max(out.gap, now.gap_mm), out.plain_gap = std::max(out.plain_gap, before.gap_mm);
            if (name == "blink") out.near = std::min(out.near, edges_outside(kit, shape));
            if (!head.own.contains(name)) continue;
            const double off = off_by(kit, shape, head.own.at(name), head.rest),
                         was = off_by(kit, plain, head.own.at(name), head.rest);
            if (was > 0.01) out.share.push_back(off / was);
        }
    }
}

void look_at_mixes(const BaseKit& kit, const Face& face, const Looker& looker, int mixes) {
    std::vector<std::string> names;
    for (const auto& [name, shape] : kit.expressions) names.push_back(name);
    std::mt19937 random(7);
    std::size_t bad = 0, sum_bad = 0;
    double seconds = 0, worst = 0;
    for (int m = 0; m < mixes; ++m) {
        std::vector<ExpressionAmount> mix;
        const std::size_t many = 2 + random() % 3;
        for (std::size_t i = 0; i < many; ++i)
            mix.push_back({names[random() % names.size()], static_cast<double>(1 + random() % 100) / 100});
        Stopwatch watch;
        const Points shape = face(mix);
        const double took = watch.lap();
        seconds += took, worst = std::max(worst, took);
        bad += looker.cuts(shape) > 0, sum_bad += looker.cuts(face.sum(mix)) > 0;
    }
    if (mixes)
        std::printf("  %d mixes: %zu with cuts (added up alone %zu); %.0f ms each, worst %.0f\n", mixes, bad, sum_bad,
                    1000 * seconds / mixes, 1000 * worst);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2)
        return std::fprintf(stderr, "usage: expression_accuracy KIT [--heads N] [--mixes N] [SHAPE.obj ...]\n"), 2;
    const auto kit = read_base_kit(argv[1]);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    int heads = 20, mixes = 10;
    std::vector<Head> all;
    for (int i = 2; i < argc; ++i) {
        if (!std::strcmp(argv[i], "--heads") && i + 1 < argc) {
            heads = std::atoi(argv[++i]);
        } else if (!std::strcmp(argv[i], "--mixes") && i + 1 < argc) {
            mixes = std::atoi(argv[++i]);
        } else if (const auto mesh = read_mesh(argv[i]);
                   mesh && mesh->mesh.positions.size() == kit->mesh.positions.size()) {
            all.push_back({argv[i], mesh->mesh.positions, {}});
        } else {
            return std::fprintf(stderr, "%s is no shape of this base\n", argv[i]), 1;
        }
    }
    for (int i = 0; i < heads; ++i) {
        SubjectOptions options;
        options.seed = kFirstSeed + static_cast<unsigned>(i);
        Head head{"made up " + std::to_string(options.seed), worn_by(*kit, options, kit->mesh.positions), {}};
        for (const auto& [name, shape] : kit->expressions) head.own[name] = worn_by(*kit, options, shape);
        all.push_back(std::move(head));
    }
    if (kit->expressions.contains("blink"))
        std::printf("the base's own: edges of shut lids outside the ball %.2f mm\n",
                    edges_outside(*kit, kit->expressions.at("blink")));
    Sums total;
    for (const Head& head : all) {
        Stopwatch watch;
        const auto face = Face::make(*kit, head.rest, {});
        if (!face) return std::fprintf(stderr, "%s\n", face.error().message.c_str()), 1;
        std::printf("%s: carried in %.2f s\n", head.name.c_str(), watch.lap());
        const Looker looker(*kit, head.rest);
        Sums sums;
        look_at_each(*kit, head, *face, looker, sums);
        std::printf(
            "  %zu of %zu with cuts (plain %zu), %zu cuts (%zu); widest gap %.2f mm (%.2f); edges of shut lids "
            "outside the ball "
            "%.2f mm",
            sums.bad, sums.looked, sums.plain_bad, sums.cuts, sums.plain_cuts, sums.gap, sums.plain_gap, sums.near);
        if (!sums.share.empty()) std::printf("; of the plain's distance to the truth %.2f", median(sums.share));
        std::printf("\n");
        look_at_mixes(*kit, *face, looker, mixes);
        total.bad += sums.bad, total.plain_bad += sums.plain_bad, total.looked += sums.looked, total.cuts += sums.cuts;
        total.gap = std::max(total.gap, sums.gap), total.plain_cuts += sums.plain_cuts;
        total.share.insert(total.share.end(), sums.share.begin(), sums.share.end());
    }
    std::printf("all: %zu of %zu with cuts (plain %zu), %zu cuts (%zu), widest gap %.2f mm", total.bad, total.looked,
                total.plain_bad, total.cuts, total.plain_cuts, total.gap);
    if (!total.share.empty()) std::printf(", of the plain's distance to the truth %.2f", median(total.share));
    std::printf("\n");
    return 0;
}
