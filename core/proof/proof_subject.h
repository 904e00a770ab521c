#pragma once
// A shape of the base made ready to be looked at in proofs.
#include <optional>

#include "core/base/made_once.h"
#include "core/morph/morph.h"
#include "core/proof/proofs.h"

namespace veld {

enum class Skinning { Linear, DualQuaternion };
const char* skinning_name(Skinning skinning);  // "linear", "dual quaternion"
std::optional<Skinning> skinning_from_name(const std::string& name);

// A correction that a shape gets where its drivers bring it in (core/morph/drivers.h), times `amount`.
struct ShapeCorrection {
    std::shared_ptr<const Morph> morph;
    double amount = 1;
    bool operator==(const ShapeCorrection&) const = default;
};

// Copies share what is heavy.
class ProofSubject {
 public:
    // shape: every vertex of the base, at rest, mm; expressions: those that it will be asked for. The kit must outlive
    // it. Fails as Face::make().
    static Result<ProofSubject> make(const BaseKit& kit, Points shape, const std::vector<std::string>& expressions,
                                     const Progress& progress, const std::map<std::string, Points>& own = {});
    // The base itself, with all of its expressions.
    static ProofSubject base_of(const BaseKit& kit);

    const Points& rest() const { return shape_; }
    // The same with corrections, in proofs only: at rest the shape stays as it is. heads: how much of which morphs the
    // shape is made of, by name.
    ProofSubject corrected(std::vector<ShapeCorrection> corrections, std::map<std::string, double> heads) const;
    // What corrections are brought in by at that stop.
    Driving driving(const ProofStop& stop) const;
    const std::map<std::string, double>& heads() const { return heads_; }
    const BaseKit& kit() const { return *kit_; }
    const Face* face() const { return face_.get(); }  // null: without expressions
    // At rest, that much of the shape.
    Points rest(double amount) const;
    // Pairs of skin triangles that cut each other at rest, ascending; made when first asked for.
    const std::vector<std::pair<Index, Index>>& rest_cuts() const;
    // Every vertex. Joints are where they are in the shape; a figure whose legs are bent stands on its lower foot.
    // Joints that a kit lacks, or one without skin weights, are left at rest.
    Points at(const ProofStop& stop, Skinning skinning) const;
    // The two halves of it: expressions and corrections before skin is bent; then bent, whatever its shape.
    Points unbent(const ProofStop& stop) const;
    Points bent(const Points& unbent, const ProofStop& stop, Skinning skinning) const;
    // Its joints' places there.
    Points joints_at(const ProofStop& stop) const;

 private:
    ProofSubject(const BaseKit& kit, Points shape) : kit_(&kit), shape_(std::move(shape)) {}
    std::vector<Joint> joints_of(double amount) const;
    Pose standing(const std::vector<Joint>& joints, const Pose& pose) const;

    const BaseKit* kit_;
    Points shape_;
    std::vector<Joint> joints_;  // of the whole shape
    std::shared_ptr<const Face> face_;
    std::vector<ShapeCorrection> corrections_;
    std::map<std::string, double> heads_;
    std::shared_ptr<MadeOnce<std::vector<std::pair<Index, Index>>>> cuts_ =
        std::make_shared<MadeOnce<std::vector<std::pair<Index, Index>>>>();
};

// Names of the expressions that these proofs need and the kit has.
std::vector<std::string> expressions_of(const BaseKit& kit, const std::vector<Proof>& proofs);

}  // namespace veld
