// One example for each subcommand, with the demo's own files; OUT stands for a folder of yours. The tests run them.
#include <sstream>

#include "cli/cli.h"

namespace veld::cli {
namespace {

struct Example {
    const char *command, *arguments;
};
constexpr Example kExamples[] = {
    {"inspect", "demo/subjects/ottoline/ottoline_scan.glb"},
    {"tidy", "demo/subjects/bram/bram_scan.ply OUT/bram.obj --kit demo/kit --step weld:distance=0.1"},
    {"detect", "demo/subjects/ottoline/ottoline_scan.glb --kit demo/kit --out OUT/found.json"},
    {"kit make", "demo/kit/figure.obj --model demo/kit --out OUT/kit"},
    {"kit check", "demo/kit"},
    {"kit show", "demo/kit"},
    {"kit export", "demo/bases/orrin --out OUT/orrin.glb"},
    {"kit edit", "demo/bases/orrin --right all --out OUT/orrin"},
    {"kit pack", "demo/bases/orrin --out OUT/orrin.zip"},
    {"kit unpack", "OUT/orrin.zip --out OUT/unpacked"},
    {"kit carry", "--from demo/kit --to OUT/kit --morph OUT/warden.json --out OUT/carried"},
    {"compare", "demo/kit/figure.obj demo/returns/warden_clean.obj --kit demo/kit"},
    {"wrap",
     "--kit demo/kit --landmarks demo/subjects/ottoline/ottoline_landmarks.json "
     "--source demo/subjects/ottoline/ottoline_scan.glb --out OUT/fit.obj"},
    {"morph make", "--kit demo/kit --shape demo/returns/warden_clean.obj --name warden --out OUT/warden.json"},
    {"morph split", "--kit demo/kit --shape demo/returns/warden_clean.obj --out OUT/shares"},
    {"morph mix", "--kit demo/kit --morph OUT/warden.json=0.5 --out OUT/half_warden.json"},
    {"morph mirror", "--kit demo/kit --morph OUT/warden.json --out OUT/mirrored.json"},
    {"morph half", "--kit demo/kit --morph OUT/warden.json --side left --out OUT/left.json"},
    {"morph export", "--kit demo/kit --morph OUT/warden.json --out OUT/warden.glb"},
    {"rig fit", "--kit demo/kit --morph OUT/warden.json --out OUT/warden_joints.json"},
    {"rig fix", "--kit demo/kit --morph OUT/warden.json --out OUT/warden_fixed.json"},
    {"pose take-out", "--kit demo/kit --morph OUT/warden.json --out OUT/warden_rest.json"},
    {"pose stand", "--kit demo/kit --morph OUT/warden.json --out OUT/"},
    {"expressions carry", "--kit demo/kit --morph OUT/warden.json --out OUT/"},
    {"expressions scan",
     "--kit demo/kit --neutral demo/kit/figure.obj --source demo/kit/expressions/smile.obj --name smile --out OUT/"},
    {"prove", "--kit demo/kit --morph OUT/warden.json --proof blink --proof sit --report OUT/proofs.json"},
    {"morph import", "OUT/warden.glb --kit demo/kit --out OUT/imported"},
    {"project make",
     "--kit demo/kit --out OUT/ottoline.veldstone --subject Ottoline "
     "--source demo/subjects/ottoline/ottoline_scan.glb "
     "--landmarks demo/subjects/ottoline/ottoline_landmarks.json"},
    {"project add", "OUT/ottoline.veldstone --subject Juniper --photos demo/subjects/juniper/juniper_front.jpg"},
    {"project fit", "OUT/ottoline.veldstone --subject Ottoline"},
    {"project show", "OUT/ottoline.veldstone"},
    {"photo-head", "--kit demo/kit --photo demo/subjects/juniper/juniper_front.jpg --out OUT/juniper.obj"},
    {"photo-blend", "OUT/juniper.obj OUT/fit.obj --kit demo/kit --out OUT/both.obj"},
    {"skin bake",
     "--kit demo/kit --source demo/returns/warden_clean.obj --fit demo/returns/warden_clean.obj --size 256 "
     "--map displacement --out OUT/maps"},
    {"skin layers", "OUT/ottoline.veldstone --subject Ottoline --add --out OUT/skin"},
    {"skin clean", "OUT/ottoline.veldstone --subject Ottoline --light-out 0.8"},
    {"skin match", "OUT/ottoline.veldstone --subject Ottoline --amount 1"},
    {"send", "--kit demo/kit --out OUT/base.obj --unit cm --up +Z"},
    {"return-check", "demo/returns/warden_scaled_zup.obj --kit demo/kit --out OUT/returned.json"},
};

}  // namespace

void add_examples(CLI::App& app) {
    for (const Example& e : kExamples) {
        CLI::App* command = &app;
        std::istringstream names(e.command);
        for (std::string name; names >> name;) command = command->get_subcommand(name);
        command->footer(std::string("Example:\n  veldstone-cli ") + e.command + " " + e.arguments);
    }
}

}  // namespace veld::cli
