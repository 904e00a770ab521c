#pragma once
// Non-rigid ICP: the base's skin is bent onto the source, stiff first and softer level by level
// [Amberg, Romdhani, Vetter 2007], with the bending and stretch energies of surface_energy.h and
// robust match weights that tighten as the surface comes nearer [Yao et al. 2022].
//
// One symbolic factorisation serves the whole run; every round costs one closest-point query per
// vertex, one numeric factorisation and one solve.
#include <memory>

#include "core/base/progress.h"
#include "core/fit/creases.h"
#include "core/fit/settings.h"
#include "core/fit/source_surface.h"
#include "core/landmark/landmarks.h"
#include "core/linalg/surface_energy.h"

namespace veld {

struct PointPull {
    std::string name;
    SurfacePoint place;
    Vec3 target = Vec3::Zero();
    double weight = 1;
};
struct CurvePull {
    std::string name;
    std::vector<SurfacePoint> places;
    Points target;  // polyline; the places slide along it
    double weight = 1;
};

// What follows from the faces and who may move: made once for all who ask.
struct ProblemSurface {
    std::vector<Triangle> triangles;  // of the faces
    SurfaceStencil stencil;
};

struct WrapProblem {
    const Mesh* base = nullptr;
    const Points* rest = nullptr;                   // what bending is measured from; null: the base's places
    FaceIndices faces;                              // of the skin
    VertexMask active;                              // per vertex: may move
    std::shared_ptr<const ProblemSurface> surface;  // null: surface_of() makes it anew
    std::vector<double> match;                      // per vertex 0..1
    std::vector<double> stiffness;                  // per vertex, 1 = normal
    std::vector<double> least_smooth;               // per vertex, mm: never softer than this bending length (empty: 0)
    std::vector<double> hold;  // per vertex: pull back to the base's place, against 1 for a match (empty: 0)
    std::vector<double>
        way;  // per vertex: what share of the way from the base's place to its match is wanted (empty: 1)
    const SourceSurface* source = nullptr;  // null: nothing is matched
    bool only_under = false;  // nothing is matched to a place that lies beside it (SourceSurface::lies_under)
    std::vector<PointPull> points;
    std::vector<CurvePull> curves;
    std::vector<ContactPair> contacts;  // sheets that lie face to face keep their gap

    const std::vector<std::pair<Index, Index>>* base_cuts =
        nullptr;  // of the faces' triangles on the base; null: looked for

    // to go on from a shape instead of the base
    const Points* start = nullptr;   // all vertices; those that do not move stay where they are here
    double from = 0, to = 1;         // which piece of the way from stiff (0) to soft (1) is gone
    int levels = 0, iterations = 0;  // 0: as in the settings
};

struct Match {
    Vec3 position = Vec3::Zero();
    double weight = 0;    // 0: nothing was accepted
    double distance = 0;  // mm, when weight > 0
};

struct WrapTimes {
    double analyse = 0, factor = 0, solve = 0, query = 0, total = 0;  // seconds
    int rounds = 0;
};

struct WrapResult {
    Points positions;            // all vertices of the base mesh, kit frame
    std::vector<Match> matches;  // of the last round
    WrapTimes times;
    int repaired_vertices = 0;  // stiffened by the last pass because of flips or cuts
};

std::shared_ptr<const ProblemSurface> surface_of(const WrapProblem& problem);

Result<WrapResult> wrap_surface(const WrapProblem& problem, const FitSettings& settings, const Progress& progress);

// Closest acceptable point of the source for every active vertex with match > 0; match scales the weights.
// averaged: the source's places without its noise (SourceSurface::denoised_places), or null.
std::vector<Match> match_to_source(const WrapProblem& problem, const std::vector<double>& match, const Points& now,
                                   double scale_mm, double max_angle_degrees, const Points* averaged = nullptr);

// Triangles whose normal turned against the base's, seen from their own neighbourhood.
TriangleIndices flipped_triangles(const SurfaceStencil& stencil, const std::vector<Triangle>& triangles,
                                  const Points& base, const Points& now);

}  // namespace veld
