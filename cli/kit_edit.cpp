// veldstone-cli kit edit, pack, unpack: what a script may set in a kit, and kits as one file.
#include <algorithm>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/kit/kit_archive.h"
#include "core/kit/kit_joints.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/check_kit.h"
#include "core/kit_making/edit_kit.h"
#include "core/landmark/landmarks.h"

namespace veld::cli {
namespace {

struct EditOptions {
    std::string kit, out, landmarks;
    std::vector<std::string> points, regions, roles, right, rules, reduced, ties;
};

Result<LandmarkSet> wanted_places(const EditOptions& o) {
    LandmarkSet out;
    if (!o.landmarks.empty()) {
        auto kept = read_landmarks(o.landmarks);
        if (!kept) return kept.error();
        out = std::move(kept->set);
    }
    for (const std::string& text : o.points) {
        const auto [name, value] = parted(text);
        Vec3 p;
        if (name.empty() || std::sscanf(value.c_str(), "%lf,%lf,%lf", &p.x(), &p.y(), &p.z()) != 3)
            return Error{ErrorCode::BadInput, "--landmark wants NAME=X,Y,Z in millimetres, not '" + text + "'."};
        out.points[name] = p;
    }
    return out;
}

// A joint told by all of a region alike, on both sides; of nothing: as the skin weights say.
Status wanted_ties(const EditOptions& o, const BaseKit& kit, KitEdits& edits) {
    for (const std::string& text : o.ties) {
        const auto [joint, region] = parted(text);
        if (joint.empty())
            return Error{ErrorCode::BadInput,
                         "--tie wants JOINT=REGION, or JOINT= to take it back, not '" + text + "'."};
        if (region.empty()) {
            edits.ties[joint] = {};
            if (const std::string other = other_side(joint); !other.empty()) edits.ties[other] = {};
            continue;
        }
        const auto told = edits.regions.find(region);
        const VertexIndices& vertices = told == edits.regions.end() ? kit.region(region) : told->second;
        if (vertices.empty()) return Error{ErrorCode::NotFound, "The kit has no region '" + region + "'."};
        std::vector<double> shares(kit.mesh.positions.size(), 0);
        for (const Index v : vertices) {
            if (v >= shares.size())
                return Error{ErrorCode::BadInput,
                             "The region '" + region + "' names vertices that the base does not have."};
            shares[v] = 1;
        }
        auto ties = ties_by_shares(kit, joint, shares, true);
        if (!ties) return ties.error();
        for (auto& [name, tie] : *ties) edits.ties[name] = std::move(tie);
    }
    return Done{};
}

Result<KitEdits> wanted_edits(const EditOptions& o, const BaseKit& kit) {
    KitEdits out;
    for (const std::string& text : o.regions) {
        const auto [name, path] = parted(text);
        if (name.empty())
            return Error{ErrorCode::BadInput, "--region wants NAME=FILE with a list of vertices, not '" + text + "'."};
        auto bytes = read_file(path);
        if (!bytes) return bytes.error();
        const Json json = Json::parse(bytes->view(), nullptr, false);
        const bool list = json.is_array() && std::all_of(json.begin(), json.end(), [](const Json& v) {
                              return v.is_number_unsigned() && v.get<std::uint64_t>() < kNone;
                          });
        if (!list)
            return Error{ErrorCode::BadFile, "'" + path + "' is no JSON list of vertex numbers, such as [3, 4, 7]."};
        VertexIndices& region = out.regions[name];
        region = json.get<VertexIndices>();
        std::sort(region.begin(), region.end());
        region.erase(std::unique(region.begin(), region.end()), region.end());
    }
    if (auto ok = wanted_ties(o, kit, out); !ok) return ok.error();
    for (const std::string& text : o.roles) {
        const auto [role, joint] = parted(text);
        if (role.empty())
            return Error{ErrorCode::BadInput, "--role wants ROLE=JOINT, or ROLE= for nobody, not '" + text + "'."};
        out.roles[role] = joint;
    }
    for (const std::string& text : o.rules) {
        const auto [part, rule] = parted(text);
        if (part.empty()) return Error{ErrorCode::BadInput, "--goes-with wants PART=RULE, not '" + text + "'."};
        out.rules[part] = rule;
    }
    for (const std::string& text : o.reduced) {
        const auto [name, path] = parted(text);
        if (name.empty())
            return Error{ErrorCode::BadInput,
                         "--reduced wants NAME=FILE, or NAME= to take it out, not '" + text + "'."};
        out.reduced[name] = path;
    }
    for (const std::string& name : o.right) {
        if (name == "all") {
            for (const auto& [doubted, mm] : kit.doubts) out.looked_at.insert(doubted);
        } else {
            out.looked_at.insert(name);
        }
    }
    return out;
}

int edit(const EditOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto edits = wanted_edits(o, *kit);
    if (!edits) return output.refuse(edits.error());
    const auto places = wanted_places(o);
    if (!places) return output.refuse(places.error());
    auto edited = edited_kit(*kit, *edits);
    if (!edited) return output.refuse(edited.error());
    if (auto ok = move_landmarks(*places, *edited); !ok) return output.refuse(ok.error());
    const Status ok = o.out.empty() ? update_base_kit(*edited) : copy_base_kit(*edited, o.out);
    if (!ok) return output.refuse(ok.error());
    const std::string written = o.out.empty() ? o.kit : o.out;
    output.result({{"written", written},
                   {"landmarks", places->points.size()},
                   {"curves", places->curves.size()},
                   {"regions", edits->regions.size()},
                   {"roles", edits->roles.size()},
                   {"rules", edits->rules.size()},
                   {"reduced", edits->reduced.size()},
                   {"ties", edits->ties.size()},
                   {"doubts_left", edited->doubts.size()}},
                  written + ": " + std::to_string(places->points.size() + places->curves.size()) +
                      " landmarks and curves, " + std::to_string(edits->regions.size()) + " regions, " +
                      std::to_string(edits->roles.size()) + " roles, " + std::to_string(edits->ties.size()) +
                      " ties set; " + std::to_string(edited->doubts.size()) + " landmarks still to be looked at\n");
    return 0;
}

int pack(const EditOptions& o, const Output& output) {
    if (auto ok = pack_kit(o.kit, o.out); !ok) return output.refuse(ok.error());
    output.result({{"written", o.out}}, o.out + "\n");
    return 0;
}

int unpack(const EditOptions& o, const Output& output) {
    if (auto ok = unpack_kit(o.kit, o.out, terminal_progress()); !ok) return output.refuse(ok.error());
    const auto kit = read_base_kit(o.out);
    if (!kit) return output.refuse(kit.error());
    output.result({{"written", o.out}, {"vertices", kit->mesh.positions.size()}},
                  o.out + ": " + std::to_string(kit->mesh.positions.size()) + " vertices\n");
    return 0;
}

}  // namespace

void add_kit_editing(CLI::App& kit, const Output& output, int& exit_code) {
    auto o = std::make_shared<EditOptions>();
    auto* editing = kit.add_subcommand("edit", "Landmarks, regions and roles of a kit; what is looked at and right");
    editing->add_option("kit", o->kit, "Folder of the kit")->required();
    editing->add_option("--landmark", o->points, "NAME=X,Y,Z in the kit's frame, mm");
    editing->add_option("--landmarks", o->landmarks, "Landmark file in the kit's frame, mm");
    editing->add_option("--region", o->regions, "NAME=FILE: a JSON list of vertex numbers");
    editing->add_option("--role", o->roles, "ROLE=JOINT: which of the file's joints it is; ROLE= for nobody");
    editing->add_option("--goes-with", o->rules,
                        "PART=RULE: what a part goes with: eye, upper_jaw, lower_jaw, edge (of the lids), skin");
    editing->add_option("--reduced", o->reduced,
                        "NAME=FILE: a mesh of fewer vertices that goes along with the base; NAME= takes it out");
    editing->add_option(
        "--tie", o->ties,
        "JOINT=REGION: the skin that tells where a joint is, on both sides; JOINT= as its weights say");
    editing->add_option("--right", o->right, "A landmark that is right where it is; 'all' for every doubted one");
    editing->add_option("--out", o->out, "Write a copy to this folder instead");
    editing->callback([o, &output, &exit_code] { exit_code = edit(*o, output); });
    auto* packing = kit.add_subcommand("pack", "A kit as one zip file");
    packing->add_option("kit", o->kit, "Folder of the kit")->required();
    packing->add_option("--out", o->out, "Zip file to write")->required();
    packing->callback([o, &output, &exit_code] { exit_code = pack(*o, output); });
    auto* unpacking = kit.add_subcommand("unpack", "A kit out of a zip file");
    unpacking->add_option("zip", o->kit, "The zip file")->required();
    unpacking->add_option("--out", o->out, "A new or empty folder")->required();
    unpacking->callback([o, &output, &exit_code] { exit_code = unpack(*o, output); });
}

}  // namespace veld::cli
