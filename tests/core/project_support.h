#pragma once
// What test_morph, test_project_file share.
#include <catch2/catch.hpp>

#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <assimp/Importer.hpp>
#include <csignal>
#include <cstdlib>

#include <nlohmann/json.hpp>

#include "core/exchange/export.h"
#include "core/io/obj.h"
#include "core/project/document.h"
#include "core/project/fits.h"
#include "core/project/marks.h"
#include "core/project/pager.h"
#include "core/project/store.h"
#include "core/rig/pose.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

inline Points bent_base() {
    Points x = demo_kit()->mesh.positions;
    for (Index v : demo_kit()->region("face")) x[v] += Vec3(0.1 * std::sin(x[v].y()), 0, 2.0);
    return x;
}

inline Morph bent_morph(const std::string& name) { return std::move(*make_morph(*demo_kit(), bent_base(), name)); }

inline ProjectState small_project() {
    ProjectState s = new_project(demo_kit());
    Source source;
    source.name = "cube";
    source.mesh = std::make_shared<Mesh>(decorated_cube());
    source.unit = Unit::Inch;
    source.landmarks.points["pronasale"] = Vec3(1, 2, 3);
    source.notes = {"a note"};
    FitRecord fit;
    fit.name = "head fit", fit.source = "cube", fit.source_id = source.id;
    fit.positions = std::make_shared<Points>(bent_base());
    fit.distances = std::make_shared<std::vector<float>>(fit.positions->size(), 0.5f);
    fit.figures.coverage = 0.5;
    fit.source_to_kit.scale = 25.4;
    s.subjects.push_back({"Ottoline", {source}, {fit}});
    s.bank.push_back({std::make_shared<Morph>(bent_morph("nose out")), 0.25});
    s.settings.smooth_end_mm = 3;
    return s;
}

}  // namespace
