#include "core/skin/join_borders.h"

#include <cmath>
#include <unordered_map>

#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr int kSweeps = 60;
constexpr double kEnough = 0.2 / 255;  // difference at which no place needs more
constexpr double kPlacesPerTexel = 1.5;

// Four texels and their shares: what a map shows at a place.
struct Sample {
    Index slot[4] = {};
    double share[4] = {};
    double length2 = 0;
    Index triangle = kNone;
    Mat3 frame = Mat3::Identity(), into_frame = Mat3::Identity();  // normals alone
};

struct Joint {
    Sample side[2];
    bool both = false;   // the second is in this tile too
    bool fixed = false;  // else: what the other tile shows there is known
    Vec3 other = Vec3::Zero();
    BorderMemory::Key key{};
};

class Joiner {
 public:
    Joiner(const BakeSurface& base, const UvTile& tile, int number, bool normals, MapImage& map, BorderMemory& memory)
        : base_(base), tile_(tile), number_(number), normals_(normals), map_(map), memory_(memory) {}

    void run() {
        find_joints();
        for (int sweep = 0; sweep < kSweeps; ++sweep) {
            double most = 0;
            for (const Joint& joint : joints_) most = std::max(most, normals_ ? meet_normals(joint) : meet(joint));
            if (most < kEnough) break;
        }
        for (const Joint& joint : joints_) {
            if (!joint.both) memory_.keep(joint.key, shown(joint.side[0]));
        }
        write_back();
    }

 private:
    Index slot(std::size_t texel) {
        const auto [at, fresh] = slots_.try_emplace(texel, static_cast<Index>(values_.size()));
        if (fresh) {
            Vec3 v = Vec3::Zero();
            for (int c = 0; c < map_.channels; ++c) {
                const std::size_t i = texel * static_cast<std::size_t>(map_.channels) + static_cast<std::size_t>(c);
                v[c] = map_.real.empty() ? map_.unit[i] / 65535.0 : map_.real[i];
            }
            values_.push_back(v);
        }
        return at->second;
    }

    // shares of a triangle at a place along one of its edges, counted from `from`
    static Vec3 on_edge(std::size_t edge, bool from_first, double along) {
        Vec3 out = Vec3::Zero();
        out[static_cast<Eigen::Index>(edge)] = from_first ? 1 - along : along;
        out[static_cast<Eigen::Index>((edge + 1) % 3)] = from_first ? along : 1 - along;
        return out;
    }

    Sample sample(Index t, const Vec3& shares) {
        Sample out;
        out.triangle = t;
        const Vec2 uv = shares[0] * base_.uv[t][0] + shares[1] * base_.uv[t][1] + shares[2] * base_.uv[t][2];
        const double x = (uv.x() - (tile_.number - 1001) % 10) * map_.width - 0.5,
                     y = (1 - uv.y() + (tile_.number - 1001) / 10) * map_.height - 0.5;
        const double i = std::floor(x), j = std::floor(y);
        for (int k = 0; k < 4; ++k) {
            const int c = std::clamp(static_cast<int>(i) + k % 2, 0, map_.width - 1),
                      r = std::clamp(static_cast<int>(j) + k / 2, 0, map_.height - 1);
            out.share[k] = (k % 2 ? x - i : 1 - x + i) * (k / 2 ? y - j : 1 - y + j);
            out.length2 += out.share[k] * out.share[k];
            out.slot[k] =
                slot(static_cast<std::size_t>(r) * static_cast<std::size_t>(map_.width) + static_cast<std::size_t>(c));
        }
        if (normals_) out.frame = base_.frame(t, shares), out.into_frame = out.frame.inverse();
        return out;
    }

    void find_joints() {
        std::vector<char> here(base_.triangles.size(), 0);
        for (const Index t : tile_.triangles) here[t] = 1;
        for (const Index t : tile_.triangles) {
            for (std::size_t k = 0; k < 3; ++k) {
                const Index mate = base_.mate[t][k];
                if (mate == kNone || continues(base_, t, k)) continue;
                const bool both = here[mate / 3] != 0;
                if (both && mate < 3 * t + k) continue;  // seen from the other side
                add_joints(t, k, mate, both);
            }
        }
    }

    void add_joints(Index t, std::size_t k, Index mate, bool both) {
        const Index a = base_.triangles[t][k], b = base_.triangles[t][(k + 1) % 3], other = mate / 3;
        const std::size_t edge = mate % 3;
        const double texels = map_.width * std::max((base_.uv[t][(k + 1) % 3] - base_.uv[t][k]).norm(),
                                                    (base_.uv[other][(edge + 1) % 3] - base_.uv[other][edge]).norm());
        const int places = std::clamp(static_cast<int>(std::ceil(kPlacesPerTexel * texels)), 1, 4096);
        const Index low = std::min(a, b), high = std::max(a, b);
        for (int p = 0; p < places; ++p) {
            const double along = (p + 0.5) / places;  // from the lower vertex
            Joint joint;
            joint.both = both, joint.key = {low, high, p, number_};
            joint.side[0] = sample(t, on_edge(k, a == low, along));
            if (both) {
                joint.side[1] = sample(other, on_edge(edge, base_.triangles[other][edge] == low, along));
            } else if (const Vec3* known = memory_.find(joint.key)) {
                joint.fixed = true, joint.other = *known;
            }
            joints_.push_back(joint);
        }
    }

    Vec3 value(const Sample& s) const {
        Vec3 out = Vec3::Zero();
        for (int k = 0; k < 4; ++k) out += s.share[k] * values_[s.slot[k]];
        return out;
    }
    // as the other side can compare it
    Vec3 shown(const Sample& s) const {
        const Vec3 v = value(s);
        return normals_ ? Vec3((s.frame * (2 * v - Vec3::Ones())).normalized()) : v;
    }
    void change(const Sample& s, const Vec3& by) {
        for (int k = 0; k < 4; ++k) values_[s.slot[k]] += s.share[k] / s.length2 * by;
    }

    // Both say what they are apart.
    double meet(const Joint& joint) {
        const Vec3 mine = value(joint.side[0]);
        if (!joint.both) {
            if (!joint.fixed) return 0;
            change(joint.side[0], joint.other - mine);
            return (joint.other - mine).cwiseAbs().maxCoeff();
        }
        const Vec3 apart = value(joint.side[1]) - mine;
        const double all = joint.side[0].length2 + joint.side[1].length2;
        change(joint.side[0], joint.side[0].length2 / all * apart);
        change(joint.side[1], -joint.side[1].length2 / all * apart);
        return apart.cwiseAbs().maxCoeff();
    }
    double meet_normals(const Joint& joint) {
        const Vec3 mine = shown(joint.side[0]);
        if (!joint.both && !joint.fixed) return 0;
        const Vec3 other = joint.both ? shown(joint.side[1]) : joint.other;
        const Vec3 wanted = joint.both ? Vec3((mine + other).normalized()) : other;
        if (!wanted.allFinite()) return 0;
        turn_to(joint.side[0], wanted);
        if (joint.both) turn_to(joint.side[1], wanted);
        return 0.5 * (other - mine).cwiseAbs().maxCoeff();
    }
    void turn_to(const Sample& s, const Vec3& wanted) {
        const Vec3 now = value(s), in_frame = (s.into_frame * wanted).normalized();
        // as long as it is: interpolated normals are short
        const double length = (2 * now - Vec3::Ones()).norm();
        const Vec3 to = 0.5 * (length * in_frame + Vec3::Ones());
        if (to.allFinite()) change(s, to - now);
    }

    void write_back() {
        for (const auto& [texel, at] : slots_) {
            for (int c = 0; c < map_.channels; ++c) {
                const std::size_t i = texel * static_cast<std::size_t>(map_.channels) + static_cast<std::size_t>(c);
                if (map_.real.empty())
                    map_.unit[i] =
                        static_cast<std::uint16_t>(std::lround(65535 * std::clamp(values_[at][c], 0.0, 1.0)));
                else
                    map_.real[i] = static_cast<float>(values_[at][c]);
            }
        }
    }

    const BakeSurface& base_;
    const UvTile& tile_;
    const int number_;
    const bool normals_;
    MapImage& map_;
    BorderMemory& memory_;
    std::vector<Joint> joints_;
    std::unordered_map<std::size_t, Index> slots_;
    Points values_;
};

}  // namespace

void join_borders(const BakeSurface& base, const UvTile& tile, int number, bool normals, MapImage& map,
                  BorderMemory& memory) {
    Joiner(base, tile, number, normals, map, memory).run();
}

}  // namespace veld
