// veldstone-cli return-check: what differs in a mesh that came back from another program, repaired into a morph.
#include "core/exchange/return_check.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/io/mesh_file.h"
#include "core/morph/morph_file.h"

namespace veld::cli {
namespace {

struct CheckOptions {
    std::string kit, file, name, out, obj, sent, seat = "as-it-lies", parts = "as-they-are", answer = "ask";
    std::vector<std::string> morphs;
    double noise_mm = ReturnOptions{}.noise_mm, fade_mm = ReturnOptions{}.seat_fade_mm;
    bool subtract = false, keep_sent = false;
};

int run(const CheckOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto returned = read_mesh(o.file);
    if (!returned) return output.refuse(returned.error());
    std::vector<Morph> morphs;
    for (const std::string& path : o.morphs) {
        auto m = read_morph(path, *kit);
        if (!m) return output.refuse(m.error());
        morphs.push_back(std::move(*m));
    }
    ReturnOptions options;
    options.subtract_leftovers = o.subtract;
    for (const Morph& m : morphs) options.known.push_back(&m);
    options.subtract_sent = !o.keep_sent, options.noise_mm = o.noise_mm, options.seat_fade_mm = o.fade_mm;
    options.seat = o.seat == "head-to-neck"   ? Seat::HeadToNeck
                   : o.seat == "neck-to-head" ? Seat::NeckToHead
                                              : Seat::AsItLies;
    options.answer = o.answer == "take-out" ? ReturnAnswer::Take
                     : o.answer == "leave"  ? ReturnAnswer::Leave
                                            : ReturnAnswer::Ask;
    std::optional<SentFile> sent;
    if (!o.sent.empty()) {
        auto bytes = read_file(o.sent);
        if (!bytes) return output.refuse(bytes.error());
        auto memory = parse_sent(bytes->view(), o.sent, *kit);
        if (!memory) return output.refuse(memory.error());
        sent = std::move(*memory);
    } else {
        auto memory = read_sidecar(o.file, *kit);
        if (!memory) return output.refuse(memory.error());
        sent = std::move(*memory);
    }
    if (sent) options.sent = &*sent;
    auto check = check_return(*kit, returned->mesh, options, terminal_progress());
    if (!check) return output.refuse(check.error());
    Json json = {{"file", o.file},
                 {"relative", check->relative},
                 {"steps", Json::array()},
                 {"leftovers", Json::array()},
                 {"exploded", check->exploded}};
    std::string text;
    for (const ReturnStep& s : check->steps) {
        json["steps"].push_back({{"what", s.what}, {"why", s.why}, {"repaired", s.repaired}});
        text += (s.repaired ? "repaired: " : "note: ") + s.what + ". " + s.why + "\n";
    }
    for (const Leftover& l : check->leftovers) json["leftovers"].push_back({{"name", l.name}, {"amount", l.amount}});
    if (check->relative && check->steps.empty()) text = "It is the base's own mesh, in its order, unit and place.\n";
    if (!check->relative && (!o.out.empty() || !o.obj.empty()))
        return output.refuse(
            {ErrorCode::BadInput, "'" + o.file + "': " + check->steps.back().what + ". " + check->steps.back().why});
    if (check->question) {
        const ReturnQuestion& q = *check->question;
        json["question"] = {{"what", q.what},           {"why", q.why},
                            {"explained", q.explained}, {"scale", q.scale},
                            {"degrees", q.degrees},     {"move_mm", {q.move_mm.x(), q.move_mm.y(), q.move_mm.z()}}};
        text += "question: " + q.what + ". " + q.why + "\n";
        if (!o.out.empty() || !o.obj.empty())
            return output.refuse(
                {ErrorCode::Undecided, "'" + o.file + "': " + q.what + ". " + q.why +
                                           " Nothing was written; say --answer take-out or --answer leave."});
    }
    if (check->relative)
        place_parts(*kit,
                    o.parts == "follow" ? PartsChoice::Follow
                    : o.parts == "stay" ? PartsChoice::Stay
                                        : PartsChoice::AsTheyAre,
                    check->positions);
    json["filled"] = check->filled;
    json["remembered"] = sent.has_value(), json["ambiguous"] = check->ambiguous, json["for"] = check->morph;
    if (!o.out.empty()) {
        auto morph = make_morph(*kit, check->positions, o.name.empty() ? file_name(o.file) : o.name);
        if (!morph) return output.refuse(morph.error());
        morph->origin = "Came back as " + file_name(o.file);
        if (auto ok = write_file(o.out, morph_text(*morph)); !ok) return output.refuse(ok.error());
        json["out"] = o.out, json["vertices"] = morph->index.size();
        text += "morph '" + morph->name + "': " + std::to_string(morph->index.size()) + " vertices move\n";
    }
    if (!o.obj.empty()) {
        if (auto ok = export_shape_obj(*kit, check->positions,
                                       "Returned " + file_name(o.file) + " in the base's order; mm, Y up", o.obj);
            !ok)
            return output.refuse(ok.error());
        json["obj"] = o.obj;
    }
    output.result(json, text);
    return 0;
}

}  // namespace

void add_return_check(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<CheckOptions>();
    auto* command = app.add_subcommand(
        "return-check", "Say what differs in a mesh that came back from another program, and repair it");
    command->add_option("FILE", o->file, "The mesh: OBJ, PLY, STL, GLB, glTF")->required();
    command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    command->add_option("--morph", o->morphs, "Morphs that may still be inside, besides the kit's expressions");
    command->add_flag("--subtract", o->subtract, "Take shapes that are still inside out again");
    command->add_option("--sent", o->sent, "Memory of what was sent (default: FILE.sent.json, when it is there)");
    command->add_flag("--keep-sent", o->keep_sent, "Leave the morphs that went out with it inside");
    command->add_option("--noise", o->noise_mm, "Moved by less than this many mm: set back exactly")
        ->check(CLI::Range(0.0, 1.0));
    command->add_option("--seat", o->seat, "A head without its body")
        ->check(CLI::IsMember({"as-it-lies", "head-to-neck", "neck-to-head"}));
    command->add_option("--fade", o->fade_mm, "Over which the seat fades, mm")->check(CLI::Range(1.0, 400.0));
    command->add_option("--parts", o->parts, "Eyes, teeth, lashes")
        ->check(CLI::IsMember({"as-they-are", "follow", "stay"}));
    command
        ->add_option(
            "--answer", o->answer,
            "When it came back in another size, turn or place that may be meant: undo it (take-out), or leave it")
        ->check(CLI::IsMember({"ask", "take-out", "leave"}));
    command->add_option("--name", o->name, "Name of the morph (default: the file's)");
    command->add_option("--out", o->out, "Write the repaired shape as a morph file");
    command->add_option("--obj", o->obj, "Write the repaired shape as OBJ in the base's order");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
