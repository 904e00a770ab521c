#pragma once
// The base out to another program: what goes, in which unit and axes, and the memory of it that lets the return check
// know what to expect.
#include "core/exchange/sent_file.h"
#include "core/io/mesh_file.h"
#include "core/morph/morph.h"

namespace veld {

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
