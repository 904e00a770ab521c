#include "core/kit/morph_parts.h"

#include <cstring>

#include "core/base/json.h"

namespace veld {
namespace {

Error bad_morph(const std::string& path, const std::string& why) {
    return {ErrorCode::BadFile, "'" + path + "': " + why};
}

// Length and text of the card, count, 32-bit indices, doubles.
Status take_binary(std::string_view bytes, const std::string& path, MorphParts& out) {
    std::size_t at = kBinaryMorph.size();
    const auto take = [&](void* to, std::size_t size) {
        if (bytes.size() - at < size) return false;
        if (size) std::memcpy(to, bytes.data() + at, size);
        at += size;
        return true;
    };
    std::uint64_t card = 0, count = 0;
    if (!take(&card, 8) || bytes.size() - at < card) return bad_morph(path, "is cut short.");
    out.card = bytes.substr(at, card);
    at += card;
    if (!take(&count, 8) || (bytes.size() - at) / (sizeof(Index) + sizeof(Vec3)) != count)
        return bad_morph(path, "is cut short.");
    out.index.resize(count), out.delta.resize(count);
    if (!take(out.index.data(), count * sizeof(Index)) ||
        !take(static_cast<void*>(out.delta.data()), count * sizeof(Vec3)))
        return bad_morph(path, "is cut short.");
    return Done{};
}

Status take_text(std::string_view text, const std::string& path, MorphParts& out) {
    Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object())
        return bad_morph(path, "is no complete JSON file. It may be cut short.");
    try {
        out.index = json.at("index").get<std::vector<Index>>();
        for (const Json& d : json.at("delta"))
            out.delta.emplace_back(d.at(0).get<double>(), d.at(1).get<double>(), d.at(2).get<double>());
    } catch (const Json::exception& e) {
        return bad_morph(path, std::string("is damaged: ") + e.what());
    }
    json.erase("index"), json.erase("delta");
    out.card = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return Done{};
}

}  // namespace

Result<MorphParts> morph_parts(std::string_view bytes, const std::string& path) {
    MorphParts out;
    const Status took = bytes.starts_with(kBinaryMorph) ? take_binary(bytes, path, out) : take_text(bytes, path, out);
    if (!took) return took.error();
    if (out.index.size() != out.delta.size())
        return bad_morph(path, "has " + std::to_string(out.index.size()) + " indices but " +
                                   std::to_string(out.delta.size()) + " differences.");
    for (std::size_t i = 0; i < out.index.size(); ++i) {
        if (i > 0 && out.index[i] <= out.index[i - 1])
            return bad_morph(path, "entry " + std::to_string(i) + ": the vertex is out of order.");
        if (!out.delta[i].allFinite())
            return bad_morph(path, "entry " + std::to_string(i) + " is not a finite number.");
    }
    return out;
}

Status check_range(const MorphParts& parts, const std::string& path, std::size_t vertices) {
    if (parts.index.empty() || parts.index.back() < vertices) return Done{};
    return bad_morph(path, "moves vertex " + std::to_string(parts.index.back()) + ", which is out of range.");
}

}  // namespace veld
