#include "core/fit/figures.h"

#include <sys/resource.h>
#include <tbb/parallel_for.h>

#include <cmath>
#include <set>

#include "core/base/json.h"
#include "core/fit/compare.h"
#include "core/fit/faults.h"
#include "core/linalg/statistics.h"
#include "core/mesh/polyline.h"

namespace veld {
namespace {

constexpr DoubtReason kAllReasons[] = {DoubtReason::None,    DoubtReason::Guessed, DoubtReason::Unlikely,
                                       DoubtReason::NotSkin, DoubtReason::Marks,   DoubtReason::Folds};

void landmark_figures(const WrapProblem& problem, const Points& fit, const std::vector<std::string>& names,
                      FitFigures& out) {
    double sum = 0;
    for (std::size_t i = 0; i < problem.points.size(); ++i) {
        const double r = (problem.points[i].place.at(fit) - problem.points[i].target).norm();
        out.landmark_mm[names[i]] = r;
        out.landmark_max = std::max(out.landmark_max, r);
        sum += r * r;
    }
    if (!problem.points.empty()) out.landmark_rms = std::sqrt(sum / static_cast<double>(problem.points.size()));
    double curve_sum = 0;
    std::size_t curve_count = 0;
    for (const CurvePull& curve : problem.curves) {
        double own = 0;
        for (const SurfacePoint& place : curve.places) {
            const Vec3 p = place.at(fit);
            own += (closest_on_polyline(p, curve.target) - p).squaredNorm();
        }
        out.curve_mm[curve.name] = std::sqrt(own / static_cast<double>(curve.places.size()));
        curve_sum += own;
        curve_count += curve.places.size();
    }
    if (curve_count) out.curve_rms = std::sqrt(curve_sum / static_cast<double>(curve_count));
}

void distance_figures(const BaseKit& kit, const WrapProblem& problem, const std::vector<Match>& matches,
                      const SurfaceStencil& stencil, FitFigures& out) {
    std::vector<double> all;
    double wanted = 0, matched = 0;
    for (Index v : stencil.vertex) {
        if (problem.match[v] < 0.5) continue;
        wanted += stencil.vertex_area[v];
        if (matches[v].weight <= 0) continue;
        matched += stencil.vertex_area[v];
        all.push_back(matches[v].distance);
    }
    out.surface = summary_of(all);
    out.coverage = wanted > 0 ? matched / wanted : 0;
    for (const auto& [name, vertices] : kit.regions) {
        std::vector<double> region;
        for (Index v : vertices) {
            if (problem.match[v] >= 0.5 && matches[v].weight > 0) region.push_back(matches[v].distance);
        }
        if (!region.empty()) out.regions[name] = summary_of(region);
    }
}

void source_figures(const WrapProblem& problem, const Points& fit, const std::vector<Triangle>& triangles,
                    FitFigures& out) {
    if (!problem.source) return;
    const SurfaceQuery query(fit, triangles);
    const std::size_t step = std::max<std::size_t>(1, problem.source->positions.size() / 40000);
    const std::size_t count = (problem.source->positions.size() + step - 1) / step;
    std::vector<double> found(count, -1);
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
        const SurfaceHit hit = query.closest(problem.source->positions[i * step], 8.0);
        bool wanted = static_cast<bool>(hit);
        for (std::size_t k = 0; wanted && k < 3; ++k) wanted = problem.match[triangles[hit.triangle][k]] >= 0.5;
        if (wanted) found[i] = hit.distance;
    });
    std::vector<double> distances;
    for (const double d : found) {
        if (d >= 0) distances.push_back(d);
    }
    out.source_to_fit = summary_of(distances);
}

Json distance_json(const DistanceFigures& d) {
    return {{"median", d.median}, {"p95", d.p95}, {"max", d.max}, {"vertices", d.vertices}};
}

Json doubt_json(const RegionDoubt& d) {
    return {{"wrong", d.wrong},
            {"why", doubt_reason_name(d.why)},
            {"guessed", d.signs.guessed},
            {"unlikely", d.signs.unlikely},
            {"not_skin", d.signs.not_skin},
            {"marks_mm", d.signs.marks},
            {"marks_apart_mm", d.signs.apart},
            {"surface_mm", d.signs.surface},
            {"bent", d.signs.bent},
            {"faults", d.signs.cuts}};
}

RegionDoubt doubt_from(const Json& j) {
    RegionDoubt d;
    const auto number = [&](const char* key) { return j.value(key, 0.0); };
    d.wrong = number("wrong");
    d.signs = {number("guessed"),        number("unlikely"),   number("not_skin"), number("marks_mm"),
               number("marks_apart_mm"), number("surface_mm"), number("bent"),     number("faults")};
    for (const DoubtReason reason : kAllReasons) {
        if (j.value("why", std::string()) == doubt_reason_name(reason)) d.why = reason;
    }
    return d;
}

Json rest_json(const RestDoubt& d) {
    return {{"expected_mm", d.expected_mm}, {"guessed", d.signs.guessed}, {"uneven_mm", d.signs.uneven},
            {"build_mm", d.signs.build},    {"left_mm", d.signs.left},    {"turned_degrees", d.signs.turned}};
}

RestDoubt rest_from(const Json& j) {
    const auto number = [&](const char* key) { return j.value(key, 0.0); };
    return {{number("guessed"), number("uneven_mm"), number("build_mm"), number("left_mm"), number("turned_degrees")},
            number("expected_mm")};
}

DistanceFigures distance_from(const Json& j) {
    DistanceFigures d;
    d.median = j.value("median", 0.0);
    d.p95 = j.value("p95", 0.0);
    d.max = j.value("max", 0.0);
    d.vertices = j.value("vertices", Index{0});
    return d;
}

}  // namespace

const char* doubt_reason_name(DoubtReason reason) {
    static const char* const names[] = {"nothing", "guessed", "unlikely", "not_skin", "marks", "folds"};
    return names[static_cast<int>(reason)];
}

DistanceFigures summary_of(const std::vector<double>& d) {
    DistanceFigures out;
    out.vertices = static_cast<Index>(d.size());
    if (d.empty()) return out;
    out.median = median(d);
    out.p95 = quantile(d, 0.95);
    out.max = *std::max_element(d.begin(), d.end());
    return out;
}

FitFigures measure_fit(const BaseKit& kit, const WrapProblem& problem, const Points& fit,
                       const std::vector<Match>& matches, std::vector<float>* distances, TriangleIndices* faulty) {
    FitFigures out;
    std::vector<std::string> names;
    for (const PointPull& pull : problem.points) names.push_back(pull.name);
    landmark_figures(problem, fit, names, out);
    const auto surface = surface_of(problem);
    const SurfaceStencil& stencil = surface->stencil;
    const std::vector<Triangle>& triangles = surface->triangles;
    distance_figures(kit, problem, matches, stencil, out);
    source_figures(problem, fit, triangles, out);
    std::set<Index> flipped;
    std::vector<Index> triangle_face;
    for (Index f : problem.faces) triangle_face.insert(triangle_face.end(), kit.mesh.face_size(f) - 2, f);
    const SurfaceFaults faults = surface_faults(problem, *surface, cuts_of_base(problem, *surface), fit);
    for (const Index t : faults.flipped) flipped.insert(triangle_face[t]);
    out.flipped_faces = static_cast<Index>(flipped.size());
    out.self_intersections = static_cast<Index>(faults.cuts.size());
    for (const auto& pair : faults.cuts) {
        if (out.cut_at.size() < kMostFaults) out.cut_at.push_back(triangles[pair.first][0]);
    }
    if (faulty) {
        *faulty = faults.flipped;
        for (const auto& pair : faults.cuts) faulty->push_back(pair.first);
    }
    for (const Index f : flipped) {
        if (out.flipped_at.size() < kMostFaults)
            out.flipped_at.push_back(kit.mesh.corner_vertex[kit.mesh.face_start[f]]);
    }
    FaceIndices moving;
    for (const Index f : problem.faces) {
        bool moves = false;
        for (Index k = kit.mesh.face_start[f]; k < kit.mesh.face_start[f + 1]; ++k)
            moves |= problem.active[kit.mesh.corner_vertex[k]] != 0;
        if (moves) moving.push_back(f);
    }
    const Distortion d = distortion_of(kit.mesh, moving, kit.mesh.positions, fit);
    out.edge_p95 = d.edge_p95, out.edge_max = d.edge_max, out.area_p95 = d.area_p95, out.area_max = d.area_max,
    out.angle_p95 = d.angle_p95, out.angle_max = d.angle_max;
    double symmetry = 0;
    for (Index v : stencil.vertex) {
        const Vec3& p = fit[kit.mirror[v]];
        symmetry += (fit[v] - Vec3(-p.x(), p.y(), p.z())).norm();
    }
    out.symmetry_mm = stencil.vertex.empty() ? 0 : symmetry / static_cast<double>(stencil.vertex.size());
    if (distances) {
        distances->assign(fit.size(), std::numeric_limits<float>::quiet_NaN());
        for (Index v : stencil.vertex) {
            if (matches[v].weight > 0) (*distances)[v] = static_cast<float>(matches[v].distance);
        }
    }
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    out.peak_memory_mb = static_cast<double>(usage.ru_maxrss) / 1024.0;
    return out;
}

std::string figures_text(const FitFigures& f) {
    Json json;
    json["landmark_mm"] = {{"rms", f.landmark_rms},
                           {"max", f.landmark_max},
                           {"per_point", f.landmark_mm},
                           {"curve_rms", f.curve_rms},
                           {"per_curve", f.curve_mm}};
    json["surface_mm"] = distance_json(f.surface);
    for (const auto& [name, d] : f.regions) json["surface_mm"]["regions"][name] = distance_json(d);
    json["source_to_fit_mm"] = distance_json(f.source_to_fit);
    for (const auto& [name, d] : f.doubts) json["doubts"][name] = doubt_json(d);
    for (const auto& [name, d] : f.rest) json["at_rest"][name] = rest_json(d);
    json["coverage"] = f.coverage;
    json["flipped_faces"] = f.flipped_faces;
    json["self_intersections"] = f.self_intersections;
    json["flipped_at"] = f.flipped_at, json["self_intersections_at"] = f.cut_at;
    json["distortion"] = {{"edge_p95", f.edge_p95},           {"edge_max", f.edge_max},
                          {"area_p95", f.area_p95},           {"area_max", f.area_max},
                          {"angle_p95_degrees", f.angle_p95}, {"angle_max_degrees", f.angle_max}};
    json["symmetry_mm"] = f.symmetry_mm;
    json["repaired_vertices"] = f.repaired_vertices;
    json["seconds"] = f.seconds;
    json["peak_memory_mb"] = f.peak_memory_mb;
    return json.dump();
}

FitFigures parse_figures(const std::string& text) {
    FitFigures f;
    const Json json = Json::parse(text, nullptr, false);
    if (!json.is_object()) return f;
    try {
        const Json& points = json.at("landmark_mm");
        f.landmark_rms = points.at("rms");
        f.landmark_max = points.at("max");
        f.landmark_mm = points.at("per_point").get<std::map<std::string, double>>();
        f.curve_rms = points.at("curve_rms");
        f.curve_mm = points.value("per_curve", std::map<std::string, double>());
        f.surface = distance_from(json.at("surface_mm"));
        if (json["surface_mm"].contains("regions")) {
            for (const auto& [name, d] : json["surface_mm"]["regions"].items()) f.regions[name] = distance_from(d);
        }
        if (json.contains("doubts")) {
            for (const auto& [name, d] : json["doubts"].items()) f.doubts[name] = doubt_from(d);
        }
        if (json.contains("at_rest")) {
            for (const auto& [name, d] : json["at_rest"].items()) f.rest[name] = rest_from(d);
        }
        f.source_to_fit = distance_from(json.at("source_to_fit_mm"));
        f.coverage = json.at("coverage");
        f.flipped_faces = json.at("flipped_faces");
        f.self_intersections = json.at("self_intersections");
        f.flipped_at = json.value("flipped_at", VertexIndices());
        f.cut_at = json.value("self_intersections_at", VertexIndices());
        const Json& d = json.at("distortion");
        f.edge_p95 = d.at("edge_p95"), f.edge_max = d.at("edge_max");
        f.area_p95 = d.at("area_p95"), f.area_max = d.at("area_max");
        f.angle_p95 = d.at("angle_p95_degrees"), f.angle_max = d.at("angle_max_degrees");
        f.symmetry_mm = json.at("symmetry_mm");
        f.repaired_vertices = json.at("repaired_vertices");
        f.seconds = json.at("seconds").get<std::map<std::string, double>>();
        f.peak_memory_mb = json.at("peak_memory_mb");
    } catch (const Json::exception&) {
        // an older record: what was read so far stands
    }
    return f;
}

}  // namespace veld
