#include "core/project/records/packing.h"
#include "core/project/things.h"
#include "core/proof/proof_file.h"

namespace veld {

std::string pack_proofs(const ProjectState& state, BlobWriter& blobs) {
    std::vector<Proof> all;
    for (const auto& proof : state.proofs) all.push_back(*proof);
    return blobs.keep(proofs_text(all, state.kit->joints));
}

Status unpack_proofs(const Json& json, const BlobReader& blobs, ProjectState& out) {
    std::string text;
    if (!blobs.bytes(json.get<std::string>(), text)) return blobs.damaged("its proofs are missing.");
    auto all = proofs_from(text, out.kit->joints, "'" + blobs.path() + "', its proofs");
    if (!all) return all.error();
    for (Proof& proof : *all) add_proof(out, std::move(proof));
    return Done{};
}

}  // namespace veld
