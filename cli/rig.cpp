// veldstone-cli rig fit | fix
#include <filesystem>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/joints_out.h"
#include "core/exchange/own_order.h"
#include "core/morph/joint_moves.h"
#include "core/morph/morph_file.h"

namespace veld::cli {
namespace {

struct RigOptions {
    std::string kit, shape, out, morph;
    std::vector<std::string> morphs, joints;
    bool clear = false;
    WeightSettings weights;
};

Result<Vec3> three_numbers(const std::string& text) {
    Vec3 out;
    std::size_t from = 0;
    for (int k = 0; k < 3; ++k) {
        const std::size_t to = k < 2 ? text.find(',', from) : text.size();
        if (to == std::string::npos || !CLI::detail::lexical_cast(text.substr(from, to - from), out[k]))
            return Error{ErrorCode::BadInput, "'" + text + "' is no move: say X,Y,Z in mm."};
        from = to + 1;
    }
    return out;
}

int fit(const RigOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    if (kit->joints.empty()) return output.refuse({ErrorCode::BadInput, "The kit has no joints."});
    if (o.shape.empty() == o.morphs.empty())
        return output.refuse({ErrorCode::BadInput, "Say --shape or --morph, and not both."});
    Points shape;
    std::vector<Joint> joints;
    if (!o.shape.empty()) {
        auto read = read_base_shape(*kit, o.shape);
        if (!read) return output.refuse(read.error());
        shape = std::move(*read);
        joints = joints_in(*kit, shape);
    } else {
        std::vector<Morph> morphs;
        const auto amounts = read_amounts(*kit, o.morphs, 1, morphs);
        if (!amounts) return output.refuse(amounts.error());
        shape = mix_morphs(kit->mesh.positions, *amounts);
        joints = mixed_joints(*kit, *amounts);
    }
    const std::string ending = std::filesystem::path(o.out).extension().string();
    const bool glb = ending == ".glb";
    if (!glb && ending != ".json")
        return output.refuse({ErrorCode::BadInput, "'" + o.out + "': --out must end in .json or .glb."});
    if (!glb && o.weights != WeightSettings{})
        return output.refuse({ErrorCode::BadInput, "Skin weights go with a GLB, not with a JSON of moves."});
    Json about_weights;
    if (glb) {
        const auto check = export_posable_glb(*kit, shape, joints, o.out, o.weights);
        if (!check) return output.refuse(check.error());
        about_weights = {{"most_joints", check->most}, {"worst_sum_error", check->worst_sum}};
    } else if (auto ok = write_file(o.out, joints_text(*kit, joints)); !ok) {
        return output.refuse(ok.error());
    }
    double most = 0;
    std::string farthest;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const double move = (joints[j].position - kit->joints[j].position).norm();
        if (move > most) most = move, farthest = joints[j].name;
    }
    char text[200];
    std::snprintf(text, sizeof text, "%zu joints; the farthest move is %.2f mm (%s)\n", joints.size(), most,
                  farthest.empty() ? "none" : farthest.c_str());
    output.result({{"out", o.out},
                   {"max_mm", most},
                   {"farthest", farthest},
                   {"weights", about_weights},
                   {"joints", Json::parse(joints_text(*kit, joints)).at("joints")}},
                  text);
    return 0;
}

int fix(const RigOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    auto morph = read_morph(o.morph, *kit);
    if (!morph) return output.refuse(morph.error());
    if (o.clear) morph->joints.clear();
    for (const std::string& text : o.joints) {
        const auto [name, value] = parted(text);
        const bool known = std::any_of(kit->joints.begin(), kit->joints.end(),
                                       [&, &joint_name = name](const Joint& j) { return j.name == joint_name; });
        if (!known)
            return output.refuse({ErrorCode::NotFound, "The kit has no joint '" + (name.empty() ? text : name) +
                                                           "'. Say NAME=X,Y,Z; kit show lists the names."});
        auto move = three_numbers(value);
        if (!move) return output.refuse(move.error());
        morph->joints[name] = *move;
    }
    if (!o.clear && o.joints.empty()) fix_joints(*kit, *morph);
    if (auto ok = write_file(o.out, morph_text(*morph)); !ok) return output.refuse(ok.error());
    Json moves = Json::object();
    for (const auto& [name, move] : morph->joints) moves[name] = {move.x(), move.y(), move.z()};
    output.result(
        {{"out", o.out}, {"fixed", moves}},
        "'" + morph->name + "': the moves of " + std::to_string(morph->joints.size()) + " joints are fixed\n");
    return 0;
}

}  // namespace

void add_rig(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<RigOptions>();
    CLI::App* rig = app.add_subcommand("rig", "Joints that go with the shape");
    rig->require_subcommand(1);
    CLI::App* fits =
        rig->add_subcommand("fit", "Where the joints are in a shape or mix: JSON of moves, or a posable GLB");
    fits->add_option("--kit", o->kit, "Folder of the base kit")->required();
    fits->add_option("--shape", o->shape, "A shape of the base (OBJ, PLY, GLB)");
    fits->add_option("--morph", o->morphs, "Morph file, FILE or FILE=AMOUNT; several make a mix");
    fits->add_option("--out", o->out, "File to write: .json or .glb")->required();
    fits->add_option("--smooth-weights", o->weights.smooth_mm,
                     "How far skin weights fade on the shape beyond what the kit says, mm (GLB)")
        ->check(CLI::Range(0.0, 100.0));
    fits->add_option("--joints-per-vertex", o->weights.most, "At most 4 or 8 (GLB)")->check(CLI::IsMember({4, 8}));
    fits->callback([o, &output, &exit_code] { exit_code = fit(*o, output); });
    CLI::App* fixes = rig->add_subcommand(
        "fix", "Keeps joints' moves with a morph: all as the shape tells them, or those that are given");
    fixes->add_option("--kit", o->kit, "Folder of the base kit")->required();
    fixes->add_option("--morph", o->morph, "The morph's file")->required();
    fixes->add_option("--joint", o->joints, "NAME=X,Y,Z: its move at amount 1, mm");
    fixes->add_flag("--clear", o->clear, "Takes out what was fixed before");
    fixes->add_option("--out", o->out, "Morph file to write")->required();
    fixes->callback([o, &output, &exit_code] { exit_code = fix(*o, output); });
}

}  // namespace veld::cli
