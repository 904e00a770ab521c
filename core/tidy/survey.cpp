#include "core/tidy/survey.h"

#include <algorithm>
#include <cmath>

#include "core/mesh/edges.h"
#include "core/tidy/repair.h"

namespace veld {
namespace {

std::string mm(double x) {
    char text[32];
    std::snprintf(text, sizeof text, x < 10 ? "%.1f mm" : "%.0f mm", x);
    return text;
}

void measure(const Mesh& mesh, const Similarity& to_upright, Survey& s) {
    s.vertices = mesh.positions.size();
    s.triangles = mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()};
    s.uv = !mesh.corner_uv.empty() && !mesh.uvs.empty(), s.colours = !mesh.colours.empty(),
    s.normals = !mesh.normals.empty();
    s.textures = mesh.images.size();
    Box box;
    for (const Vec3& p : mesh.positions) box.add(to_upright(p));
    s.size_mm = box.size();
    std::vector<double> edges;
    const Index stride = std::max<Index>(mesh.face_count() / 20000, 1);
    for (Index f = 0; f < mesh.face_count(); f += stride) {
        const Index c = mesh.face_start[f];
        edges.push_back(to_upright.scale *
                        (mesh.positions[mesh.corner_vertex[c + 1]] - mesh.positions[mesh.corner_vertex[c]]).norm());
    }
    std::nth_element(edges.begin(), edges.begin() + static_cast<std::ptrdiff_t>(edges.size() / 2), edges.end());
    s.edge_mm = edges[edges.size() / 2];
}

std::size_t count_small_components(const Mesh& mesh) {
    Index count = 0;
    const std::vector<Index> component = face_components(mesh, same_place(mesh.positions), &count);
    const FaceMask small = small_components(mesh, {});
    std::vector<char> is_small(count, 0);
    for (Index f = 0; f < mesh.face_count(); ++f) is_small[component[f]] = static_cast<char>(small[f]);
    return static_cast<std::size_t>(std::count(is_small.begin(), is_small.end(), 1));
}

// large: openings that are too large to be holes.
void say_what_is_wrong(std::size_t large, Survey& s) {
    const auto add = [&](Weight w, const std::string& text, std::optional<Tool> tool = {}) {
        s.findings.push_back({w, text, tool});
    };
    const TopologyReport& t = s.topology;
    const double tall = s.size_mm.maxCoeff();
    if (tall < 100 || tall > 3000) add(Weight::Problem, "It would be " + mm(tall) + " long: check the unit.");
    if (s.triangles < 2000)
        add(Weight::Problem, "Only " + counted(s.triangles, "triangle") + ": too few to show a face.");
    if (s.components_small)
        add(Weight::Problem, counted(s.components_small, "small component") + ", not connected to the rest.",
            Tool::Components);
    if (t.non_manifold_edges)
        add(Weight::Problem, counted(t.non_manifold_edges, "edge") + " with more than two faces.", Tool::Repair);
    if (s.inside_out > s.triangles / 200)
        add(Weight::Problem, counted(s.inside_out, "face") + " inside out: the fit matches fronts only.",
            Tool::Outward);
    else if (s.inside_out)
        add(Weight::Note, counted(s.inside_out, "face") + " inside out.", Tool::Outward);
    if (t.degenerate_faces + t.duplicate_faces)
        add(Weight::Note,
            counted(t.degenerate_faces, "face") + " without area, " + std::to_string(t.duplicate_faces) + " repeated.",
            Tool::Repair);
    if (t.doubled_vertices)
        add(Weight::Note,
            counted(t.doubled_vertices, "vertex", "vertices") +
                " doubled along texture seams: smoothing and filling would see borders there.",
            Tool::Repair);
    if (s.holes_small)
        add(Weight::Note,
            counted(s.holes_small, "hole") +
                " up to 60 mm. The fit bridges them with the base's form; fill those whose form you know.",
            Tool::Fill);
    if (large)
        add(Weight::Note, counted(large, "larger opening") + ", the largest " + mm(s.largest_hole_mm) +
                              ": where the scan ends, most likely.");
    if (s.triangles > 1000000)
        add(Weight::Note, "More triangles than a fit needs; 200,000 to 500,000 are plenty.", Tool::Reduce);
    if (!s.normals) add(Weight::Fine, "The file has no normals; they are computed from the faces.");
    if (s.textures == 0 && !s.colours)
        add(Weight::Fine, "No texture and no colours: fine for a fit, nothing for a skin.");
}

}  // namespace

Survey survey(const Mesh& mesh, const Similarity& to_upright, const Progress& progress) {
    Survey s;
    progress.say(0, "Looking at the mesh");
    if (mesh.face_count() == 0) return s;
    measure(mesh, to_upright, s);
    s.topology = inspect_topology(mesh);
    if (progress.is_cancelled()) return s;
    progress.say(0.4, "Looking at the mesh");
    s.components_small = count_small_components(mesh);
    std::size_t large = 0;
    for (const Hole& hole : find_holes(mesh)) {
        const double size = hole.diagonal * to_upright.scale;
        s.largest_hole_mm = std::max(s.largest_hole_mm, size);
        size <= 60 ? ++s.holes_small : ++large;
    }
    if (progress.is_cancelled()) return s;
    progress.say(0.8, "Looking at the mesh");
    s.inside_out = turn_outward(mesh).count;
    say_what_is_wrong(large, s);
    std::stable_sort(s.findings.begin(), s.findings.end(), [](const Finding& a, const Finding& b) {
        return static_cast<int>(a.weight) > static_cast<int>(b.weight);
    });
    return s;
}

}  // namespace veld
