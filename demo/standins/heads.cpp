// A stand-in for a studio's archive: heads of made-up people as morphs, from which a shape space can be learnt.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <filesystem>

#include "core/base/file.h"
#include "core/morph/morph_file.h"
#include "demo/standins/sitting.h"

using namespace veld;

int main(int argc, char** argv) {
    CLI::App app("Writes heads of made-up people as morph files: variations of a kit's own head, from seeds.");
    std::string kit_folder, out;
    int count = 24, first = 1001;
    app.add_option("--kit", kit_folder, "Folder of the base kit")->required();
    app.add_option("--out", out, "Folder to write into")->required();
    app.add_option("--count", count, "How many")->check(CLI::Range(1, 1000));
    app.add_option("--first", first, "Seed of the first")->check(CLI::Range(1, 1000000));
    CLI11_PARSE(app, argc, argv);
    const auto kit = read_base_kit(kit_folder);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    std::error_code failed;
    std::filesystem::create_directories(out, failed);
    int i = 0;
    for (const Morph& morph : made_up_heads(*kit, count, static_cast<unsigned>(first))) {
        char name[32];
        std::snprintf(name, sizeof name, "/head_%02d.morph", ++i);
        if (auto ok = write_file(out + name, morph_bytes(morph)); !ok)
            return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    }
    std::printf("%d heads written to %s\n", i, out.c_str());
    return 0;
}
