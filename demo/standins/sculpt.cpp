// sculpt-standin: takes a mesh that was sent out, sculpts on it, gives it back, damaged on request.
#include <CLI/CLI.hpp>
#include <iostream>

#include "core/io/mesh_write.h"
#include "demo/standins/sculpting.h"

int main(int argc, char** argv) {
    using namespace veld;
    CLI::App app("A stand-in for a sculpting program: IN is sculpted by a named, seeded sculpt and written to OUT.");
    std::string in, out, how = "jaw";
    std::vector<std::string> harm;
    unsigned seed = 1;
    double strength = 1;
    std::string list;
    for (const Damage& d : damages()) list += std::string("\n  ") + d.name + ": " + d.about;
    app.footer("Damages:" + list);
    app.add_option("IN", in, "The mesh that was sent")->required();
    app.add_option("OUT", out, "Where it comes back: .obj, .ply, .glb; may be IN")->required();
    app.add_option("--sculpt", how, "What to sculpt")->check(CLI::IsMember(sculpt_names()));
    app.add_option("--strength", strength, "How strongly");
    app.add_option("--seed", seed, "Another seed, another sculpt");
    app.add_option("--damage", harm, "May be given several times; done in this order");
    CLI11_PARSE(app, argc, argv);
    const auto fail = [](const Error& e) {
        std::cerr << e.message << "\n";
        return 1;
    };
    auto file = read_mesh(in);
    if (!file) return fail(file.error());
    if (auto ok = sculpt(file->mesh, how, seed, strength); !ok) return fail(ok.error());
    for (const std::string& name : harm) {
        if (auto ok = damage(file->mesh, name, seed); !ok) return fail(ok.error());
    }
    file->mesh.material_libraries.clear();
    if (auto ok = write_mesh(out, file->mesh, 1.0, "sculpted by the stand-in"); !ok) return fail(ok.error());
    std::cout << "written: " << out << "\n";
    return 0;
}
