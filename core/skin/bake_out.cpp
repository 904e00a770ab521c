#include "core/skin/bake_out.h"

#include <cmath>
#include <filesystem>
#include <set>

#include "core/base/file.h"
#include "core/base/json.h"

namespace veld {
namespace {

void put_in(std::string& text, const std::string& what, const std::string& value) {
    for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + value.size()))
        text.replace(at, what.size(), value);
}

Json colours_json(const std::map<std::string, Colour>& colours) {
    Json out = Json::object();
    for (const auto& [name, c] : colours) out[name] = {c.r, c.g, c.b};
    return out;
}

}  // namespace

MapImage scaled_heights(const MapImage& heights, double& mm_per_unit) {
    float most = 1e-6f;
    for (const float h : heights.real) most = std::max(most, std::abs(h));
    mm_per_unit = 2.0 * most;
    MapImage out = heights;
    out.real.clear();
    out.unit.reserve(heights.real.size());
    for (const float h : heights.real)
        out.unit.push_back(static_cast<std::uint16_t>(std::lround(65535 * (0.5 + h / mm_per_unit))));
    return out;
}

std::string MapWriter::path_of(const UvTile& tile, SkinMap map) const {
    std::string name = files_.pattern;
    put_in(name, "{name}", files_.name), put_in(name, "{map}", skin_map_name(map)), put_in(name, "{tile}", tile.name);
    put_in(name, "{udim}", std::to_string(tile.number));
    for (char& c : name) {
        if (c == '/' || c == '\\' || c == ':') c = '_';
    }
    const MapFormat format = map == SkinMap::Displacement ? files_.heights : files_.format;
    return (std::filesystem::path(files_.folder) / (name + map_format_ending(format))).string();
}

Status MapWriter::prepare() const {
    std::set<std::string> names;
    for (const UvTile& tile : tiles_) {
        for (const SkinMap map : kAllSkinMaps) {
            if (!names.insert(path_of(tile, map)).second)
                return Error{ErrorCode::BadInput, "The pattern '" + files_.pattern +
                                                      "' gives two maps one name; put {map} and {tile} into it."};
        }
    }
    std::error_code failed;
    std::filesystem::create_directories(files_.folder, failed);
    if (failed)
        return Error{ErrorCode::Io, "The folder '" + files_.folder + "' cannot be made: " + failed.message() + "."};
    return Done{};
}

Status MapWriter::write(const BakedTile& tile) {
    for (const auto& [map, image] : tile.maps) {
        const bool heights = map == SkinMap::Displacement;
        const MapFormat format = heights ? files_.heights : files_.format;
        Written about{
            path_of(tile.tile, map), skin_map_name(map), tile.tile.name, map_format_name(format), image.width, 0, 0};
        const bool scale = heights && !holds_reals(format);
        if (scale) about.zero_at = 0.5;
        const auto bytes = encode_map(scale ? scaled_heights(image, about.mm_per_unit) : image, format);
        if (!bytes) return bytes.error();
        if (auto ok = write_file(about.file, *bytes); !ok) return ok;
        written_.push_back(about.file);
        about_.push_back(std::move(about));
    }
    return Done{};
}

Error MapWriter::stopped(Error error) const {
    if (!written_.empty())
        error.message += " " + std::to_string(written_.size()) + (written_.size() == 1 ? " map was" : " maps were") +
                         " written before that, the last '" + written_.back() + "'.";
    return error;
}

Status MapWriter::write_about(const BakeReport& report) {
    Json json = {{"format", "veldstone maps"}, {"version", 1}, {"name", files_.name}};
    bool parts = false, regions = false;
    for (const Written& w : about_) {
        Json one = {
            {"file", file_name(w.file)}, {"map", w.map}, {"tile", w.tile}, {"format", w.format}, {"size", w.size}};
        if (w.map == skin_map_name(SkinMap::Displacement)) one["unit"] = "mm";
        if (w.mm_per_unit > 0) one["zero_at"] = w.zero_at, one["mm_per_unit"] = w.mm_per_unit;
        parts |= w.map == skin_map_name(SkinMap::Parts), regions |= w.map == skin_map_name(SkinMap::Regions);
        json["maps"].push_back(one);
    }
    if (parts) json["part_colours"] = colours_json(report.part_colours);
    if (regions) json["region_colours"] = colours_json(report.region_colours);
    for (const RegionReach& r : report.reaches)
        json["reach_mm"][r.region] = {{"median", r.median_mm}, {"far", r.far_mm}, {"reach", r.reach_mm}};
    json["seen"] = report.seen, json["missed"] = report.missed, json["wrong_sheet"] = report.wrong;
    if (report.darkest > 0) json["light"] = {{"darkest", report.darkest}, {"lightest", report.lightest}};
    json["notes"] = report.notes;
    const std::string path = (std::filesystem::path(files_.folder) / (files_.name + "_maps.json")).string();
    if (auto ok = write_file(path, json.dump(2) + "\n"); !ok) return ok;
    written_.push_back(path);
    return Done{};
}

}  // namespace veld
