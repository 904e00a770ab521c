#include "demo/standins/made_up_figure.h"

#include <algorithm>
#include <cmath>
#include <random>

#include "core/rig/pose.h"
#include "demo/standins/foreign/surface.h"

namespace veld {
namespace {

using Random = std::mt19937_64;

double within(Random& random, double low, double high) {
    return low + (high - low) * (static_cast<double>(random() >> 11) * 0x1.0p-53);
}

std::string without_side(const std::string& name) {
    const bool sided = name.ends_with("_l") || name.ends_with("_r");
    return sided ? name.substr(0, name.size() - 2) : name;
}
double side_of(const std::string& name) { return name.ends_with("_l") ? 1 : name.ends_with("_r") ? -1 : 0; }

// What makes a build: shares by which bones are longer and limbs stouter, and bumps of the skin in mm.
struct Recipe {
    double stature = 1740, head = 1, legs = 1, arms = 1, trunk = 1;
    double limb_girth = 1, hand = 1, foot = 1, shoulders = 1;
    double belly = 0, hips = 0, chest = 0, seat = 0, breasts = 0, muscle = 0, neck = 0;
};

Recipe recipe_of(Build build, Random& random) {
    Recipe r;
    r.stature = within(random, 1560, 1880);
    r.legs = within(random, 0.94, 1.06), r.arms = within(random, 0.94, 1.06);
    r.limb_girth = within(random, 0.92, 1.1), r.shoulders = within(random, 0.95, 1.06);
    r.belly = within(random, -8, 20), r.hips = within(random, -8, 18), r.seat = within(random, -8, 15);
    r.chest = within(random, -8, 12), r.breasts = within(random, 0, 25), r.neck = within(random, -4, 5);
    if (build == Build::Heavy)
        r.limb_girth = 1.32, r.belly = 95, r.hips = 45, r.seat = 40, r.breasts = 40, r.chest = 30, r.neck = 16;
    if (build == Build::Muscular)
        r.limb_girth = 1.14, r.muscle = 16, r.chest = 26, r.shoulders = 1.12, r.belly = -10, r.neck = 14;
    if (build == Build::Child)
        r.stature = within(random, 1000, 1250), r.head = 1.45, r.legs = 0.88, r.arms = 0.92, r.limb_girth = 0.95,
        r.belly = 14, r.breasts = 0, r.chest = -8, r.shoulders = 0.92;
    if (build == Build::Old) r.limb_girth = 0.88, r.belly = 40, r.seat = -18, r.chest = -12;
    if (build == Build::Tall) r.stature = 2100, r.legs = 1.1, r.limb_girth = 0.94, r.head = 0.95;
    if (build == Build::Lean) r.limb_girth = 0.82, r.belly = -18, r.hips = -14, r.seat = -16, r.chest = -10;
    if (build == Build::Stylised)
        r.head = 1.35, r.legs = 1.18, r.arms = 1.1, r.hand = 1.3, r.foot = 1.3, r.limb_girth = 0.8, r.shoulders = 1.15,
        r.trunk = 0.9;
    return r;
}

// Bones: how the skin of a joint and the way to its children are stretched.
Pose bones_of(const BaseKit& kit, const Recipe& r) {
    Pose pose = rest_pose(kit.joints);
    pose.stretch.assign(kit.joints.size(), Mat3::Identity());
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        const std::string name = without_side(kit.joints[j].name);
        Index child = kNone;
        for (std::size_t k = 0; k < kit.joints.size() && child == kNone; ++k) {
            if (kit.joints[k].parent == static_cast<int>(j)) child = static_cast<Index>(k);
        }
        double length = 1, girth = 1;
        const bool leg = name == "thigh" || name == "shin", arm = name == "upper_arm" || name == "forearm";
        if (leg) length = r.legs, girth = r.limb_girth;
        if (arm) length = r.arms, girth = r.limb_girth;
        if (name.starts_with("spine")) length = r.trunk;
        if (name == "clavicle") length = r.shoulders;
        if (name == "head" || name == "jaw" || name == "eye") length = girth = r.head;
        if (name == "foot" || name == "toe") length = girth = r.foot;
        if (name == "hand" || name.starts_with("thumb") || name.starts_with("index") || name.starts_with("middle") ||
            name.starts_with("ring") || name.starts_with("little"))
            length = girth = r.hand;
        const Vec3 along = child == kNone ? Vec3(Vec3::UnitY())
                                          : Vec3((kit.joints[child].position - kit.joints[j].position).normalized());
        pose.stretch[j] = girth * Mat3::Identity() + (length - girth) * along * along.transpose();
    }
    return pose;
}

struct Bump {
    Vec3 at, way;
    double size, sigma;
};

// Flesh: bumps at anatomical places of the stretched figure, the same on both sides but for a little.
std::vector<Bump> flesh_of(const BaseKit& kit, const Points& x, const Points& joints, const Recipe& r,
                           Random& random) {
    std::vector<Bump> out;
    const auto mark = [&](const std::string& name) { return kit.landmarks.at(name).at(x); };
    const auto joint = [&](const std::string& name) {
        for (std::size_t j = 0; j < kit.joints.size(); ++j)
            if (kit.joints[j].name == name) return joints[j];
        return Vec3(Vec3::Zero());
    };
    const Vec3 front = Vec3::UnitZ(), back = -front;
    out.push_back({mark("omphalion") + Vec3(0, -20, 0), front, r.belly, 110});
    out.push_back({mark("substernale") + Vec3(0, 60, 0), front, r.chest, 110});
    for (const char* side : {"_l", "_r"}) {
        const std::string s = side;
        const double sign = side_of(s), own = within(random, 0.94, 1.06);
        const Vec3 outwards = sign * Vec3::UnitX();
        out.push_back({mark("iliospinale" + s) + Vec3(sign * 30, 40, -40), (outwards + 0.2 * front).normalized(),
                       0.75 * r.belly, 90});
        out.push_back({mark("trochanterion" + s), outwards, own * r.hips, 85});
        out.push_back({mark("gluteale" + s), back, own * r.seat, 75});
        out.push_back({mark("thelion" + s), (front + 0.1 * outwards).normalized(), own * r.breasts, 52});
        if (r.muscle > 0) {
            const Vec3 arm = 0.5 * (joint("upper_arm" + s) + joint("forearm" + s));
            out.push_back({arm, (outwards + front).normalized(), r.muscle, 55});
            out.push_back({joint("upper_arm" + s) + Vec3(sign * 30, 10, 0), outwards, r.muscle, 50});
            out.push_back({0.5 * (joint("thigh" + s) + joint("shin" + s)), front, r.muscle, 90});
            out.push_back({0.7 * joint("shin" + s) + 0.3 * joint("foot" + s), back, r.muscle, 60});
        }
        out.push_back({0.5 * (joint("neck") + joint("head")) + 50 * outwards, outwards, r.neck, 45});
    }
    return out;
}

Mat3 about(const Vec3& axis, double degrees) {
    return Eigen::AngleAxisd(degrees * M_PI / 180, axis.normalized()).toRotationMatrix();
}

struct Turns {
    double arms = 0, raised = 0, legs_out = 0, sit = 0, curl = 0;  // degrees; raised: the left arm besides
};

Turns turns_of(Stand stand, Random& random) {
    Turns t;
    const double off = within(random, -6, 6);
    if (stand == Stand::AsBuilt) t.arms = off;
    if (stand == Stand::Hanging) t.arms = -28 + off;
    if (stand == Stand::Level) t.arms = 45 + off;
    if (stand == Stand::Wide) t.arms = 10 + off, t.legs_out = 18;
    if (stand == Stand::OneRaised) t.arms = -10 + off, t.raised = 95;
    if (stand == Stand::Sitting) t.arms = -22 + off, t.sit = 82;
    return t;
}

Pose pose_of(const BaseKit& kit, const Turns& t, bool fists, Random& random) {
    Pose pose = rest_pose(kit.joints);
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        const std::string name = without_side(kit.joints[j].name);
        const double s = side_of(kit.joints[j].name);
        const double arm = t.arms + (s > 0 ? t.raised : 0);
        Mat3& turn = pose.turns[j];
        const auto little = [&](double most) {
            return about(Vec3(within(random, -1, 1), within(random, -1, 1), within(random, -1, 1)) + Vec3(0, 1e-3, 0),
                         within(random, 0, most));
        };
        if (name.starts_with("spine")) turn = little(3) * about(Vec3::UnitX(), within(random, -1, 4));
        if (name == "neck" || name == "head") turn = little(7);
        if (name == "clavicle") turn = about(Vec3::UnitZ(), s * 0.2 * std::max(arm, -15.0));
        if (name == "upper_arm") turn = little(5) * about(Vec3::UnitZ(), s * (arm - 0.2 * std::max(arm, -15.0)));
        if (name == "forearm") turn = about(Vec3(0, -s, 0.3), within(random, 4, t.sit > 0 ? 55 : 25));
        if (name == "hand") turn = little(8);
        if (name == "thigh")
            turn = about(Vec3::UnitZ(), s * (t.legs_out + within(random, -1, 4))) *
                   about(Vec3::UnitX(), -t.sit + within(random, -4, 4));
        if (name == "shin") turn = about(Vec3::UnitX(), (t.sit > 0 ? t.sit : 0) + within(random, 0, 6));
        if (name == "foot") turn = about(Vec3::UnitY(), s * within(random, 0, 14));
        const bool finger = name.starts_with("index") || name.starts_with("middle") || name.starts_with("ring") ||
                            name.starts_with("little");
        const double curl = fists ? 62 : within(random, 0, 14);
        if (finger) turn = about(Vec3::UnitZ(), -s * curl);
        if (name.starts_with("thumb")) turn = about(Vec3::UnitZ(), -s * 0.35 * curl);
    }
    return pose;
}

// Dual quaternion skinning about the figure's own joints.
Points bent(const Points& rest, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose) {
    const PosedJoints posed = pose_joints(joints, pose);
    std::vector<Eigen::Quaterniond> real, dual;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const Eigen::Quaterniond q(posed.turn[j]);
        const Vec3 move = posed.place[j] - posed.turn[j] * joints[j].position;
        Eigen::Quaterniond d = Eigen::Quaterniond(0, move.x(), move.y(), move.z()) * q;
        d.coeffs() *= 0.5;
        real.push_back(q), dual.push_back(d);
    }
    Points out(rest.size());
    for (std::size_t v = 0; v < rest.size(); ++v) {
        Eigen::Vector4d q = Eigen::Vector4d::Zero(), d = q;
        const Eigen::Vector4d first = real[weights.joint[v][0]].coeffs();
        for (std::size_t k = 0; k < 4; ++k) {
            const std::size_t j = weights.joint[v][k];
            const double w = weights.weight[v][k] * (real[j].coeffs().dot(first) < 0 ? -1 : 1);
            q += w * real[j].coeffs(), d += w * dual[j].coeffs();
        }
        const double size = q.norm();
        const Eigen::Quaterniond turn(Eigen::Vector4d(q / size)), shift(Eigen::Vector4d(d / size));
        const Eigen::Quaterniond move = shift * turn.conjugate();
        out[v] = turn * rest[v] + 2 * Vec3(move.x(), move.y(), move.z());
    }
    return out;
}

// As a scanner sees it: one closed skin in which what lies nearly together has grown together, with noise; a floor
// is no part of it.
Mesh scanned(const BaseKit& kit, const Points& posed, double cell_mm, Random& random) {
    Points skin;
    std::vector<Triangle> triangles;
    std::vector<Index> slot(posed.size(), kNone);
    for (const Index v : kit.part("skin")->vertices)
        slot[v] = static_cast<Index>(skin.size()), skin.push_back(posed[v]);
    for (const Triangle& t : kit.triangulation.triangles) {
        if (slot[t[0]] != kNone && slot[t[1]] != kNone && slot[t[2]] != kNone)
            triangles.push_back({slot[t[0]], slot[t[1]], slot[t[2]]});
    }
    for (const KitEye& eye : kit.eyes) {
        const auto first = static_cast<Index>(skin.size());
        std::vector<Index> at(posed.size(), kNone);
        for (const Index v : kit.part(eye.part)->vertices)
            at[v] = static_cast<Index>(skin.size()), skin.push_back(posed[v]);
        for (const Triangle& t : kit.triangulation.triangles)
            if (at[t[0]] != kNone && at[t[0]] >= first) triangles.push_back({at[t[0]], at[t[1]], at[t[2]]});
    }
    Mesh out = foreign::voxelised(skin, triangles, cell_mm);
    for (Vec3& p : out.positions)
        p += 0.25 * Vec3(within(random, -1, 1), within(random, -1, 1), within(random, -1, 1));
    return out;
}

Similarity any_frame(Random& random) {
    static const double units[] = {1, 0.1, 0.001, 1 / 25.4};
    Similarity out;
    out.scale = units[random() % 4];
    const bool z_up = random() % 2 == 0;
    out.rotation =
        (z_up ? about(Vec3::UnitX(), 90) : Mat3(Mat3::Identity())) * about(Vec3::UnitY(), within(random, -30, 30));
    out.translation =
        out.scale * Vec3(within(random, -300, 300), within(random, -100, 100), within(random, -300, 300));
    return out;
}

}  // namespace

const char* build_name(Build build) {
    static const char* const names[] = {"adult", "heavy", "muscular", "child", "old", "tall", "lean", "stylised"};
    return names[static_cast<int>(build)];
}
const char* stand_name(Stand stand) {
    static const char* const names[] = {"as built", "arms hanging", "T", "wide", "one arm raised", "sitting"};
    return names[static_cast<int>(stand)];
}

std::vector<Joint> joints_at(const BaseKit& kit, const Points& places) {
    std::vector<Joint> out = kit.joints;
    for (std::size_t j = 0; j < out.size(); ++j) out[j].position = places[j];
    return out;
}

MadeUpFigure make_figure(const BaseKit& kit, const FigureOptions& options) {
    Random random(options.seed * 7919 + 17);
    for (int i = 0; i < 8; ++i) random();
    MadeUpFigure out;
    out.build = static_cast<Build>((options.seed - 1) % 8);
    out.stand = static_cast<Stand>((options.seed - 1) * 5 % 6);
    out.fists = options.seed % 4 == 0;
    const Recipe recipe = recipe_of(out.build, random);
    const Pose bones = bones_of(kit, recipe);
    out.rest = skin(kit.mesh.positions, kit.joints, kit.weights, bones);
    out.rest_joints = pose_joints(kit.joints, bones).place;
    const std::vector<Bump> flesh = flesh_of(kit, out.rest, out.rest_joints, recipe, random);
    const Points normals = vertex_normals(out.rest, kit.triangulation.triangles);
    const Points stretched = out.rest;
    for (const Index v : kit.part("skin")->vertices) {
        Vec3 move = Vec3::Zero();
        for (const Bump& b : flesh) {
            const double facing = std::max(0.0, normals[v].dot(b.way));
            move +=
                facing * b.size * std::exp(-0.5 * (stretched[v] - b.at).squaredNorm() / (b.sigma * b.sigma)) * b.way;
        }
        out.rest[v] += move;
    }
    Box box = bounding_box(out.rest);
    const double size = recipe.stature / (box.high.y() - box.low.y());
    const Vec3 floor(0, box.low.y(), 0);
    for (Points* all : {&out.rest, &out.rest_joints})
        for (Vec3& p : *all) p = size * (p - floor);
    const std::vector<Joint> joints = joints_at(kit, out.rest_joints);
    out.pose = pose_of(kit, turns_of(out.stand, random), out.fists, random);
    out.posed = bent(out.rest, joints, kit.weights, out.pose);
    out.posed_joints = pose_joints(joints, out.pose).place;
    out.scan = scanned(kit, out.posed, options.cell_mm * recipe.stature / 1740, random);
    if (options.any_frame) out.scan_from_mm = any_frame(random);
    for (Vec3& p : out.scan.positions) p = out.scan_from_mm(p);
    for (const auto& [name, at] : kit.landmarks) out.landmarks[name] = out.scan_from_mm(at.at(out.posed));
    return out;
}

}  // namespace veld
