#pragma once
// An edge followed on a surface, near where a fit has it: what lies on one side stands before what lies on the other
// (a lid before the eyeball, a lip before the mouth), and the best smooth line of such steps is the edge [dynamic
// programming: Amini, Weymouth, Jain 1990, Using dynamic programming for solving variational problems in vision].
#include <optional>
#include <span>

#include "core/base/types.h"

namespace veld {

inline constexpr double kNotSeen = -1e9;  // a height: there is no surface

// How far what lies beyond a row stands before what lies on this side of it, each side carried on as it leads there:
// sockets and brows slope, and a slope is no step. mm; kNotSeen where heights are missing around it.
double step_at(std::span<const double> heights, int row);

inline constexpr int kMostAside = 13;  // rows that an edge may lie from its guess
inline constexpr int kRowsBeyond = 7;  // that are read beyond them
inline constexpr int kEdgeRows = 2 * (kMostAside + kRowsBeyond) + 1;

struct FollowedEdge {
    std::vector<int> aside;  // rows from the guess, per column
    // mm that the edge stands out, per column; 0 at the ends, which follow their neighbours
    std::vector<double> steps;
    double mean_step = 0;
};

// The same as places of the surface.
struct Edge {
    Points line;  // one per column
    FollowedEdge edge;
};
struct EdgePair {
    const Edge &upper, &lower;
};

// heights: per column kEdgeRows of them, the guess in the middle. sign: 1 when what stands out lies beyond (rows that
// follow), -1 when it lies before. Nothing where no step runs along the guess.
std::optional<FollowedEdge> follow_edge(const std::vector<std::vector<double>>& heights, double sign);

// Where an upper and a lower edge meet, carried on from where both are still edges; both from one corner to the other,
// as seen from the front. first: at their first points, else at their last.
std::optional<Vec3> where_edges_meet(const EdgePair& edges, bool first);

}  // namespace veld
