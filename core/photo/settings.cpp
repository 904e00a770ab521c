#include "core/base/json.h"
#include "core/photo/photo_head.h"

namespace veld {

namespace {

const char* lens_name(PhotoLens::From from) {
    return from == PhotoLens::From::Picture ? "picture" : from == PhotoLens::From::Typed ? "typed" : "data";
}

// Throws nlohmann's exceptions and std::invalid_argument, caught below.
PhotoHeadSettings from_json(const Json& j) {
    PhotoHeadSettings out;
    for (const auto& [key, value] : j.items()) {
        if (key == "one_lens")
            out.one_lens = value.get<bool>();
        else if (key == "use_curves")
            out.use_curves = value.get<bool>();
        else if (key == "use_outline")
            out.use_outline = value.get<bool>();
        else if (key == "use_depth")
            out.use_depth = value.get<bool>();
        else if (key == "eyes_mm")
            out.eyes_mm = value.get<double>();
        else if (key == "strength")
            out.strength = value.get<double>();
        else if (key == "neck_band_mm")
            out.neck_band_mm = value.get<double>();
        else if (key == "heads")
            out.heads = value.get<std::vector<std::string>>();
        else if (key == "lenses") {
            for (const Json& l : value) {
                PhotoLens lens;
                const auto from = l.value("from", std::string("picture"));
                if (from != "picture" && from != "typed" && from != "data")
                    throw std::invalid_argument("lenses: from");
                lens.from = from == "typed"  ? PhotoLens::From::Typed
                            : from == "data" ? PhotoLens::From::Data
                                             : PhotoLens::From::Picture;
                lens.focal_35mm = l.value("focal_35mm", 0.0), lens.parallel = l.value("parallel", false);
                if (!(lens.focal_35mm >= 0 && lens.focal_35mm < 5000))
                    throw std::invalid_argument("lenses: focal_35mm");
                if (l.contains("centre"))
                    lens.centre = Vec2(l["centre"].at(0).get<double>(), l["centre"].at(1).get<double>());
                out.lenses.push_back(lens);
            }
        } else if (key == "places" || key == "pins") {  // "pins": its name in older files
            for (const Json& p : value) {
                PhotoPlace dragged;
                dragged.photo = p.at("photo").get<int>(), dragged.place.face = p.at("face").get<Index>(),
                dragged.pixel = Vec2(p.at("pixel").at(0).get<double>(), p.at("pixel").at(1).get<double>());
                for (std::size_t k = 0; k < 3; ++k)
                    dragged.place.vertices[k] = p.at("vertices").at(k).get<Index>(),
                    dragged.place.weights[k] = p.at("weights").at(k).get<double>();
                out.places.push_back(dragged);
            }
        } else
            throw std::invalid_argument(key);
    }
    if (!(out.strength > 0.01 && out.strength < 100)) throw std::invalid_argument("strength");
    if (!(out.eyes_mm == 0 || (out.eyes_mm >= 20 && out.eyes_mm <= 200))) throw std::invalid_argument("eyes_mm");
    if (!(out.neck_band_mm >= 1 && out.neck_band_mm < 500)) throw std::invalid_argument("neck_band_mm");
    return out;
}

}  // namespace

std::string photo_head_settings_text(const PhotoHeadSettings& s) {
    Json j = {{"one_lens", s.one_lens},         {"use_curves", s.use_curves},
              {"use_outline", s.use_outline},   {"use_depth", s.use_depth},
              {"eyes_mm", s.eyes_mm},           {"strength", s.strength},
              {"neck_band_mm", s.neck_band_mm}, {"heads", s.heads}};
    j["lenses"] = Json::array(), j["places"] = Json::array();
    for (const PhotoLens& lens : s.lenses) {
        Json l = {{"from", lens_name(lens.from)}, {"focal_35mm", lens.focal_35mm}, {"parallel", lens.parallel}};
        if (lens.centre) l["centre"] = {lens.centre->x(), lens.centre->y()};
        j["lenses"].push_back(l);
    }
    for (const PhotoPlace& dragged : s.places)
        j["places"].push_back({{"photo", dragged.photo},
                               {"pixel", {dragged.pixel.x(), dragged.pixel.y()}},
                               {"face", dragged.place.face},
                               {"vertices", dragged.place.vertices},
                               {"weights", dragged.place.weights}});
    return j.dump(1);
}

Result<PhotoHeadSettings> parse_photo_head_settings(std::string_view json, const std::string& where) {
    try {
        const Json j = Json::parse(json.begin(), json.end());
        if (!j.is_object()) return Error{ErrorCode::BadFile, where + " holds no settings of a photo head."};
        return from_json(j);
    } catch (const std::invalid_argument& e) {
        return Error{ErrorCode::BadFile, where + ": '" + e.what() + "' is not known or out of range."};
    } catch (const std::exception& e) {
        return Error{ErrorCode::BadFile, where + " is no valid JSON of photo head settings: " + e.what()};
    }
}

}  // namespace veld
