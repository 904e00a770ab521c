#pragma once
// A head with several expressions at once, whose skin meets and does not cross.
//
// Each expression of the kit is carried to the head (transfer.h); their ways add up. What that does wrong is put right
// after: lids that would pass one another meet where they meet in the blink; skin that would sink into an eyeball goes
// round it (lid_contact.h); sheets that cut each other (lips, lids, folds) are taken out of each other while what
// meets goes on to meet (core/fit/untangle.h). What a head needs beyond the kit's plain expressions is so found for
// every mix, not kept for some.
#include <memory>

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

struct ExpressionAmount {
    std::string name;
    double amount = 0;  // 1: as the kit has it; beyond, and below 0, are allowed
    bool operator==(const ExpressionAmount&) const = default;
};

inline constexpr double kShutFrom = 0.999;  // an expression at least this much on has its lids shut

class Face {
 public:
    // own: expressions that are known of this head, every vertex each, taken as they are.
    // head: every vertex of the base in the head's shape at rest, mm; names: of the kit's expressions, empty: all of
    // them. kit must outlive it. Fails with BadInput when the kit has no expressions, with NotFound for one that it
    // has not, naming those that it has, and with Cancelled.
    static Result<Face> make(const BaseKit& kit, const Points& head, const Progress& progress,
                             std::vector<std::string> names = {}, const std::map<std::string, Points>& own = {});
    // The base's own, with all of its expressions as they are.
    static Face of_base(const BaseKit& kit);
    ~Face();
    Face(Face&&) noexcept;
    Face& operator=(Face&&) noexcept;

    const Points& rest() const;
    // Each at 1.
    const std::map<std::string, Points>& carried() const;
    // Every vertex. Names that the kit has not are left out.
    Points operator()(const std::vector<ExpressionAmount>& amounts) const;
    // `shape` with lids that meet wherever the base's meet in one of these expressions. False: they do in none of
    // them.
    bool shut_lids(const std::vector<ExpressionAmount>& amounts, Points& shape) const;
    // The ways added up, nothing put right.
    Points sum(const std::vector<ExpressionAmount>& amounts) const;

 private:
    struct Inside;
    explicit Face(std::unique_ptr<Inside> inside);
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
