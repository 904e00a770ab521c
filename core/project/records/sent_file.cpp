#include "core/exchange/sent_file.h"

#include "core/exchange/send_out.h"
#include "core/project/records/packing.h"

namespace veld {

Json pack_sent(const SentFile& f, BlobWriter& blobs) {
    Json out = {{"file", f.file}, {"stamp", f.stamp}, {"memory", Json::parse(sent_text(f))}};
    if (f.shape) out["shape"] = blobs.keep_array(*f.shape);
    return out;
}

Result<SentFile> unpack_sent(const Json& j, const BaseKit& kit, const BlobReader& blobs) {
    auto sent = parse_sent(j.at("memory").dump(), blobs.path(), kit);
    if (!sent) return sent.error();
    sent->file = j.at("file"), sent->stamp = j.at("stamp");
    if (j.contains("shape")) {
        auto shape = std::make_shared<Points>();
        if (!blobs.array(j["shape"], *shape) || shape->size() != kit.mesh.positions.size())
            return blobs.damaged("the shape that '" + sent->file + "' was sent with does not match the kit.");
        sent->shape = shape;
    }
    return sent;
}

}  // namespace veld
