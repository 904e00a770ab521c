#include "core/kit/known_heads.h"

#include <cmath>
#include <cstring>

#include "core/base/json.h"

namespace veld {
namespace {

constexpr const char* kFormat = "veldstone-known-heads";
constexpr std::size_t kMostModes = 400;

// One float for the step, then a whole number of 16 bits a value.
void put_row(const float* values, std::size_t count, std::string& out) {
    float most = 0;
    for (std::size_t i = 0; i < count; ++i) most = std::max(most, std::abs(values[i]));
    const float step = most > 0 ? most / 32767 : 1;
    out.append(reinterpret_cast<const char*>(&step), sizeof step);
    for (std::size_t i = 0; i < count; ++i) {
        const auto v = static_cast<std::int16_t>(std::lround(values[i] / step));
        out.append(reinterpret_cast<const char*>(&v), sizeof v);
    }
}

std::size_t row_bytes(std::size_t count) { return sizeof(float) + count * sizeof(std::int16_t); }

bool take_row(std::string_view& bytes, float* values, std::size_t count) {
    float step = 0;
    std::memcpy(&step, bytes.data(), sizeof step);
    if (!std::isfinite(step) || !(step > 0) || step > 1) return false;
    for (std::size_t i = 0; i < count; ++i) {
        std::int16_t v = 0;
        std::memcpy(&v, bytes.data() + sizeof step + i * sizeof v, sizeof v);
        values[i] = static_cast<float>(v) * step;
    }
    bytes.remove_prefix(row_bytes(count));
    return true;
}

}  // namespace

// {"format":...}\n, then vertex numbers of 32 bits, the mean's row, one a component, one of `beyond`.
std::string known_heads_bytes(const KnownHeads& heads, const std::string& topology) {
    const Json head = {{"format", kFormat},           {"version", 1},
                       {"topology", topology},        {"vertices", heads.vertex.size()},
                       {"components", heads.count()}, {"heads", heads.heads}};
    std::string out = head.dump() + "\n";
    for (const Index v : heads.vertex) {
        const auto n = static_cast<std::uint32_t>(v);
        out.append(reinterpret_cast<const char*>(&n), sizeof n);
    }
    const std::size_t n = heads.vertex.size();
    put_row(heads.mean.data(), 3 * n, out);
    for (int k = 0; k < heads.count(); ++k) put_row(heads.mode.col(k).data(), 3 * n, out);
    put_row(heads.beyond.data(), n, out);
    return out;
}

KnownHeads known_heads_from(std::string_view bytes, const std::string& topology, std::size_t vertices,
                            std::string& why) {
    const std::string damaged = std::string(kKnownHeadsFile) + " is damaged; put it there again or remove it.";
    KnownHeads out;
    const std::size_t line = bytes.substr(0, 4096).find('\n');
    if (line == std::string_view::npos) return why = damaged, out;
    std::size_t n = 0, modes = 0;
    try {
        const Json head = Json::parse(bytes.begin(), bytes.begin() + static_cast<std::ptrdiff_t>(line));
        if (head.at("format") != kFormat || head.at("version") != 1) return why = damaged, out;
        if (head.at("topology") != topology)
            return why = std::string(kKnownHeadsFile) + " belongs to another base mesh; remove it.", out;
        n = head.at("vertices").get<std::size_t>(), modes = head.at("components").get<std::size_t>();
        out.heads = head.at("heads").get<int>();
    } catch (const Json::exception&) {
        return why = damaged, KnownHeads();
    }
    bytes.remove_prefix(line + 1);
    if (n == 0 || n > vertices || modes > kMostModes ||
        bytes.size() != n * sizeof(std::uint32_t) + (modes + 1) * row_bytes(3 * n) + row_bytes(n))
        return why = damaged, KnownHeads();
    for (std::size_t i = 0; i < n; ++i) {
        std::uint32_t v = 0;
        std::memcpy(&v, bytes.data() + i * sizeof v, sizeof v);
        if (v >= vertices || (i > 0 && v <= out.vertex.back())) return why = damaged, KnownHeads();
        out.vertex.push_back(v);
    }
    bytes.remove_prefix(n * sizeof(std::uint32_t));
    const auto rows = static_cast<Eigen::Index>(n);
    out.mean.resize(3, rows), out.mode.resize(3 * rows, static_cast<Eigen::Index>(modes)), out.beyond.resize(n);
    bool whole = take_row(bytes, out.mean.data(), 3 * n);
    for (Eigen::Index k = 0; whole && k < out.mode.cols(); ++k) whole = take_row(bytes, out.mode.col(k).data(), 3 * n);
    whole = whole && take_row(bytes, out.beyond.data(), n);
    for (const float mm : out.beyond) whole &= mm >= 0;
    if (!whole) return why = damaged, KnownHeads();
    return out;
}

}  // namespace veld
