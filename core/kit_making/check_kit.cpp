#include "core/kit_making/check_kit.h"

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <set>

#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kLeastFigureMm = 1000;  // a base that is shorter has no body
constexpr double kBelowNeckMm = 90;      // of the neck ring, where a trial's head ends
constexpr std::size_t kBodyPoints = 12;  // landmarks of a body that its fits start from

bool of_body(const SchemePoint& p) {
    static const std::set<std::string> body{"arm", "foot", "hand", "hip", "leg", "shoulder", "torso"};
    return body.contains(p.region);
}

std::string count(std::size_t n, const char* one, const char* many) {
    return std::to_string(n) + " " + (n == 1 ? one : many);
}

void need_points(const BaseKit& kit, KitAbility& out, bool core_only) {
    std::size_t missing = 0;
    std::string first;
    for (const SchemePoint& p : landmark_scheme().points) {
        if (kit.landmarks.contains(p.name) || of_body(p) || (core_only && !p.core)) continue;
        if (first.empty()) first = p.plain;
        ++missing;
    }
    if (missing == 0) return;
    const std::string text =
        count(missing, "landmark", "landmarks") + " of the head: " + first + (missing > 1 ? " and others" : "");
    (core_only ? out.missing : out.weak).push_back(text);
}

void need_region(const BaseKit& kit, KitAbility& out, const char* name, bool must) {
    if (kit.region(name).empty()) (must ? out.missing : out.weak).push_back(std::string("region ") + name);
}

double tall(const BaseKit& kit) { return bounding_box(kit.mesh.positions).size().y(); }

KitAbility head_fits(const BaseKit& kit) {
    KitAbility out{"head fits", {}, {}};
    need_points(kit, out, true);
    need_region(kit, out, "head_skin", true);
    need_region(kit, out, "face", true);
    for (const char* region : {"mouth_inner", "nostril_inside", "socket_l", "socket_r"})
        need_region(kit, out, region, false);
    need_points(kit, out, false);
    if (kit.curves.empty()) out.weak.push_back("guide curves");
    return out;
}

KitAbility following_parts(const BaseKit& kit) {
    KitAbility out{"parts that follow", {}, {}};
    for (const char* part : {"eye_l", "eye_r"}) {
        if (!kit.part(part)) out.weak.push_back(std::string("part ") + part);
    }
    if (!kit.part("eye_l") && !kit.part("eye_r") && kit.parts.size() < 2)
        out.missing.push_back("parts besides the skin");
    for (const KitPart& part : kit.parts) {
        if (part.name.starts_with("eye_") &&
            std::none_of(kit.eyes.begin(), kit.eyes.end(), [&](const KitEye& eye) { return eye.part == part.name; }))
            out.weak.push_back("the ball of " + part.name);
    }
    return out;
}

KitAbility shares(const BaseKit& kit) {
    KitAbility out{"head and body shares", {}, {}};
    if (kit.neck_ring.empty()) out.missing.push_back("the neck ring");
    if (kit.region("body_skin").empty()) out.missing.push_back("a body");
    return out;
}

KitAbility body_fits(const BaseKit& kit) {
    KitAbility out{"body fits, pose taken out", {}, {}};
    if (tall(kit) < kLeastFigureMm) out.missing.push_back("a body");
    if (kit.joints.empty()) out.missing.push_back("joints and skin weights");
    std::size_t body = 0;
    for (const SchemePoint& p : landmark_scheme().points) body += of_body(p) && kit.landmarks.contains(p.name);
    if (body < kBodyPoints && tall(kit) >= kLeastFigureMm) out.weak.push_back("landmarks of the body");
    return out;
}

KitAbility photo_heads(const BaseKit& kit) {
    KitAbility out{"heads from photographs", {}, {}};
    need_points(kit, out, true);
    need_region(kit, out, "face", true);
    if (kit.neck_ring.empty()) out.missing.push_back("the neck ring");
    if (kit.mesh.corner_uv.empty()) out.weak.push_back("UVs: no skin can be made");
    return out;
}

KitAbility expressions(const BaseKit& kit) {
    KitAbility out{"expressions", {}, {}};
    if (kit.expressions.empty()) out.missing.push_back("expressions");
    return out;
}

KitAbility mirrored_work(const BaseKit& kit) {
    KitAbility out{"mirrored work", {}, {}};
    if (kit.unpaired.empty()) return out;
    const std::string text =
        "partners on the other side: " + count(kit.unpaired.size(), "vertex has", "vertices have") + " none";
    (2 * kit.unpaired.size() > kit.mirror.size() ? out.missing : out.weak).push_back(text);
    return out;
}

KitAbility own_order(const BaseKit& kit) {
    KitAbility out{"exports in the file's own order", {}, {}};
    if (!kit.original) return out;  // the kit's mesh is the file's own
    std::error_code failed;
    if (!std::filesystem::exists(std::filesystem::path(kit.folder) / kit.original->file, failed))
        out.missing.push_back("the file it was made from, " + kit.original->file);
    return out;
}

// Of one person's head another's: broad, even on both sides, and nowhere more than some millimetres.
Points another_person(const BaseKit& kit) {
    struct Change {
        const char* at;
        Vec3 move;  // mm; mirrored on the other side
        double reach_mm;
    };
    static const Change changes[] = {{"gnathion", {0, -6, 4}, 36},   {"pronasale", {0, 2, 6}, 18},
                                     {"gonion_l", {5, -2, 0}, 32},   {"gonion_r", {-5, -2, 0}, 32},
                                     {"glabella", {0, 3, 3}, 28},    {"zygion_l", {4, 0, 2}, 30},
                                     {"zygion_r", {-4, 0, 2}, 30},   {"cheilion_l", {2, 0, 1}, 14},
                                     {"cheilion_r", {-2, 0, 1}, 14}, {"vertex", {0, 7, -4}, 70}};
    Points out = kit.mesh.positions;
    for (const Change& c : changes) {
        const auto at = kit.landmarks.find(c.at);
        if (at == kit.landmarks.end()) continue;
        const Vec3 middle = at->second.at(kit.mesh.positions);
        for (std::size_t v = 0; v < out.size(); ++v) {
            const double away = (kit.mesh.positions[v] - middle).norm() / c.reach_mm;
            out[v] += std::exp(-0.5 * away * away) * c.move;
        }
    }
    return out;
}

}  // namespace

std::vector<KitAbility> check_kit(const BaseKit& kit) {
    return {head_fits(kit),   following_parts(kit), shares(kit),        body_fits(kit),
            photo_heads(kit), expressions(kit),     mirrored_work(kit), own_order(kit)};
}

Result<KitTrial> try_kit(const BaseKit& kit, const BaseKit& model, const Progress& progress) {
    const Points person = another_person(model);
    Mesh head;  // the skin alone, a hand's width below the neck and up
    head.positions = person;
    double lowest = -1e300;
    for (const Index v : model.neck_ring) lowest = std::max(lowest, model.mesh.positions[v].y() - kBelowNeckMm);
    for (const Triangle& t : skin_triangles(model)) {
        const bool above = std::all_of(t.begin(), t.end(), [&](Index v) { return person[v].y() > lowest; });
        if (!above) continue;
        head.corner_vertex.insert(head.corner_vertex.end(), t.begin(), t.end());
        head.face_start.push_back(static_cast<Index>(head.corner_vertex.size()));
    }
    FitInput in;
    in.kit = &kit;
    in.source = &head;
    in.unit = Unit::Millimetre;
    in.landmarks.unit = Unit::Millimetre;
    for (const auto& [name, place] : model.landmarks) {
        if (kit.landmarks.contains(name) && place.at(person).y() > lowest)
            in.landmarks.points[name] = place.at(person);
    }
    auto fit = run_fit(in, progress);
    if (!fit) return fit.error();
    return KitTrial{std::move(fit->positions), std::move(fit->figures)};
}

}  // namespace veld
