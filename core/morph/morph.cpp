#include "core/morph/morph.h"

#include <cmath>

#include "core/fit/follow.h"

namespace veld {

const char* morph_kind_name(MorphKind kind) {
    static constexpr const char* names[] = {"whole", "head", "body", "region", "expression", "fix"};
    return names[static_cast<int>(kind)];
}

std::optional<MorphKind> morph_kind_from_name(const std::string& name) {
    for (const MorphKind kind : kMorphKinds) {
        if (name == morph_kind_name(kind)) return kind;
    }
    return {};
}

Result<Morph> make_morph(const BaseKit& kit, const Points& shape, const std::string& name, double least_mm) {
    const Points& base = kit.mesh.positions;
    if (name.empty()) return Error{ErrorCode::BadInput, "A morph needs a name."};
    if (shape.size() != base.size()) {
        const bool fewer = shape.size() < base.size();
        return Error{ErrorCode::BadInput,
                     "The shape has " + std::to_string(shape.size()) + " vertices, the base has " +
                         std::to_string(base.size()) +
                         (fewer ? ". Parts are missing, or it is another mesh."
                                : ". It has extra parts, was split or subdivided, or is another mesh.")};
    }
    Morph out;
    out.name = name;
    out.topology = kit.topology_key;
    for (Index v = 0; v < base.size(); ++v) {
        const Vec3 d = shape[v] - base[v];
        if (!d.allFinite())
            return Error{ErrorCode::BadInput, "Vertex " + std::to_string(v) + " of the shape is not a finite number."};
        if (d.norm() < least_mm || d.isZero(0)) continue;
        out.index.push_back(v);
        out.delta.push_back(d);
    }
    return out;
}

Points mix_morphs(const Points& base, const std::vector<MorphAmount>& amounts) {
    Points out = base;
    Vec3 root = Vec3::Zero();
    for (const MorphAmount& a : amounts) {
        if (!a.morph || a.amount == 0) continue;
        for (std::size_t i = 0; i < a.morph->index.size(); ++i) out[a.morph->index[i]] += a.amount * a.morph->delta[i];
        root += a.amount * a.morph->root;
    }
    if (root.isZero(0)) return out;
    for (Vec3& p : out) p += root;
    return out;
}

Result<std::vector<Points>> whole_deltas(const BaseKit& kit, const std::vector<const Morph*>& morphs) {
    std::vector<Points> out;
    for (const Morph* m : morphs) {
        if (m->topology != kit.topology_key)
            return Error{ErrorCode::BadInput, "The morph '" + m->name + "' belongs to another base; leave it out."};
        out.emplace_back(kit.mesh.positions.size(), Vec3::Zero());
        for (std::size_t i = 0; i < m->index.size(); ++i) out.back()[m->index[i]] = m->delta[i];
    }
    return out;
}

void place_parts(const BaseKit& kit, PartsChoice choice, Points& shape) {
    if (choice == PartsChoice::Follow) follow_parts(kit, nullptr, shape);
    if (choice != PartsChoice::Stay) return;
    for (const KitPart& part : kit.parts) {
        if (part.name == "skin") continue;
        for (const Index v : part.vertices) shape[v] = kit.mesh.positions[v];
    }
}

}  // namespace veld
