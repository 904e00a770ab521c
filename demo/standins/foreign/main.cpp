// A stand-in for the shapes that people bring: a head that shares nothing with any kit, from a seed.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <nlohmann/json.hpp>

#include "core/base/file.h"
#include "core/io/mesh_write.h"
#include "demo/standins/foreign/scan.h"

using namespace veld;

int main(int argc, char** argv) {
    CLI::App app("Writes the scan of a made-up head, made from implicit solids, with its truth beside it as JSON.");
    std::string out;
    unsigned seed = 1;
    bool upright = false;
    double cell = 0;
    app.add_option("out", out, "PLY file to write")->required();
    app.add_option("--seed", seed, "Seeds from 10001 on are only ever measured");
    app.add_option("--cell", cell, "mm of the iso-surface; 0: as the seed says");
    app.add_flag("--upright", upright, "Upright, in mm, instead of any attitude and unit");
    CLI11_PARSE(app, argc, argv);
    const foreign::Form form = foreign::make_form(seed);
    const foreign::Head head(form);
    foreign::ScanOptions options = foreign::scan_options(seed);
    if (cell > 0) options.cell_mm = cell;
    options.any_frame = !upright;
    const foreign::Scan scan = foreign::make_scan(head, options);
    nlohmann::ordered_json truth;
    truth["about"] = {{"kind", foreign::kind_name(form.kind)},
                      {"mouth", foreign::mouth_name(form.mouth)},
                      {"lids", foreign::lids_name(form.lids)},
                      {"cover", foreign::cover_name(form.cover)},
                      {"beard", form.beard},
                      {"glasses", form.glasses},
                      {"collar", form.collar},
                      {"ears", !form.ear.missing},
                      {"device", foreign::device_name(options.device)},
                      {"cut", foreign::cut_name(options.cut)},
                      {"coloured", options.coloured}};
    truth["mm_per_unit"] = 1 / scan.from_head.scale;
    for (const auto& [name, p] : scan.points) truth["points"][name] = {p.x(), p.y(), p.z()};
    for (const auto& [name, hidden] : scan.covered) {
        if (hidden) truth["covered"].push_back(name);
    }
    for (const auto& [name, line] : scan.curves) {
        for (const Vec3& p : line) truth["curves"][name].push_back({p.x(), p.y(), p.z()});
    }
    for (const foreign::Stuff s : scan.stuff) truth["stuff"].push_back(static_cast<int>(s));
    if (auto ok = write_mesh(out, scan.mesh, 0.001 / scan.from_head.scale); !ok)
        return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    if (auto ok = write_file(out + ".truth.json", truth.dump()); !ok)
        return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    std::printf("%s: %s\n", out.c_str(), truth["about"].dump().c_str());
    return 0;
}
