// veldstone-cli compare A B: how two shapes differ.
#include "core/fit/compare.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/io/mesh_file.h"

namespace veld::cli {
namespace {

struct CompareOptions {
    std::string first, second, kit, align = "none", report;
};

Json distance_json(const DistanceFigures& d) {
    return {{"median", d.median}, {"p95", d.p95}, {"max", d.max}, {"vertices", d.vertices}};
}

Json surface_json(const SurfaceDifference& d) {
    Json out = distance_json(d.distance);
    out["signed_mean"] = d.mean;
    out["share_within_0.1_mm"] = d.share_within_mm[0], out["share_within_0.5_mm"] = d.share_within_mm[1],
    out["share_within_1_mm"] = d.share_within_mm[2];
    return out;
}

std::string surface_line(const char* what, const SurfaceDifference& d) {
    char text[256];
    std::snprintf(
        text, sizeof text, "%s: median %.4f mm, 95 %% within %.3f mm, worst %.2f mm, on average %.4f mm %s\n", what,
        d.distance.median, d.distance.p95, d.distance.max, std::abs(d.mean), d.mean < 0 ? "inside" : "outside");
    return text;
}

int run(const CompareOptions& o, const Output& output) {
    auto a = read_mesh(o.first);
    if (!a) return output.refuse(a.error());
    auto b = read_mesh(o.second);
    if (!b) return output.refuse(b.error());
    std::optional<BaseKit> kit;
    if (!o.kit.empty()) {
        auto read = read_base_kit(o.kit);
        if (!read) return output.refuse(read.error());
        kit = std::move(*read);
    }
    const Align align = o.align == "rigid" ? Align::Rigid : o.align == "similarity" ? Align::Similarity : Align::None;
    const auto d = compare_shapes(kit ? &*kit : nullptr, a->mesh, b->mesh, align, terminal_progress());
    if (!d) return output.refuse(d.error());
    Json json = {{"first", o.first},
                 {"second", o.second},
                 {"same_topology", d->same_topology},
                 {"align", o.align},
                 {"scale", d->second_to_first.scale},
                 {"second_from_first_mm", surface_json(d->second_to_first_surface)},
                 {"first_from_second_mm", surface_json(d->first_to_second)}};
    std::string text = surface_line("second from first", d->second_to_first_surface) +
                       surface_line("first from second", d->first_to_second);
    if (d->same_topology) {
        json["moved_mm"] = distance_json(d->moved);
        for (const auto& [name, r] : d->regions) json["moved_mm"]["regions"][name] = distance_json(r);
        json["distortion"] = {{"edge_p95", d->edge_p95},           {"edge_max", d->edge_max},
                              {"area_p95", d->area_p95},           {"area_max", d->area_max},
                              {"angle_p95_degrees", d->angle_p95}, {"angle_max_degrees", d->angle_max}};
        json["flipped_faces"] = d->flipped_faces;
        json["self_intersections"] = {d->first_cuts, d->second_cuts};
        json["symmetry_mm"] = {d->first_symmetry_mm, d->second_symmetry_mm};
        char more[320];
        std::snprintf(more, sizeof more,
                      "vertices moved: median %.4f mm, worst %.2f mm\nedges: 95 %% within x %.3f, worst x "
                      "%.2f\nflipped faces: %u, self-intersections: %u and %u\n",
                      d->moved.median, d->moved.max, d->edge_p95, d->edge_max, d->flipped_faces, d->first_cuts,
                      d->second_cuts);
        text += more;
    } else if (kit) {
        text += "At least one of them is not the kit's base: only the surfaces were compared.\n";
    }
    if (!o.report.empty()) {
        if (auto ok = write_file(o.report, json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"); !ok)
            return output.refuse(ok.error());
    }
    output.result(json, text);
    return 0;
}

}  // namespace

void add_compare(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("compare", "How two shapes differ, in mm");
    auto o = std::make_shared<CompareOptions>();
    command->add_option("first", o->first, "Mesh in mm")->required();
    command->add_option("second", o->second, "Mesh in mm")->required();
    command->add_option("--kit", o->kit,
                        "Folder of the base kit: vertex by vertex and region by region where both are its base");
    command->add_option("--align", o->align, "Bring the second onto the first before measuring")
        ->check(CLI::IsMember({"none", "rigid", "similarity"}));
    command->add_option("--report", o->report, "Write the figures to this JSON file");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
