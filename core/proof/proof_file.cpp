#include "core/proof/proof_file.h"

#include <algorithm>
#include <cmath>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/rig/pose_file.h"

namespace veld {
namespace {

constexpr const char* kFormat = "veldstone-proofs";
constexpr double kMostAmount = 10;

Json stop_json(const ProofStop& stop, const std::vector<Joint>& joints) {
    Json out = {{"pose", Json::parse(pose_text(stop.pose, joints))}};
    if (!stop.pose.move.isZero()) out["move"] = {stop.pose.move.x(), stop.pose.move.y(), stop.pose.move.z()};
    for (const auto& [name, amount] : stop.expressions) out["expressions"][name] = amount;
    if (stop.amount != 1) out["amount"] = stop.amount;
    return out;
}

double amount_of(const Json& j) {
    const double out = j.get<double>();
    if (!std::isfinite(out) || std::abs(out) > kMostAmount) throw std::out_of_range("an amount of " + j.dump());
    return out;
}

// Throws Json::exception and std::out_of_range.
Result<ProofStop> stop_from(const Json& j, const std::vector<Joint>& joints, const std::string& what) {
    ProofStop out;
    auto pose = pose_from(j.at("pose").dump(), joints, what);
    if (!pose) return pose.error();
    out.pose = std::move(*pose);
    for (int k = 0; j.contains("move") && k < 3; ++k)
        out.pose.move[k] = j["move"].at(static_cast<std::size_t>(k)).get<double>();
    if (!out.pose.move.allFinite()) throw std::out_of_range("a move that is no number");
    if (j.contains("expressions"))
        for (const auto& [name, amount] : j["expressions"].items())
            out.expressions.push_back({name, amount_of(amount)});
    if (j.contains("amount")) out.amount = amount_of(j["amount"]);
    return out;
}

Result<Proof> proof_from(const Json& j, const std::vector<Joint>& joints, const std::string& what) {
    Proof out;
    out.name = j.at("name").get<std::string>();
    const std::string kind = j.at("kind").get<std::string>(), named = what + ", '" + out.name + "':";
    const auto at = std::find_if(std::begin(kProofKinds), std::end(kProofKinds),
                                 [&](ProofKind k) { return kind == proof_kind_name(k); });
    if (out.name.empty() || at == std::end(kProofKinds))
        return Error{ErrorCode::BadFile, named + " has no name, or a kind that is not known ('" + kind + "')."};
    out.kind = *at;
    for (const Json& stop : j.at("stops")) {
        auto read = stop_from(stop, joints, named);
        if (!read) return read.error();
        out.stops.push_back(std::move(*read));
    }
    if (out.stops.empty()) return Error{ErrorCode::BadFile, named + " has no stops."};
    return out;
}

}  // namespace

std::string proofs_text(const std::vector<Proof>& proofs, const std::vector<Joint>& joints) {
    Json out = {{"format", kFormat}, {"version", 1}, {"proofs", Json::array()}};
    for (const Proof& proof : proofs) {
        Json stops = Json::array();
        for (const ProofStop& stop : proof.stops) stops.push_back(stop_json(stop, joints));
        out["proofs"].push_back(
            {{"name", proof.name}, {"kind", proof_kind_name(proof.kind)}, {"stops", std::move(stops)}});
    }
    return out.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<std::vector<Proof>> proofs_from(const std::string& text, const std::vector<Joint>& joints,
                                       const std::string& what) {
    const auto bad = [&](const std::string& why) { return Error{ErrorCode::BadFile, what + " " + why}; };
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (!json.is_object() || json.value("format", "") != kFormat)
        return bad("holds no proofs: wanted is JSON with \"format\":\"veldstone-proofs\". It may be cut short.");
    std::vector<Proof> out;
    try {
        if (json.at("version") != 1) return bad("is of a newer program; this one reads version 1.");
        for (const Json& j : json.at("proofs")) {
            auto proof = proof_from(j, joints, what);
            if (!proof) return proof.error();
            out.push_back(std::move(*proof));
        }
    } catch (const std::exception& e) {
        return bad(std::string("is damaged: ") + e.what());
    }
    return out;
}

Result<std::vector<Proof>> read_proofs(const std::string& path, const std::vector<Joint>& joints) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return proofs_from(std::string(bytes->view()), joints, "'" + path + "'");
}

}  // namespace veld
