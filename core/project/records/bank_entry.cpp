#include "core/project/records/bank_entry.h"

#include <tbb/parallel_for.h>

#include "core/morph/morph_file.h"
#include "core/morph/region_mix.h"
#include "core/project/records/packing.h"

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

void pack_bank(const ProjectState& s, Json& j, BlobWriter& blobs) {
    j["bank"] = Json::array();
    for (const BankEntry& e : s.bank) {
        Json entry = {{"id", id_text(e.id.value)}, {"morph", blobs.keep(morph_bytes(*e.morph))}, {"amount", e.amount}};
        if (e.muted) entry["muted"] = true;
        if (e.solo) entry["solo"] = true;
        if (e.favourite) entry["favourite"] = true;
        if (e.sheet) entry["sheet"] = blobs.keep(*e.sheet);
        if (e.subject) entry["subject"] = id_text(e.subject.value);
        j["bank"].push_back(std::move(entry));
    }
    j["region_mix"] = regions_json(s.region_mix);
    if (s.mix_a) j["mix_a"] = setting_json(*s.mix_a);
    if (s.mix_b) j["mix_b"] = setting_json(*s.mix_b);
    if (s.between) j["between"] = *s.between;
    j["neck_band_mm"] = s.neck_band_mm;
    if (!s.head_share.empty()) j["head_share"] = {{"vertex", s.head_share.vertex}, {"weight", s.head_share.weight}};
    if (s.rest_work) j["rest_work"] = pack_rest_work(*s.rest_work, blobs);
    if (!s.proofs.empty()) j["proofs"] = pack_proofs(s, blobs);
    if (s.weights != WeightSettings{})
        j["skin_weights"] = {{"smooth_mm", s.weights.smooth_mm}, {"most", s.weights.most}};
    j["exchange"] = s.exchange;
    j["sent"] = Json::array();
    for (const SentFile& f : s.sent) j["sent"].push_back(pack_sent(f, blobs));
}

namespace {

Status read_morphs(const Json& list, const BlobReader& blobs, ProjectState& out) {
    std::vector<std::string> bytes(list.size());
    for (std::size_t i = 0; i < list.size(); ++i) {
        if (!blobs.bytes(list[i].at("morph"), bytes[i])) return blobs.damaged("a morph is missing.");
    }
    std::vector<Result<Morph>> morphs(list.size(), Error{});
    tbb::parallel_for(std::size_t{0}, list.size(),
                      [&](std::size_t i) { morphs[i] = parse_morph(bytes[i], blobs.path(), *out.kit); });
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
        if (e.contains("subject")) read_id(e, "subject", out.bank.back().subject);
        if (!e.contains("sheet")) continue;
        std::string sheet;
        if (!blobs.bytes(e["sheet"], sheet)) return blobs.damaged("a proof sheet is missing.");
        out.bank.back().sheet = std::make_shared<const std::string>(std::move(sheet));
    }
    return Done{};
}

}  // namespace

Status unpack_bank(const Json& j, const BlobReader& blobs, ProjectState& out) {
    if (auto ok = read_morphs(j.at("bank"), blobs, out); !ok) return ok;
    if (!j.contains("region_mix")) return Done{};  // written before there was more than sliders
    out.region_mix = regions_from(j["region_mix"]);
    if (!out.region_mix.empty()) out.regions = std::make_shared<const BaseRegions>(face_regions(*out.kit));
    if (j.contains("mix_a")) out.mix_a = setting_from(j["mix_a"]);
    if (j.contains("mix_b")) out.mix_b = setting_from(j["mix_b"]);
    if (j.contains("between")) out.between = j["between"].get<double>();
    out.neck_band_mm = j.at("neck_band_mm");
    out.head_share = {};
    if (j.contains("head_share")) {
        out.head_share.vertex = j["head_share"].at("vertex").get<VertexIndices>();
        out.head_share.weight = j["head_share"].at("weight").get<std::vector<float>>();
        if (out.head_share.vertex.size() != out.head_share.weight.size())
            return blobs.damaged("the head share's weights are cut short.");
    }
    if (j.contains("rest_work")) {
        auto work = unpack_rest_work(j["rest_work"], *out.kit, blobs);
        if (!work) return work.error();
        out.rest_work = std::make_shared<const RestWork>(std::move(*work));
    }
    if (j.contains("proofs")) {
        if (auto ok = unpack_proofs(j["proofs"], blobs, out); !ok) return ok;
    }
    if (j.contains("skin_weights")) out.weights = {j["skin_weights"].at("smooth_mm"), j["skin_weights"].at("most")};
    out.exchange = j.at("exchange");
    for (const Json& s : j.at("sent")) {
        auto sent = unpack_sent(s, *out.kit, blobs);
        if (!sent) return sent.error();
        out.sent.push_back(std::move(*sent));
    }
    return Done{};
}

}  // namespace veld
