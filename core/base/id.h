#pragma once
// Which subject, source, photo set, fit or morph is meant, whatever it is called and wherever it stands in its list.
//
// An id is made with its object and goes along with every copy of it: through undo, into the project file and to a
// worker thread. Ids are random, so that no two objects of any project ever share one by chance [birthday bound: with
// a million objects the odds are below 1e-7]. An id of value 0 means nothing.
#include <cstdint>
#include <string>
#include <string_view>

namespace veld {

// 64 random bits, never 0.
std::uint64_t random_id_value();

template <class Tag>
struct Id {
    std::uint64_t value = 0;

    static Id make() { return {random_id_value()}; }
    explicit operator bool() const { return value != 0; }
    auto operator<=>(const Id&) const = default;
};

using ProjectId = Id<struct ProjectTag>;  // one opening of a project in a window
using SubjectId = Id<struct SubjectTag>;
using SourceId = Id<struct SourceTag>;
using PhotoSetId = Id<struct PhotoSetTag>;
using FitId = Id<struct FitTag>;
using MorphId = Id<struct MorphTag>;
using SkinId = Id<struct SkinTag>;
using LayerId = Id<struct LayerTag>;

// 16 hexadecimal digits, as files have it; and back, 0 for anything else.
std::string id_text(std::uint64_t value);
std::uint64_t id_value(std::string_view text);

}  // namespace veld
