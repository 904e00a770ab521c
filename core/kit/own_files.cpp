#include "core/kit/own_files.h"

#include "core/base/json.h"

namespace veld {

SoftWeights share_weights_from(std::string_view text, const std::string& topology_key, std::size_t vertices,
                               std::string& why) {
    const std::string damaged = std::string(kShareFile) + " is damaged; repair or remove it.";
    SoftWeights out;
    try {
        const Json json = Json::parse(text.begin(), text.end());
        if (json.at("format") != "veldstone-share-weights" || json.at("version") != 1) return why = damaged, out;
        if (json.at("topology") != topology_key)
            return why = std::string(kShareFile) + " belongs to another base mesh; remove it.", out;
        out.vertex = json.at("head").at("vertex").get<VertexIndices>();
        out.weight = json.at("head").at("weight").get<std::vector<float>>();
    } catch (const Json::exception&) {
        return why = damaged, SoftWeights();
    }
    bool whole = out.vertex.size() == out.weight.size();
    for (std::size_t i = 0; whole && i < out.vertex.size(); ++i)
        whole = out.vertex[i] < vertices && (i == 0 || out.vertex[i] > out.vertex[i - 1]) && out.weight[i] > 0 &&
                out.weight[i] <= 1;
    if (!whole) why = damaged;
    return out;
}

}  // namespace veld
