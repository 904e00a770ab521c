// veldstone-cli morph make | export
#include <cstdlib>

#include "cli/cli.h"
#include "core/io/file.h"
#include "core/morph/morph.h"

namespace veld::cli {
namespace {

struct MakeOptions {
    std::string kit, shape, name, out, note;
};

int make(const MakeOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto shape = read_mesh(o.shape);
    if (!shape) return output.refuse(shape.error());
    if (topology_key(shape->mesh) != kit->topology_key && shape->mesh.positions.size() == kit->mesh.positions.size()) {
        return output.refuse({ErrorCode::BadInput, "'" + o.shape + "' has the base's vertex count but other faces, so its vertices may be in another order. Export it with the order kept."});
    }
    auto morph = make_morph(*kit, shape->mesh.positions, o.name);
    if (!morph) return output.refuse({morph.error().code, "'" + o.shape + "': " + morph.error().message});
    morph->note = o.note;
    if (auto ok = write_file(o.out, morph_text(*morph)); !ok) return output.refuse(ok.error());
    double most = 0;
    for (const Vec3& d : morph->delta) most = std::max(most, d.norm());
    char text[160];
    std::snprintf(text, sizeof text, "morph '%s': %zu of %u vertices move, at most %.2f mm\n", morph->name.c_str(), morph->index.size(), kit->mesh.vertex_count(), most);
    output.result({{"name", morph->name}, {"vertices", morph->index.size()}, {"of", kit->mesh.vertex_count()}, {"max_mm", most}, {"out", o.out}}, text);
    return 0;
}

struct ExportOptions {
    std::string kit, out;
    std::vector<std::string> morphs;  // FILE or FILE=AMOUNT
};

bool split_amount(const std::string& text, std::string& path, double& amount) {
    const std::size_t at = text.rfind('=');
    path = text.substr(0, at);
    if (at == std::string::npos) return true;
    const char* begin = text.c_str() + at + 1;
    char* end = nullptr;
    amount = std::strtod(begin, &end);
    return end != begin && *end == 0 && std::isfinite(amount);
}

int export_morphs(const ExportOptions& o, const Output& output) {
    const std::string kind = lower_extension(o.out);
    if (kind != ".obj" && kind != ".glb") return output.refuse({ErrorCode::Unsupported, "Morphs are exported as .obj (one shape) or .glb (all as morph targets); '" + o.out + "' is neither."});
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    std::vector<Morph> morphs(o.morphs.size());
    std::vector<MorphAmount> amounts;
    for (std::size_t i = 0; i < o.morphs.size(); ++i) {
        std::string path;
        double amount = kind == ".obj" ? 1.0 : 0.0;
        if (!split_amount(o.morphs[i], path, amount)) return output.refuse({ErrorCode::BadInput, "'" + o.morphs[i] + "': the amount after '=' is no number."});
        auto morph = read_morph(path, *kit);
        if (!morph) return output.refuse(morph.error());
        morphs[i] = std::move(*morph);
        amounts.push_back({&morphs[i], amount});
    }
    const auto ok = kind == ".obj" ? export_morphed_obj(*kit, amounts, o.out) : export_glb(*kit, amounts, o.out);
    if (!ok) return output.refuse(ok.error());
    Json list = Json::array();
    for (const MorphAmount& a : amounts) list.push_back({{"name", a.morph->name}, {"amount", a.amount}});
    output.result({{"out", o.out}, {"morphs", list}}, "written: " + o.out + "\n");
    return 0;
}

}  // namespace

void add_morph(CLI::App& app, const Output& output, int& exit_code) {
    auto* morph = app.add_subcommand("morph", "Make and export morph targets");
    morph->require_subcommand(1);
    auto m = std::make_shared<MakeOptions>();
    auto* make_command = morph->add_subcommand("make", "A morph from a shape in the base's order and frame");
    make_command->add_option("--kit", m->kit, "Folder of the base kit")->required();
    make_command->add_option("--shape", m->shape, "The shape: a mesh in the base's order, mm, kit frame")->required();
    make_command->add_option("--name", m->name, "Name of the morph")->required();
    make_command->add_option("--out", m->out, "Morph file to write")->required();
    make_command->add_option("--note", m->note, "A note to keep with it");
    make_command->callback([m, &output, &exit_code] { exit_code = make(*m, output); });
    auto e = std::make_shared<ExportOptions>();
    auto* export_command = morph->add_subcommand("export", "The base with morphs as OBJ, or as GLB with morph targets");
    export_command->add_option("--kit", e->kit, "Folder of the base kit")->required();
    export_command->add_option("--morph", e->morphs, "Morph file, or FILE=AMOUNT; may be given several times")->required();
    export_command->add_option("--out", e->out, ".obj or .glb")->required();
    export_command->callback([e, &output, &exit_code] { exit_code = export_morphs(*e, output); });
}

}  // namespace veld::cli
