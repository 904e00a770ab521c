#include "core/project/records/packing.h"

#include "core/project/database.h"

namespace veld {

std::string BlobWriter::keep(std::string bytes) {
    std::string id = blob_id(bytes);
    blobs_.try_emplace(id, std::move(bytes));
    return id;
}

Json similarity_json(const Similarity& s) {
    Json r = Json::array();
    for (int i = 0; i < 9; ++i) r.push_back(s.rotation(i / 3, i % 3));
    return {{"scale", s.scale},
            {"rotation", r},
            {"translation", {s.translation.x(), s.translation.y(), s.translation.z()}}};
}

Similarity similarity_from(const Json& j) {
    Similarity s;
    s.scale = j.at("scale");
    for (int i = 0; i < 9; ++i) s.rotation(i / 3, i % 3) = j.at("rotation").at(static_cast<std::size_t>(i));
    for (int k = 0; k < 3; ++k) s.translation[k] = j.at("translation").at(static_cast<std::size_t>(k));
    return s;
}

}  // namespace veld
