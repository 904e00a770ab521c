#pragma once
// Is it a standing figure, a bust or a head? Told by proportions alone, in any unit and along any axis of the file.
//
// A figure is thin for its length, and at one end of its length (the head's, or the hands' of a figure with its arms
// out) there is far less of it than it is long: the upper eighth of a figure is 0.09 to 0.15 of its height across,
// that of a head or a bust 0.3 and more.
#include "core/base/types.h"

namespace veld {

enum class SubjectKind { Head, Bust, Figure };

struct SubjectGuess {
    SubjectKind kind = SubjectKind::Head;
    bool sure = false;    // false: only long or compact as a whole, its ends do not tell
    double thin_end = 1;  // width of the thinner end of its length / its length
    int length_axis = 1;  // of the file, 0 to 2: along which it is longest
};
SubjectGuess guess_subject(const Points& positions);
const char* subject_words(SubjectKind kind);  // "a standing figure"

}  // namespace veld
