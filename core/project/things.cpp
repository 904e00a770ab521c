#include "core/project/things.h"

#include <algorithm>
#include <map>

#include "core/morph/morph.h"
#include "core/project/bank.h"
#include "core/project/fits.h"
#include "core/project/records/photo_record.h"
#include "core/proof/proofs.h"
#include "core/skin/layers.h"

namespace veld {
namespace {

template <class T, class Id>
int place_in(const std::vector<T>& row, Id id) {
    const auto at = std::find_if(row.begin(), row.end(), [&](const T& one) { return one.id == id; });
    return at == row.end() ? -1 : static_cast<int>(at - row.begin());
}

template <class T>
std::vector<std::string> names_but(const std::vector<T>& row, int but) {
    std::vector<std::string> out;
    for (int i = 0; i < static_cast<int>(row.size()); ++i) {
        if (i != but) out.push_back(row[static_cast<std::size_t>(i)].name);
    }
    return out;
}

// The row that a thing stands in, and its place there; f(row, place) is called when it is there.
template <class F>
bool in_row(ProjectState& s, SubjectId id, F&& f) {
    const int at = place_in(s.subjects, id);
    return at >= 0 && f(s.subjects, at, static_cast<Subject*>(nullptr));
}
template <class F>
bool in_row(ProjectState& s, SourceId id, F&& f) {
    Subject* of = subject_of(s, id);
    return of && f(of->sources, place_in(of->sources, id), of);
}
template <class F>
bool in_row(ProjectState& s, PhotoSetId id, F&& f) {
    Subject* of = subject_of(s, id);
    return of && f(of->photo_sets, place_in(of->photo_sets, id), of);
}
template <class F>
bool in_row(ProjectState& s, FitId id, F&& f) {
    Subject* of = subject_of(s, id);
    return of && f(of->fits, place_in(of->fits, id), of);
}

// The same for whatever it is, but for morphs: the bank has ways of its own.
template <class F>
bool in_row_of(ProjectState& s, const Thing& thing, F&& f) {
    return std::visit(
        [&](const auto& id) {
            if constexpr (std::is_same_v<std::decay_t<decltype(id)>, MorphId>)
                return false;
            else
                return in_row(s, id, f);
        },
        thing);
}

// Which fit is the current one, held by id while its row changes.
FitId current_fit(const Subject& subject) { return subject.fit() ? subject.fit()->id : FitId{}; }
void make_current(Subject& subject, FitId id) { subject.current_fit = place_in(subject.fits, id); }

template <class T>
void take_out(std::vector<T>& row, std::size_t at) {
    if (at < row.size()) row.erase(row.begin() + static_cast<std::ptrdiff_t>(at));
}

// Numbers of photographs, when this one has gone.
void count_without(std::vector<int>& numbers, std::size_t photo) {
    const int gone = static_cast<int>(photo);
    std::erase(numbers, gone);
    for (int& n : numbers) n -= n > gone;
}

PhotoHeadSettings without_photo(PhotoHeadSettings settings, std::size_t photo) {
    const int gone = static_cast<int>(photo);
    take_out(settings.lenses, photo);
    std::erase_if(settings.places, [&](const PhotoPlace& p) { return p.photo == gone; });
    for (PhotoPlace& p : settings.places) p.photo -= p.photo > gone;
    return settings;
}

Subject copy_of(const Subject& original) {
    Subject out = original;
    out.id = SubjectId::make();
    std::map<std::uint64_t, SourceId> sources;
    std::map<std::uint64_t, PhotoSetId> sets;
    for (Source& source : out.sources) sources[source.id.value] = SourceId::make();
    for (PhotoSet& set : out.photo_sets) sets[set.id.value] = PhotoSetId::make();
    std::map<std::uint64_t, FitId> fits;
    for (FitRecord& fit : out.fits) {
        fit.id = fits[fit.id.value] = FitId::make();
        // what it was made from may be gone, or another subject's
        if (const auto at = sources.find(fit.source_id.value); at != sources.end()) fit.source_id = at->second;
        if (const auto at = sets.find(fit.photo_set_id.value); at != sets.end()) fit.photo_set_id = at->second;
    }
    for (Source& source : out.sources) source.id = sources[source.id.value];
    for (PhotoSet& set : out.photo_sets) set.id = sets[set.id.value];
    for (auto& skin : out.skins) {
        auto copy = std::make_shared<LayeredSkin>(*skin);
        copy->id = SkinId::make();
        for (SkinLayer& layer : copy->layers) {
            layer.id = LayerId::make();
            if (const auto at = fits.find(layer.fit.value); at != fits.end()) layer.fit = at->second;
        }
        skin = copy;
    }
    return out;
}

}  // namespace

std::string name_of(const ProjectState& state, const Thing& thing) {
    if (const auto* id = std::get_if<SubjectId>(&thing)) {
        const Subject* found = find_subject(state, *id);
        return found ? found->name : "";
    }
    if (const auto* id = std::get_if<SourceId>(&thing)) {
        const Source* found = find_source(state, *id);
        return found ? found->name : "";
    }
    if (const auto* id = std::get_if<PhotoSetId>(&thing)) {
        const PhotoSet* found = find_photo_set(state, *id);
        return found ? found->name : "";
    }
    if (const auto* id = std::get_if<FitId>(&thing)) {
        const FitRecord* found = find_fit(state, *id);
        return found ? found->name : "";
    }
    const int at = morph_place(state, std::get<MorphId>(thing));
    return at < 0 ? "" : state.bank[static_cast<std::size_t>(at)].morph->name;
}

bool rename_thing(ProjectState& state, const Thing& thing, const std::string& name) {
    if (name.empty() || name == name_of(state, thing)) return false;
    if (const auto* morph = std::get_if<MorphId>(&thing)) {
        const int at = morph_place(state, *morph);
        if (at >= 0) rename_morph(state, static_cast<std::size_t>(at), name);
        return at >= 0;
    }
    const auto put = [&](auto& row, int at, Subject*) {
        row[static_cast<std::size_t>(at)].name = free_name(name, names_but(row, at));
        return true;
    };
    return in_row_of(state, thing, put);
}

bool remove_thing(ProjectState& state, const Thing& thing) {
    if (const auto* id = std::get_if<MorphId>(&thing)) {
        const int at = morph_place(state, *id);
        if (at >= 0) remove_morph(state, static_cast<std::size_t>(at));
        return at >= 0;
    }
    if (const auto* id = std::get_if<SubjectId>(&thing)) {
        const int at = place_in(state.subjects, *id);
        if (at < 0) return false;
        state.subjects.erase(state.subjects.begin() + at);
        if (state.subject > at || state.subject >= static_cast<int>(state.subjects.size()))
            state.subject = std::max(0, state.subject - 1);
        return true;
    }
    if (const auto* id = std::get_if<FitId>(&thing))
        return in_row(state, *id, [](auto&, int at, Subject* of) {
            remove_fit(*of, static_cast<std::size_t>(at));
            return true;
        });
    const auto take = [](auto& row, int at, Subject*) {
        row.erase(row.begin() + at);
        return true;
    };
    if (const auto* id = std::get_if<SourceId>(&thing)) return in_row(state, *id, take);
    return in_row(state, std::get<PhotoSetId>(thing), take);
}

bool remove_photo(ProjectState& state, PhotoSetId id, std::size_t photo) {
    Subject* of = subject_of(state, id);
    const int at = of ? place_in(of->photo_sets, id) : -1;
    if (at < 0) return false;
    PhotoSet& set = of->photo_sets[static_cast<std::size_t>(at)];
    if (photo >= set.photos->size()) return false;
    if (set.photos->size() == 1) return remove_thing(state, id);
    auto photos = std::make_shared<std::vector<Image>>(*set.photos);
    take_out(*photos, photo);
    set.photos = std::move(photos);
    take_out(set.marks, photo);
    if (set.settings) set.settings = std::make_shared<const PhotoHeadSettings>(without_photo(*set.settings, photo));
    for (Subject& subject : state.subjects) {
        for (FitRecord& fit : subject.fits) {
            if (!(fit.photo_set_id == id) || !fit.photo) continue;
            PhotoRecord record = *fit.photo;
            take_out(record.photos, photo);
            record.settings = without_photo(record.settings, photo);
            count_without(record.hand.keeps, photo);
            fit.photo = std::make_shared<const PhotoRecord>(std::move(record));
        }
    }
    return true;
}

bool move_thing(ProjectState& state, const Thing& thing, int by) {
    const auto swap = [&](auto& row, int at, Subject* of) {
        const int to = at + (by < 0 ? -1 : 1);
        if (to < 0 || to >= static_cast<int>(row.size())) return false;
        const FitId fit = of ? current_fit(*of) : FitId{};
        const SubjectId subject = state.current() ? state.current()->id : SubjectId{};
        std::swap(row[static_cast<std::size_t>(at)], row[static_cast<std::size_t>(to)]);
        if (of) make_current(*of, fit);
        state.subject = std::max(0, place_in(state.subjects, subject));
        return true;
    };
    if (const auto* id = std::get_if<MorphId>(&thing)) {
        const int at = morph_place(state, *id);
        return at >= 0 && swap(state.bank, at, nullptr);
    }
    return in_row_of(state, thing, swap);
}

std::optional<Thing> duplicate_thing(ProjectState& state, const Thing& thing) {
    if (const auto* id = std::get_if<MorphId>(&thing)) {
        const int at = morph_place(state, *id);
        if (at < 0) return {};
        const BankEntry original = state.bank[static_cast<std::size_t>(at)];
        return Thing{state.bank[add_morph(state, *original.morph, 0)].id};
    }
    std::optional<Thing> out;
    const auto copy = [&](auto& row, int at, Subject* of) {
        auto made = row[static_cast<std::size_t>(at)];
        const FitId fit = of ? current_fit(*of) : FitId{};
        if constexpr (std::is_same_v<std::decay_t<decltype(made)>, Subject>)
            made = copy_of(made);
        else
            made.id = decltype(made.id)::make();
        made.name = free_name(made.name, names_but(row, -1));
        out = Thing{made.id};
        // a source goes before the original: the last one is worked on
        constexpr bool source = std::is_same_v<std::decay_t<decltype(made)>, Source>;
        row.insert(row.begin() + at + (source ? 0 : 1), std::move(made));
        if (of) make_current(*of, fit);
        return true;
    };
    const SubjectId subject = state.current() ? state.current()->id : SubjectId{};
    in_row_of(state, thing, copy);
    if (place_in(state.subjects, subject) >= 0) state.subject = place_in(state.subjects, subject);
    return out;
}

std::string add_proof(ProjectState& state, Proof proof) {
    std::vector<std::string> taken;
    for (const auto& other : state.proofs) taken.push_back(other->name);
    proof.name = free_name(proof.name, taken);
    state.proofs.push_back(std::make_shared<const Proof>(std::move(proof)));
    return state.proofs.back()->name;
}

bool remove_proof(ProjectState& state, const std::string& name) {
    return std::erase_if(state.proofs, [&](const auto& proof) { return proof->name == name; }) > 0;
}

}  // namespace veld
