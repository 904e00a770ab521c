// What a bake knows of tones: what was seen without its light, the base's own, and the way from one to the other.
#include <algorithm>

#include "core/skin/bake_work.h"

namespace veld {

// Per vertex of the skin, the mean of what was seen near it.
std::vector<std::optional<Vec3>> BakeWork::unlit_logs(const SeenPlaces& seen) const {
    std::vector<std::optional<Vec3>> out(base.positions.size());
    std::vector<int> count(out.size(), 0);
    for (Index t = 0; t < seen.size(); ++t) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Seen& s = seen[t][k];
            if (!s.colour || base.part[t] != 0) continue;
            const Index v = base.triangles[t][k];
            const Vec3 log = log_colour(*s.colour) - at_vertices(light, t, near_corner(static_cast<int>(k)));
            out[v] = out[v] ? Vec3(*out[v] + log) : log;
            ++count[v];
        }
    }
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (out[v]) *out[v] /= count[v];
    }
    return out;
}

// Per vertex of the skin.
Points BakeWork::base_logs() const {
    Points out(base.positions.size(), Vec3::Zero());
    for (Index t = 0; t < base.triangles.size(); ++t) {
        if (base.part[t] != 0) continue;
        for (std::size_t k = 0; k < 3; ++k)
            out[base.triangles[t][k]] = log_colour(base_colour(t, near_corner(static_cast<int>(k))));
    }
    return out;
}

Status BakeWork::take_tone_out(const SeenPlaces& seen) {
    const std::vector<std::optional<Vec3>> own = unlit_logs(seen);
    Points off(base.positions.size(), Vec3::Zero());
    if (settings.face_tone) {
        std::vector<Vec3> face;
        for (std::size_t v = 0; v < own.size(); ++v) {
            if (own[v] && base.region_names[base.region[v]] == "face") face.push_back(*own[v]);
        }
        if (face.empty()) return Done{};
        const Vec3 wanted = log_colour(*settings.face_tone), all = mean_tone(face) - wanted;
        off.assign(off.size(), all);
        tones = {{"face", all, static_cast<Index>(face.size())}};
    } else {
        std::vector<std::optional<Vec3>> like;
        if (settings.tone_like) {
            like = *settings.tone_like;
        } else {
            for (const Vec3& log : base_logs()) like.emplace_back(log);
        }
        auto field = tone_field(base, own, like);
        if (!field) return field.error();
        tones = std::move(field->regions), off = std::move(field->log);
    }
    if (light.empty()) light.assign(base.positions.size(), Vec3::Zero());
    for (std::size_t v = 0; v < light.size(); ++v) light[v] += settings.tone * off[v];
    return Done{};
}

}  // namespace veld
