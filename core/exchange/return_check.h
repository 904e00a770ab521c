#pragma once
// A mesh that claims to be the base, come back from another program: what differs, what was repaired, and why.
#include "core/base/progress.h"
#include "core/exchange/send_out.h"
#include "core/morph/head_seat.h"

namespace veld {

// What a step is about, where a program or a window asks for more than its words.
enum class ReturnTopic { Other, Leftover, Neck };

struct ReturnStep {
    std::string what, why;  // plain sentences
    bool repaired = false;  // false: only said
    ReturnTopic topic = ReturnTopic::Other;
    std::string name = {};  // of the leftover
    bool operator==(const ReturnStep&) const = default;
};

struct Leftover {
    std::string name;  // of a bank morph or an expression of the kit
    double amount = 0;
};

// The whole of it is larger, turned or moved in a way that programs do by themselves and sculptors may mean, or
// nothing usual explains it: only a person can tell. Until then nothing of it may be kept.
struct ReturnQuestion {
    std::string what, why;        // plain sentences with the numbers
    bool explained = true;        // false: no unit, axis, turn, move or size explains what came back
    double scale = 1;             // it came back this many times as large as it went out
    double degrees = 0;           // and turned by this much
    Vec3 move_mm = Vec3::Zero();  // and its middle moved by this
};
// Take: the similarity is an accident and is taken out. Leave: what came back is meant as it is.
enum class ReturnAnswer { Ask, Take, Leave };

struct ReturnOptions {
    const SentFile* sent = nullptr;     // what went out, when it is remembered
    std::vector<const Morph*> known;    // shapes that may still be inside, besides the kit's expressions
    bool subtract_leftovers = false;    // all that are found
    std::vector<std::string> subtract;  // or these of them, by name
    bool subtract_sent = true;          // the morphs that went out with it are taken out again
    // Moved by less than this is set back to exactly where it was; raised to what the file's digits can hold.
    double noise_mm = 0.001;
    Seat seat = Seat::AsItLies;  // of a head that came back without its body
    double seat_fade_mm = 60;
    ReturnAnswer answer = ReturnAnswer::Ask;
};

struct ReturnCheck {
    bool relative = false;  // else it is no relative of the base: take it as a source for a fit
    std::vector<ReturnStep> steps;
    Points
        positions;  // of the base's vertices, kit frame, mm, at rest; parts that did not come back are as on the base
    VertexMask returned;                     // per vertex of the base: did it come back?
    std::vector<Leftover> leftovers;         // more than a hundredth
    std::optional<ReturnQuestion> question;  // still to be answered; positions are as if the answer were Take
    VertexIndices filled;                    // did not come back, and moved along with what lies around them
    VertexIndices exploded;                  // far away from their neighbours
    VertexIndices ambiguous;                 // of the base: their order could not be told for certain
    std::string morph;                       // the bank morph that it is meant for, when that is remembered
};

// The shape that a bank morph takes from a return that was meant for it, such that the mix which went out would look
// as what came back: with the morph on at an amount a, the morph plus the sculpt / a; else the sculpt alone.
Result<Morph> updated_morph(const BaseKit& kit, const Morph& morph, const ReturnCheck& check,
                            const ReturnOptions& options);

// Fails with BadInput on a broken mesh, with Cancelled.
Result<ReturnCheck> check_return(const BaseKit& kit, const Mesh& returned, const ReturnOptions& options,
                                 const Progress& progress);

}  // namespace veld
