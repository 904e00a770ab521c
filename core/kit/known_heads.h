#pragma once
// How heads differ that are known: their mean difference from the base and its principal components, for the vertices
// of the head's skin. Beside the kit as known_heads.bin (docs/formats.md); a kit need not have it.
#include <Eigen/Core>
#include <string>
#include <string_view>

#include "core/base/types.h"

namespace veld {

inline constexpr const char* kKnownHeadsFile = "known_heads.bin";

struct KnownHeads {
    VertexIndices vertex;       // of the base, ascending
    Eigen::MatrixXf mean;       // 3 x vertices, mm: what is added to the base
    Eigen::MatrixXf mode;       // 3 rows a vertex, one column a component, scaled by its standard deviation, mm
    std::vector<float> beyond;  // per vertex, mm: what heads that were left out have beyond the components (rms)
    int heads = 0;              // that it was made from
    bool empty() const { return vertex.empty(); }
    int count() const { return static_cast<int>(mode.cols()); }
};

// The file's bytes: numbers of 16 bits, each component with its own step. topology: BaseKit::topology_key.
std::string known_heads_bytes(const KnownHeads& heads, const std::string& topology);
// `why` says what is wrong with it (empty: nothing); vertices: the base's.
KnownHeads known_heads_from(std::string_view bytes, const std::string& topology, std::size_t vertices,
                            std::string& why);

}  // namespace veld
