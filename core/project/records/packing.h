#pragma once
// Every record of a project as JSON and back (docs/formats.md), each in the .cpp file of its record; heavy arrays are
// blobs. What reads throws nlohmann's exceptions on JSON that is no such record, which unpack_state() catches, and
// fails with BadFile on blobs that do not belong.
#include "core/project/records/blobs.h"
#include "core/project/state.h"

namespace veld {

Json pack_source(const Source& source, BlobWriter& blobs);
// kit: for sources of before they could be tidied
Result<Source> unpack_source(const Json& json, const BaseKit& kit, const BlobReader& blobs);

Json pack_photo_set(const PhotoSet& set, BlobWriter& blobs);
Result<PhotoSet> unpack_photo_set(const Json& json, const BlobReader& blobs);

Json pack_fit(const FitRecord& fit, BlobWriter& blobs);
// subject: whose it is, with its sources and photo sets
Result<FitRecord> unpack_fit(const Json& json, const BaseKit& kit, const Subject& subject, const BlobReader& blobs);

// What a fit from photographs adds to its entry.
void pack_photo_record(const FitRecord& fit, Json& out, BlobWriter& blobs);
Status unpack_photo_record(const Json& json, const BaseKit& kit, const BlobReader& blobs, FitRecord& out);

Json pack_skin(const LayeredSkin& skin, BlobWriter& blobs);
Result<std::shared_ptr<const LayeredSkin>> unpack_skin(const Json& json, const BlobReader& blobs);
// Before skins had layers a fit wore a picture of its own in place of one of the kit's: that as a skin of one layer;
// null: the fit has none.
Result<std::shared_ptr<const LayeredSkin>> unpack_fit_skin(const Json& fit, const BaseKit& kit,
                                                           const BlobReader& blobs);

// Morphs, the mix and what is set for it, into the project's own object.
void pack_bank(const ProjectState& state, Json& out, BlobWriter& blobs);
Status unpack_bank(const Json& json, const BlobReader& blobs, ProjectState& out);

Json pack_sent(const SentFile& sent, BlobWriter& blobs);
Result<SentFile> unpack_sent(const Json& json, const BaseKit& kit, const BlobReader& blobs);

Json pack_rest_work(const RestWork& work, BlobWriter& blobs);
Result<RestWork> unpack_rest_work(const Json& json, const BaseKit& kit, const BlobReader& blobs);

// Proofs that people made: the id of their text.
std::string pack_proofs(const ProjectState& state, BlobWriter& blobs);
Status unpack_proofs(const Json& json, const BlobReader& blobs, ProjectState& out);

// --- what several of them hold
Json pack_pose(const Pose& pose, BlobWriter& blobs);
// of: whose pose it is, for messages
Result<Pose> unpack_pose(const Json& json, const BaseKit& kit, const std::string& of, const BlobReader& blobs);
Json similarity_json(const Similarity& similarity);
Similarity similarity_from(const Json& json);
// Projects of before there were ids keep the one that the object was just made with.
template <class Key>
void read_id(const Json& json, const char* name, Key& id) {
    if (const auto value = id_value(json.value(name, ""))) id.value = value;
}

}  // namespace veld
