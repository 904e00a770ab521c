#pragma once
// A subject whose scan is the base's own shape, coloured by where it is, with a fit that lies on it: baked in a
// moment.
#include <functional>

#include "core/project/state.h"
#include "tests/support/demo_kit.h"

namespace veld {

inline ProjectState dressed_subject(const std::string& name, const std::function<Colour(const Vec3&)>& colour) {
    ProjectState s = new_project(demo_kit());
    Mesh scan = demo_kit()->mesh;
    scan.images.clear(), scan.materials.clear(), scan.face_material.clear();
    for (const Vec3& p : scan.positions) scan.colours.push_back(colour(p));
    Source source;
    source.name = "scan", source.mesh = std::make_shared<const Mesh>(std::move(scan));
    source.unit = Unit::Millimetre;
    FitRecord fit;
    fit.name = "fit 1", fit.source = source.name, fit.source_id = source.id;
    fit.positions = std::make_shared<const Points>(demo_kit()->mesh.positions);
    fit.distances = std::make_shared<const std::vector<float>>(fit.positions->size(), 0.0f);
    s.subjects.push_back({name, {source}, {fit}});
    return s;
}

}  // namespace veld
