#include <cmath>
#include <filesystem>

#include "core/kit_making/make_kit.h"

namespace veld {
namespace {

constexpr double kSameUnit = 0.02, kSameAxis = 0.98;  // of the logarithm of a scale; of a cosine

}  // namespace

std::vector<std::string> KitRecipe::files() const {
    std::vector<std::string> out{file};
    for (const BaseFile& m : more) out.push_back(m.path);
    if (!skeleton.empty()) out.push_back(skeleton);
    return out;
}

std::optional<UpAxis> up_of(const KitOriginal& original) {
    for (const UpAxis up :
         {UpAxis::PlusX, UpAxis::MinusX, UpAxis::PlusY, UpAxis::MinusY, UpAxis::PlusZ, UpAxis::MinusZ}) {
        const Vec3 axis = rotation_to_y_up(up).transpose() * Vec3::UnitY();
        if ((original.to_kit.rotation * axis).y() > kSameAxis) return up;
    }
    return {};
}

Result<KitRecipe> recipe_again(const BaseKit& kit, const std::map<std::string, SurfacePoint>& points) {
    if (!kit.original) return Error{ErrorCode::BadInput, "This kit was not made from a file."};
    const KitOriginal& original = *kit.original;
    const std::filesystem::path folder = kit.folder;
    KitRecipe out;
    out.file = (folder / original.file).string();
    for (const KitOriginal::More& more : original.more) out.more.push_back({(folder / more.file).string(), {}});
    if (kit.own_rig && !kit.own_rig->file.empty()) out.skeleton = (folder / kit.own_rig->file).string();
    for (const KitReduced& r : kit.reduced) out.reduced[r.name] = (folder / r.file).string();
    for (const KitPart& part : kit.parts) {
        if (part.told) out.rule[part.name] = *part.told;
    }
    for (const Unit unit : kAllUnits) {
        const double off = std::abs(std::log(original.to_kit.scale / millimetres(unit)));
        if (off < kSameUnit) out.unit = unit;
    }
    out.up = up_of(original);
    out.part_at = original.part_at;
    const Similarity back = original.to_kit.inverse();
    for (const auto& [name, place] : points) {
        const auto was = kit.landmarks.find(name);
        const bool moved = was == kit.landmarks.end() || !(was->second == place);
        if (!moved && !kit.by_hand.contains(name)) continue;
        out.landmarks.points[name] = back(place.at(kit.mesh.positions));
    }
    return out;
}

}  // namespace veld
