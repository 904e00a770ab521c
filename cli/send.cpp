// veldstone-cli send: the base, or a part of it, out to another program, with a memory of what went.
#include <filesystem>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/send_out.h"
#include "core/rig/pose_file.h"

namespace veld::cli {
namespace {

struct SendArguments {
    std::string kit, out, scope = "whole", of, unit = "mm", up = "+Y", pose, morph;
    std::vector<std::string> morphs, without;
    int level = 0;
};

int run(const SendArguments& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    SendOptions options;
    options.scope = *send_scope_from_name(o.scope), options.of = o.of, options.level = o.level,
    options.parts_off = o.without;
    options.unit = *unit_from_name(o.unit), options.up = *up_axis_from_name(o.up);
    if (!o.pose.empty()) {
        if (const auto kept = kit->rest_poses.find(o.pose); kept != kit->rest_poses.end()) {
            options.pose = kept->second;
        } else {
            auto pose = read_pose(o.pose, kit->joints);
            if (!pose) return output.refuse(pose.error());
            options.pose = std::move(*pose);
        }
    }
    std::vector<Morph> morphs(o.morphs.size());
    std::vector<MorphAmount> amounts;
    for (std::size_t i = 0; i < o.morphs.size(); ++i) {
        const std::size_t at = o.morphs[i].rfind('=');
        auto morph = read_morph(o.morphs[i].substr(0, at), *kit);
        if (!morph) return output.refuse(morph.error());
        morphs[i] = std::move(*morph);
        double amount = 1;
        if (at != std::string::npos && !CLI::detail::lexical_cast(o.morphs[i].substr(at + 1), amount))
            return output.refuse({ErrorCode::BadInput, "'" + o.morphs[i] + "': the amount after '=' is no number."});
        amounts.push_back({&morphs[i], amount});
    }
    auto sent = send_out(*kit, options, amounts, o.out);
    if (!sent) return output.refuse(sent.error());
    sent->morph = o.morph;
    if (!o.morph.empty()) {
        if (auto ok = write_file(sidecar_path(o.out), sent_text(*sent)); !ok) return output.refuse(ok.error());
    }
    output.result({{"out", o.out}, {"memory", sidecar_path(o.out)}, {"sent", Json::parse(sent_text(*sent))}},
                  "sent: " + o.out + "\n");
    return 0;
}

}  // namespace

void add_send(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<SendArguments>();
    auto* command = app.add_subcommand("send", "The base out to another program; FILE.sent.json remembers what went");
    command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    command->add_option("--out", o->out, ".obj, .ply or .glb")->required();
    command->add_option("--scope", o->scope, "What of it")->check(CLI::IsMember({"whole", "head", "part", "region"}));
    command->add_option("--of", o->of, "Name of the part or region");
    command->add_option("--without", o->without, "Parts that stay at home");
    command->add_option("--level", o->level, "Subdivisions")->check(CLI::Range(0, 2));
    command->add_option("--unit", o->unit, "Unit of the file")
        ->check(CLI::IsMember({"mm", "cm", "m", "in", "dm", "ft"}));
    command->add_option("--up", o->up, "Axis that points up in the file")
        ->check(CLI::IsMember({"+X", "-X", "+Y", "-Y", "+Z", "-Z"}));
    command->add_option("--morph", o->morphs, "Morph file, or FILE=AMOUNT, switched on");
    command->add_option("--for", o->morph, "Name of the morph that the return is meant for");
    command->add_option(
        "--pose", o->pose,
        "Pose file: joint names with three angles in degrees; or a rest pose of the kit, such as A or T");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
