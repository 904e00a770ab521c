#include "core/project/bank.h"

#include <algorithm>

#include "core/morph/arithmetic.h"
#include "core/morph/share.h"
#include "core/proof/mend.h"

namespace veld {
namespace {

std::vector<const Morph*> morphs_of(const ProjectState& state) {
    std::vector<const Morph*> out;
    for (const BankEntry& e : state.bank) out.push_back(e.morph.get());
    return out;
}

// A setting that was kept before there was that morph: corrections stay on.
double unsaid_amount(const Morph& morph) { return morph.drivers.empty() ? 0 : morph.usual; }

}  // namespace

Points mixed_shape(const ProjectState& state) {
    Points out = mix_morphs(state.kit->mesh.positions, state.amounts());
    if (state.regions && !state.region_mix.empty())
        add_region_mix(*state.regions, state.region_mix, morphs_of(state), out);
    return out;
}

Result<Morph> bake_mix(const ProjectState& state, const std::string& name) {
    const BaseKit& kit = *state.kit;
    Morph sliders;
    sliders.topology = kit.topology_key;
    if (auto sum = sum_morphs(kit, state.amounts(), name)) sliders = std::move(*sum);
    Points regions(kit.mesh.positions.size(), Vec3::Zero());
    Vec3 root = Vec3::Zero();
    std::string origin = sliders.origin;
    if (state.regions) {
        root = add_region_deltas(*state.regions, state.region_mix, morphs_of(state), regions);
        for (const RegionAmount& a : state.region_mix)
            origin += (origin.empty() ? "" : " + ") + a.region + " of " + a.morph;
    }
    Points shape = kit.mesh.positions;
    for (std::size_t i = 0; i < sliders.index.size(); ++i) regions[sliders.index[i]] += sliders.delta[i];
    for (std::size_t v = 0; v < shape.size(); ++v) shape[v] += regions[v];
    auto out = make_morph(kit, shape, name);
    if (!out) return out.error();
    out->root = sliders.root + root;
    if (out->index.empty() && out->root.isZero(0))
        return Error{ErrorCode::BadInput, "Nothing is mixed: every slider is at 0."};
    out->kind = sliders.kind, out->origin = "Baked: " + origin;
    return out;
}

std::vector<ShapeCorrection> corrections_in(const ProjectState& state, bool of_rest) {
    std::vector<ShapeCorrection> out;
    for (const BankEntry& e : state.bank)
        if (e.morph->kind == MorphKind::Fix && !e.morph->drivers.empty() && !e.muted && e.amount != 0 &&
            is_of_rest(*state.kit, e.morph->drivers) == of_rest)
            out.push_back({e.morph, e.amount});
    return out;
}

int find_morph(const ProjectState& state, const std::string& name) {
    const auto at =
        std::find_if(state.bank.begin(), state.bank.end(), [&](const BankEntry& e) { return e.morph->name == name; });
    return at == state.bank.end() ? -1 : static_cast<int>(at - state.bank.begin());
}

std::size_t add_morph(ProjectState& state, Morph morph, double amount) {
    std::vector<std::string> taken;
    for (const BankEntry& e : state.bank) taken.push_back(e.morph->name);
    morph.name = free_name(morph.name, taken);
    state.bank.push_back({std::make_shared<Morph>(std::move(morph)), amount});
    return state.bank.size() - 1;
}

void replace_morph(ProjectState& state, std::size_t at, Morph morph) {
    const Morph& old = *state.bank[at].morph;
    morph.name = old.name, morph.group = old.group, morph.tag = old.tag, morph.kind = old.kind;
    morph.low = old.low, morph.high = old.high, morph.usual = old.usual;
    if (morph.note.empty()) morph.note = old.note;
    if (morph.drivers.empty()) morph.drivers = old.drivers;
    state.bank[at].sheet.reset();  // of the other shape
    state.bank[at].morph = std::make_shared<Morph>(std::move(morph));
}

void rename_morph(ProjectState& state, std::size_t at, const std::string& name) {
    const std::string old = state.bank[at].morph->name;
    if (name == old || name.empty()) return;
    std::vector<std::string> taken;
    for (const BankEntry& e : state.bank) taken.push_back(e.morph->name);
    Morph renamed = *state.bank[at].morph;
    renamed.name = free_name(name, taken);
    const auto in_regions = [&](std::vector<RegionAmount>& list) {
        for (RegionAmount& a : list) {
            if (a.morph == old) a.morph = renamed.name;
        }
    };
    in_regions(state.region_mix);
    for (auto* setting : {&state.mix_a, &state.mix_b}) {
        if (!*setting) continue;
        in_regions((*setting)->regions);
        if (auto node = (*setting)->amounts.extract(old)) {
            node.key() = renamed.name;
            (*setting)->amounts.insert(std::move(node));
        }
    }
    for (BankEntry& e : state.bank) {
        const auto is = [&](const MorphDriver& d) { return d.joint.empty() && d.morph == old; };
        if (std::none_of(e.morph->drivers.begin(), e.morph->drivers.end(), is)) continue;
        Morph driven = *e.morph;
        for (MorphDriver& d : driven.drivers)
            if (is(d)) d.morph = renamed.name;
        e.morph = std::make_shared<Morph>(std::move(driven));
    }
    for (SentFile& s : state.sent) {
        if (s.morph == old) s.morph = renamed.name;
        for (auto& [sent, amount] : s.morphs) {
            if (sent == old) sent = renamed.name;
        }
    }
    state.bank[at].morph = std::make_shared<Morph>(std::move(renamed));
}

void remove_morph(ProjectState& state, std::size_t at) {
    const std::string name = state.bank[at].morph->name;
    std::erase_if(state.region_mix, [&](const RegionAmount& a) { return a.morph == name; });
    state.bank.erase(state.bank.begin() + static_cast<std::ptrdiff_t>(at));
}

MixSetting mix_setting(const ProjectState& state) {
    MixSetting out;
    for (const BankEntry& e : state.bank) {
        if (e.amount != 0 || !e.morph->drivers.empty()) out.amounts[e.morph->name] = e.amount;
    }
    out.regions = state.region_mix;
    return out;
}

void set_mix(ProjectState& state, const MixSetting& setting) {
    for (BankEntry& e : state.bank) {
        const auto at = setting.amounts.find(e.morph->name);
        e.amount = at != setting.amounts.end() ? at->second : unsaid_amount(*e.morph);
    }
    state.region_mix = setting.regions;
    state.between.reset();
}

void set_between(ProjectState& state, double share) {
    if (!state.mix_a || !state.mix_b) return;
    MixSetting mix;
    const auto add = [&](const MixSetting& from, double part) {
        for (const auto& [name, amount] : from.amounts) mix.amounts[name] += part * amount;
        for (const BankEntry& e : state.bank)
            if (const double unsaid = unsaid_amount(*e.morph); unsaid != 0 && !from.amounts.contains(e.morph->name))
                mix.amounts[e.morph->name] += part * unsaid;
        for (const RegionAmount& a : from.regions) {
            const auto at = std::find_if(mix.regions.begin(), mix.regions.end(), [&](const RegionAmount& b) {
                return b.region == a.region && b.morph == a.morph;
            });
            if (at != mix.regions.end())
                at->amount += part * a.amount;
            else
                mix.regions.push_back({a.region, a.morph, part * a.amount});
        }
    };
    // at the ends the setting itself, to the last bit
    if (share != 1) add(*state.mix_a, 1 - share);
    if (share != 0) add(*state.mix_b, share);
    set_mix(state, mix);
    state.between = share;
}

bool set_region_amount(ProjectState& state, const RegionAmount& amount) {
    if (!state.regions) state.regions = std::make_shared<const BaseRegions>(face_regions(*state.kit));
    const auto at = std::find_if(state.region_mix.begin(), state.region_mix.end(), [&](const RegionAmount& a) {
        return a.region == amount.region && a.morph == amount.morph;
    });
    state.between.reset();
    if (at != state.region_mix.end()) {
        at->amount = amount.amount;
        return true;
    }
    if (std::count_if(state.region_mix.begin(), state.region_mix.end(), [&](const RegionAmount& a) {
            return a.region == amount.region;
        }) >= static_cast<std::ptrdiff_t>(kMostShapes))
        return false;
    state.region_mix.push_back(amount);
    return true;
}

std::vector<double> head_share_weights(const ProjectState& state) {
    if (state.head_share.empty()) return head_weights(*state.kit, state.neck_band_mm);
    const std::vector<float> painted = spread_out(state.head_share, state.kit->mesh.positions.size());
    return {painted.begin(), painted.end()};
}

}  // namespace veld
