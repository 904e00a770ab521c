#include "core/project/bank_store.h"

#include <tbb/parallel_for.h>

#include <cstring>

#include "core/base/json.h"
#include "core/morph/morph_file.h"

namespace veld {
namespace {

Json regions_json(const std::vector<RegionAmount>& list) {
    Json out = Json::array();
    for (const RegionAmount& a : list) out.push_back({{"region", a.region}, {"morph", a.morph}, {"amount", a.amount}});
    return out;
}

std::vector<RegionAmount> regions_from(const Json& j) {
    std::vector<RegionAmount> out;
    for (const Json& a : j) out.push_back({a.at("region"), a.at("morph"), a.at("amount")});
    return out;
}

Json setting_json(const MixSetting& s) { return {{"amounts", s.amounts}, {"regions", regions_json(s.regions)}}; }
MixSetting setting_from(const Json& j) {
    return {j.at("amounts").get<std::map<std::string, double>>(), regions_from(j.at("regions"))};
}

}  // namespace

void pack_bank(const ProjectState& s, Json& j, const std::function<std::string(std::string)>& keep) {
    j["bank"] = Json::array();
    for (const BankEntry& e : s.bank) {
        Json entry = {{"id", id_text(e.id.value)}, {"morph", keep(morph_bytes(*e.morph))}, {"amount", e.amount}};
        if (e.muted) entry["muted"] = true;
        if (e.solo) entry["solo"] = true;
        if (e.favourite) entry["favourite"] = true;
        j["bank"].push_back(std::move(entry));
    }
    j["region_mix"] = regions_json(s.region_mix);
    if (s.mix_a) j["mix_a"] = setting_json(*s.mix_a);
    if (s.mix_b) j["mix_b"] = setting_json(*s.mix_b);
    if (s.between) j["between"] = *s.between;
    j["neck_band_mm"] = s.neck_band_mm;
    if (!s.head_share.empty()) j["head_share"] = {{"vertex", s.head_share.vertex}, {"weight", s.head_share.weight}};
    j["exchange"] = s.exchange;
    j["sent"] = Json::array();
    for (const SentFile& f : s.sent) {
        Json sent = {{"file", f.file}, {"stamp", f.stamp}, {"memory", Json::parse(sent_text(f))}};
        if (f.shape)
            sent["shape"] = keep({reinterpret_cast<const char*>(f.shape->data()), f.shape->size() * sizeof(Vec3)});
        j["sent"].push_back(std::move(sent));
    }
}

Status unpack_bank(const Json& j, const std::string& path,
                   const std::function<bool(const std::string&, std::string&)>& blob, ProjectState& out) {
    const auto damaged = [&](const std::string& why) {
        return Error{ErrorCode::BadFile, "The project '" + path + "' is damaged: " + why};
    };
    const Json& list = j.at("bank");
    std::vector<std::string> bytes(list.size());
    for (std::size_t i = 0; i < list.size(); ++i) {
        if (!blob(list[i].at("morph"), bytes[i])) return damaged("a morph is missing.");
    }
    std::vector<Result<Morph>> morphs(list.size(), Error{});
    tbb::parallel_for(std::size_t{0}, list.size(),
                      [&](std::size_t i) { morphs[i] = parse_morph(bytes[i], path, *out.kit); });
    std::vector<std::string> taken;
    for (std::size_t i = 0; i < list.size(); ++i) {
        if (!morphs[i]) return morphs[i].error();
        // projects of before names were kept apart
        morphs[i]->name = free_name(morphs[i]->name, taken);
        taken.push_back(morphs[i]->name);
        const Json& e = list[i];
        out.bank.push_back({std::make_shared<Morph>(std::move(*morphs[i])), e.at("amount").get<double>(),
                            e.value("muted", false), e.value("solo", false), e.value("favourite", false)});
        if (const auto id = id_value(e.value("id", ""))) out.bank.back().id.value = id;
    }
    if (!j.contains("region_mix")) return Done{};  // written before there was more than sliders
    out.region_mix = regions_from(j["region_mix"]);
    if (!out.region_mix.empty()) out.regions = std::make_shared<const BaseRegions>(face_regions(*out.kit));
    if (j.contains("mix_a")) out.mix_a = setting_from(j["mix_a"]);
    if (j.contains("mix_b")) out.mix_b = setting_from(j["mix_b"]);
    if (j.contains("between")) out.between = j["between"].get<double>();
    out.neck_band_mm = j.at("neck_band_mm");
    out.head_share = {};
    if (j.contains("head_share")) {
        out.head_share.vertex = j["head_share"].at("vertex").get<std::vector<Index>>();
        out.head_share.weight = j["head_share"].at("weight").get<std::vector<float>>();
        if (out.head_share.vertex.size() != out.head_share.weight.size())
            return damaged("the head share's weights are cut short.");
    }
    out.exchange = j.at("exchange");
    for (const Json& s : j.at("sent")) {
        auto sent = parse_sent(s.at("memory").dump(), path, *out.kit);
        if (!sent) return sent.error();
        sent->file = s.at("file"), sent->stamp = s.at("stamp");
        if (s.contains("shape")) {
            std::string raw;
            if (!blob(s["shape"], raw) || raw.size() != out.kit->mesh.positions.size() * sizeof(Vec3))
                return damaged("the shape that '" + sent->file + "' was sent with does not match the kit.");
            auto shape = std::make_shared<Points>(out.kit->mesh.positions.size());
            std::memcpy(static_cast<void*>(shape->data()), raw.data(), raw.size());
            sent->shape = shape;
        }
        out.sent.push_back(std::move(*sent));
    }
    return Done{};
}

}  // namespace veld
