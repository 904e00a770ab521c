#pragma once
// What a shape is looked at in: poses, expressions, extremes of itself. Each is a way that is gone from rest.
#include "core/proof/face.h"
#include "core/rig/pose.h"

namespace veld {

// How far from rest, at one stop of the way.
struct ProofStop {
    Pose pose;  // empty turns: at rest
    std::vector<ExpressionAmount> expressions;
    double amount = 1;  // of the shape against the base: 0 is the base, -1 its opposite
};

enum class ProofKind { Pose, Face, Shape, Motion };
inline constexpr ProofKind kProofKinds[] = {ProofKind::Pose, ProofKind::Face, ProofKind::Shape, ProofKind::Motion};
const char* proof_kind_name(ProofKind kind);  // "pose"

struct Proof {
    std::string name;  // "sit", "blink"
    ProofKind kind = ProofKind::Pose;
    std::vector<ProofStop> stops;  // never empty; rest is before the first
};

// Rest and the stock poses that the kit's joints can take, a gaze all round, each of its expressions in quarters, the
// shape from -1 to 2.
std::vector<Proof> stock_proofs(const BaseKit& kit);
// Degrees up and to the figure's left: the eyes' joints turn; the kit's lids follow (gaze_up_lids, gaze_down_lids).
ProofStop gaze(const BaseKit& kit, double up, double left);

// Between two stops by that share: turns by the shortest way [Shoemake 1985], all else evenly.
ProofStop between(const ProofStop& from, const ProofStop& to, double share);
// 0: at rest; n: at the n-th stop; between them between.
ProofStop stop_at(const Proof& proof, double at);

}  // namespace veld
