#pragma once
// The base out to another program: what goes, in which unit and axes, and the memory of it that lets the return check
// know what to expect.
#include <memory>

#include "core/io/mesh_file.h"
#include "core/morph/morph.h"
#include "core/rig/pose.h"

namespace veld {

enum class SendScope { Whole, Head, Part, Region };
inline constexpr SendScope kSendScopes[] = {SendScope::Whole, SendScope::Head, SendScope::Part, SendScope::Region};
const char* send_scope_name(SendScope scope);
std::optional<SendScope> send_scope_from_name(const std::string& name);

// What of the base goes out, and how it stands.
struct SendOptions {
    SendScope scope = SendScope::Whole;  // Head: the head's skin and what is in it
    std::string of;                      // the part's or region's name
    int level = 0;                       // Catmull-Clark subdivisions, 0 to 2
    std::vector<std::string> parts_off;
    Unit unit = Unit::Millimetre;  // GLB is metres, Y up, whatever is said here
    UpAxis up = UpAxis::PlusY;
    std::optional<Pose> pose;  // empty: at rest
    bool operator==(const SendOptions&) const = default;
};

struct SentFile {
    std::string file;  // path
    std::string topology;
    SendOptions options;
    std::vector<std::pair<std::string, double>> morphs;  // that were on, by name
    std::string morph;                                   // the bank morph that a return is meant for; empty: a new one
    std::shared_ptr<const Points>
        shape;          // of the base with these morphs, at rest, mm; null: the base itself. Not in the sidecar
    std::string stamp;  // of the file as it was written; the project's
};

// The faces of the base that go, as a mesh of its own at base level. vertex: per vertex of it, the base's.
struct SentPiece {
    std::string name;  // in words: "the whole base"
    Mesh mesh;
    std::vector<Index> vertex;
};
// shape: of the whole base. Fails with BadInput when nothing is left, or a part or region is not there.
Result<SentPiece> piece_to_send(const BaseKit& kit, const SendOptions& options, const Points& shape);

// Writes the file (.obj, .ply, .glb by its extension) and FILE.sent.json beside it.
Result<SentFile> send_out(const BaseKit& kit, const SendOptions& options, const std::vector<MorphAmount>& morphs,
                          const std::string& path);

std::string sidecar_path(const std::string& file);
std::string sent_text(const SentFile& sent);
Result<SentFile> parse_sent(std::string_view text, const std::string& path, const BaseKit& kit);
// Of a mesh that came back: the sidecar beside it, if it has one. Fails with BadFile on a damaged one.
Result<std::optional<SentFile>> read_sidecar(const std::string& file, const BaseKit& kit);

}  // namespace veld
