#include "core/tidy/recipe.h"

#include <cmath>

#include "core/base/json.h"

namespace veld {
namespace {

constexpr const char* kKinds[] = {"all",  "none",   "invert", "polygon",    "brush", "connected", "angle",
                                  "grow", "shrink", "colour", "components", "slab",  "suggest"};
constexpr const char* kCombine[] = {"replace", "add", "remove"};

Json vector_json(const Vec3& v) { return {v.x(), v.y(), v.z()}; }

Json select_json(const SelectStep& s) {
    Json j = {{"select", kKinds[static_cast<int>(s.kind)]}};
    if (s.combine != Combine::Replace) j["combine"] = kCombine[static_cast<int>(s.combine)];
    switch (s.kind) {
        case SelectKind::Polygon:
            j["view"] = s.view;
            for (const Vec2& p : s.outline) j["outline"].push_back({p.x(), p.y()});
            j["front_only"] = s.front_only;
            break;
        case SelectKind::Brush:
            for (const Vec3& p : s.path) j["path"].push_back(vector_json(p));
            if (!s.pressure.empty()) j["pressure"] = s.pressure;
            j["radius"] = s.radius;
            if (s.front_only) j["front_only"] = true, j["towards"] = vector_json(s.towards);
            break;
        case SelectKind::Connected:
            j["place"] = vector_json(s.place);
            break;
        case SelectKind::Angle:
            j["place"] = vector_json(s.place), j["degrees"] = s.degrees;
            break;
        case SelectKind::Grow:
        case SelectKind::Shrink:
            j["rings"] = s.rings;
            break;
        case SelectKind::Colour:
            j["colour"] = s.colour, j["tolerance"] = s.tolerance;
            break;
        case SelectKind::Components:
            j["share"] = s.share;
            break;
        case SelectKind::Slab:
            j["from"] = s.place.y(), j["height"] = s.radius;
            break;
        default:
            break;
    }
    return j;
}

template <std::size_t N>
int named(const char* const (&names)[N], const std::string& name) {
    for (std::size_t i = 0; i < N; ++i) {
        if (name == names[i]) return static_cast<int>(i);
    }
    return -1;
}

// throws Json::exception and std::string (what is wrong)
double finite(const Json& j, const char* what) {
    const double x = j.get<double>();
    if (!std::isfinite(x) || std::abs(x) > 1e12) throw std::string(what) + " is not a usable number";
    return x;
}
Vec3 vector_from(const Json& j) {
    if (!j.is_array() || j.size() != 3) throw std::string("a place needs three numbers");
    return {finite(j[0], "a place"), finite(j[1], "a place"), finite(j[2], "a place")};
}

SelectStep select_from(const Json& j) {
    SelectStep s;
    std::string of = j.at("select").get<std::string>();
    if (of == "pieces") of = "components";  // its name in older recipes
    const int kind = named(kKinds, of);
    if (kind < 0) throw "'" + j.at("select").get<std::string>() + "' is no way to select";
    s.kind = static_cast<SelectKind>(kind);
    const int combine = named(kCombine, j.value("combine", "replace"));
    if (combine < 0) throw std::string("'combine' must be replace, add or remove");
    s.combine = static_cast<Combine>(combine);
    s.front_only = j.value("front_only", false);
    if (j.contains("view")) {
        if (!j["view"].is_array() || j["view"].size() != 16) throw std::string("'view' needs 16 numbers");
        for (std::size_t i = 0; i < 16; ++i) s.view[i] = finite(j["view"][i], "view");
    }
    if (j.contains("outline")) {
        for (const Json& p : j["outline"])
            s.outline.emplace_back(finite(p.at(0), "outline"), finite(p.at(1), "outline"));
    }
    if (j.contains("path")) {
        for (const Json& p : j["path"]) s.path.push_back(vector_from(p));
    }
    if (j.contains("pressure")) {
        for (const Json& p : j["pressure"]) s.pressure.push_back(finite(p, "pressure"));
    }
    if (j.contains("radius")) s.radius = finite(j["radius"], "radius");
    if (j.contains("towards")) s.towards = vector_from(j["towards"]);
    if (j.contains("place")) s.place = vector_from(j["place"]);
    if (j.contains("degrees")) s.degrees = finite(j["degrees"], "degrees");
    if (j.contains("rings")) s.rings = static_cast<int>(finite(j["rings"], "rings"));
    if (s.rings < 0 || s.rings > 1000) throw std::string("'rings' must lie between 0 and 1000");
    if (j.contains("colour")) {
        if (j["colour"].size() != 3) throw std::string("'colour' needs three numbers");
        for (std::size_t k = 0; k < 3; ++k) s.colour[k] = finite(j["colour"].at(k), "colour");
    }
    if (j.contains("tolerance")) s.tolerance = finite(j["tolerance"], "tolerance");
    if (j.contains("share")) s.share = finite(j["share"], "share");
    if (s.kind == SelectKind::Slab)
        s.place.y() = finite(j.at("from"), "from"), s.radius = finite(j.at("height"), "height");
    return s;
}

TidyStep step_from(const Json& j) {
    TidyStep step;
    const std::string name = j.at("tool").get<std::string>();
    const ToolInfo* info = tool_named(name);
    if (!info) throw "there is no tool '" + name + "'";
    step.tool = info->tool;
    for (const auto& [key, value] : j.items()) {
        if (key == "tool" || key == "selection") continue;
        const ToolParameter* known = nullptr;
        for (const ToolParameter& p : info->parameters) {
            if (key == p.name) known = &p;
        }
        if (!known) throw "'" + name + "' has no number called '" + key + "'";
        const double x = finite(value, key.c_str());
        if (x < known->low || x > known->high) throw "'" + key + "' of '" + name + "' is out of range";
        step.numbers[key] = x;
    }
    if (j.contains("selection")) {
        for (const Json& s : j["selection"]) step.selection.push_back(select_from(s));
    }
    return step;
}

}  // namespace

std::string recipe_text(const std::vector<TidyStep>& steps) {
    Json j = {{"format", "veldstone-tidy"}, {"version", 1}, {"unit", "mm"}, {"steps", Json::array()}};
    for (const TidyStep& step : steps) {
        Json s = {{"tool", tool_info(step.tool).name}};
        for (const auto& [name, value] : step.numbers) s[name] = value;
        for (const SelectStep& select : step.selection) s["selection"].push_back(select_json(select));
        j["steps"].push_back(s);
    }
    return j.dump(1) + "\n";
}

Result<std::vector<TidyStep>> parse_recipe(std::string_view text, const std::string& name) {
    const auto bad = [&](const std::string& why) { return Error{ErrorCode::BadFile, "'" + name + "': " + why + "."}; };
    std::size_t at = 0;
    try {
        const Json j = Json::parse(text);
        if (j.value("format", "") != "veldstone-tidy")
            return bad("it is no tidy recipe (its format is not 'veldstone-tidy')");
        if (j.value("version", 0) != 1) return bad("its version is not known here");
        std::vector<TidyStep> out;
        for (const Json& s : j.at("steps")) {
            ++at;
            out.push_back(step_from(s));
        }
        return out;
    } catch (const Json::exception& e) {
        return bad((at ? "step " + std::to_string(at) + ": " : "") + e.what());
    } catch (const std::string& why) {
        return bad("step " + std::to_string(at) + ": " + why);
    }
}

}  // namespace veld
