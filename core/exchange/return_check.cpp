#include "core/exchange/return_check.h"

#include <algorithm>
#include <cmath>

#include "core/exchange/coarse_from_fine.h"
#include "core/exchange/correspondence.h"
#include "core/exchange/fill_gaps.h"
#include "core/exchange/frame.h"
#include "core/exchange/leftovers.h"
#include "core/exchange/precision.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/mesh/subdivide.h"
#include "core/mesh/topology.h"
#include "core/rig/pose.h"

namespace veld {
namespace {

constexpr double kRelative = 0.6;   // this share of a relative's vertices is found again; the rest was added
constexpr double kConfirmed = 0.9;  // and this of the faces between them hangs together as it did
constexpr double kSeatedMm = 0.05;
constexpr double kLeastLeftover = 0.01, kLeastProven = 0.3;
constexpr double kExplodedMm = 40;

// One of the base's pieces at one level that a return may be.
struct Candidate {
    SentPiece piece;
    int level = 0;
    bool as_sent = false;
};

// Most of a returned relative is found again, and hangs together as it did; extra geometry may be there too.
bool proves_itself(const Correspondence& c, const Mesh& returned) {
    return c.matched > kRelative * returned.vertex_count() && c.faces_confirmed > kConfirmed;
}

std::string counted(std::size_t n, const char* one, const char* many) {
    return std::to_string(n) + " " + (n == 1 ? one : many);
}

class Checker {
 public:
    Checker(const BaseKit& kit, const Mesh& returned, const ReturnOptions& options)
        : kit_(kit), mesh_(returned), options_(options), expected_(kit.mesh.positions) {
        if (const SentFile* sent = options.sent) {
            sent_shape_ = sent->shape ? *sent->shape : kit.mesh.positions;
            if (!sent->shape) add_known(*sent);
            expected_ =
                sent->options.pose ? skin(sent_shape_, kit.joints, kit.weights, *sent->options.pose) : sent_shape_;
            out_.morph = sent->morph;
        }
        out_.positions = expected_;
        out_.returned.assign(expected_.size(), 0);
    }

    Result<ReturnCheck> run(const Progress& progress) {
        if (auto found = look(progress); !found) return found.error();
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Return check cancelled."};
        if (!out_.relative) {
            out_.steps.push_back({"It is no relative of the base",
                                  "It has " + counted(mesh_.vertex_count(), "vertex", "vertices") + " and " +
                                      counted(mesh_.face_count(), "face", "faces") + ", the base " +
                                      std::to_string(kit_.mesh.vertex_count()) + " and " +
                                      std::to_string(kit_.mesh.face_count()) +
                                      ", and neither order nor UVs, faces, places or a subdivision brings them "
                                      "together. Take it as a source and fit the base to it.",
                                  false});
            out_.positions.clear();
            return std::move(out_);
        }
        say_missing();
        snap_below_noise();
        take_out_what_was_sent();
        seat();
        progress.say(0.8, "Looking for shapes that are still inside");
        leftovers();
        if (auto filled = fill_gaps(kit_, piece_, out_.returned, out_.positions, out_.steps); !filled.empty())
            out_.filled = std::move(filled);
        exploded();
        progress.say(1, "Done");
        return std::move(out_);
    }

 private:
    // Known from the sidecar by name only.
    void add_known(const SentFile& sent) {
        std::vector<MorphAmount> amounts;
        for (const auto& [name, amount] : sent.morphs) {
            const auto at = std::find_if(options_.known.begin(), options_.known.end(),
                                         [&, n = name](const Morph* m) { return m->name == n; });
            if (at != options_.known.end())
                amounts.push_back({*at, amount});
            else
                out_.steps.push_back({"'" + name + "' went out with it and is not here",
                                      "So it cannot be taken out again. Import the morph and check once more.",
                                      false});
        }
        sent_shape_ = mix_morphs(kit_.mesh.positions, amounts);
    }

    // What it may be, the likeliest first: as it was sent, then the whole base, its skin, its head's skin.
    Result<std::vector<Candidate>> candidates() const {
        std::vector<Candidate> out;
        const auto add = [&](const SendOptions& o, const char* name, bool as_sent) -> Status {
            auto piece = piece_to_send(kit_, o, expected_);
            if (!piece) return piece.error();
            if (name) piece->name = name;
            std::vector<int> levels{0, 1, 2};
            if (as_sent) std::stable_partition(levels.begin(), levels.end(), [&](int n) { return n == o.level; });
            for (const int level : levels) out.push_back({*piece, level, as_sent});
            return Done{};
        };
        if (options_.sent) {
            if (auto ok = add(options_.sent->options, nullptr, true); !ok) return ok.error();
        }
        SendOptions o;
        if (auto ok = add(o, "the whole base", false); !ok) return ok.error();
        if (!kit_.head_vertices.empty()) {
            SendOptions head;
            head.scope = SendScope::Head;
            if (auto ok = add(head, "the head mesh", false); !ok) return ok.error();
        }
        for (const KitPart& p : kit_.parts) {
            if (p.name != "skin") o.parts_off.push_back(p.name);
        }
        if (auto ok = add(o, "the skin", false); !ok) return ok.error();
        o.scope = SendScope::Head;
        if (!kit_.region("head_skin").empty()) {
            if (auto ok = add(o, "the head's skin", false); !ok) return ok.error();
        }
        return out;
    }

    Status look(const Progress& progress) {
        const auto all = candidates();
        if (!all) return all.error();
        double at = 0;
        for (const Candidate& c : *all) {
            if (progress.is_cancelled() || out_.relative) return Done{};
            progress.say(0.1 + 0.6 * at++ / static_cast<double>(all->size()),
                         c.level ? "Looking for a subdivided base" : "Comparing with the base");
            // a level multiplies faces by four; anything else is not worth refining
            const double times = static_cast<double>(mesh_.face_count()) / c.piece.mesh.face_count();
            if (c.level > 0 && std::abs(times / std::pow(4, c.level) - 1) > 0.3) continue;
            if (auto ok = try_piece(c); !ok) return ok;
        }
        return Done{};
    }

    Status try_piece(const Candidate& c) {
        std::vector<std::vector<Index>> parts;
        if (c.level == 0 && c.piece.vertex.size() == kit_.mesh.positions.size()) {
            for (const KitPart& p : kit_.parts) parts.push_back(p.vertices);
        }
        std::shared_ptr<const Subdivided> fine;
        if (c.level > 0) {
            auto made = Subdivided::make(c.piece.mesh, c.level);
            if (!made) return Done{};
            fine = *made;
        }
        const Mesh& like = fine ? fine->mesh() : c.piece.mesh;
        const auto found = find_correspondence(like, mesh_, parts);
        if (!found || !proves_itself(*found, mesh_)) return Done{};
        say_order(*found);
        if (!fine) {
            std::vector<Index> of_base(found->first_of.size(), kNone);
            for (std::size_t i = 0; i < of_base.size(); ++i) {
                if (found->first_of[i] != kNone) of_base[i] = c.piece.vertex[found->first_of[i]];
            }
            for (const Index i : found->ambiguous) out_.ambiguous.push_back(of_base[i]);
            piece_ = c.piece.vertex;
            take(of_base, mesh_.positions);
            return Done{};
        }
        std::vector<Vec3> sum(like.positions.size(), Vec3::Zero());
        std::vector<Index> count(sum.size(), 0);
        for (Index v = 0; v < found->first_of.size(); ++v) {
            if (found->first_of[v] != kNone)
                sum[found->first_of[v]] += mesh_.positions[v], ++count[found->first_of[v]];
        }
        const auto base = coarse_from_fine(*fine, sum, count, c.piece.mesh.positions);
        if (!base) return base.error();
        const bool as_sent = c.as_sent && c.level == options_.sent->options.level;
        out_.steps.push_back({std::string("Brought back to base level from ") +
                                  (c.level == 1 ? "one subdivision" : "two subdivisions") + " of " + c.piece.name,
                              std::string(as_sent ? "So it was sent. " : "") +
                                  "The base vertices whose subdivided surface is nearest to what came back.",
                              true});
        take(c.piece.vertex, *base);
        return Done{};
    }

    void say_order(const Correspondence& found) {
        static constexpr const char* ways[] = {"", "Found by their UVs", "Found by how the faces hang together",
                                               "Found by where they lie"};
        const Index lost = mesh_.vertex_count() - found.matched;
        const Index doubled = found.matched - found.first_found;
        if (found.by != FoundBy::Order) {
            out_.steps.push_back({"Vertices put back in the base's order",
                                  std::string(ways[static_cast<int>(found.by)]) + ", and " +
                                      std::to_string(std::lround(100 * found.faces_confirmed)) +
                                      " % of the faces agree with the base's.",
                                  true});
            if (lost)
                out_.steps.push_back({counted(lost, "extra vertex", "extra vertices") + " left out",
                                      "The base has nothing like it; what was added outside has no place in a morph.",
                                      true});
            if (doubled)
                out_.steps.push_back({counted(doubled, "doubled vertex", "doubled vertices") + " joined",
                                      "The file was split along UV seams, groups or materials.", true});
        }
        if (found.faces_turned > 0.5)
            out_.steps.push_back(
                {"It was inside out", "Its faces run the other way round; the base's own are kept.", true});
        if (!found.ambiguous.empty())
            out_.steps.push_back(
                {counted(found.ambiguous.size(), "vertex", "vertices") + " could lie in another order",
                 "They are in pieces that look the same from several sides, without UVs to tell; the nearest order "
                 "was taken. Check them.",
                 false});
    }

    // first_of: per given place its base vertex.
    void take(const std::vector<Index>& first_of, const Points& places) {
        out_.relative = true;
        Points own = places;
        precision_mm_ = precision_of(mesh_.positions);
        if (options_.sent) {
            // what is known needs no guess; if the file came back otherwise, the guess is on top of it
            const double unit = millimetres(options_.sent->options.unit);
            const Mat3 turn = rotation_to_y_up(options_.sent->options.up);
            for (Vec3& p : own) p = unit * (turn * p);
            precision_mm_ *= unit;
        }
        const ReturnFrame frame =
            find_frame(kit_, expected_, own, first_of, options_.answer, out_.steps, out_.question);
        precision_mm_ *= frame.scale;
        std::vector<Vec3> sum(out_.positions.size(), Vec3::Zero());
        std::vector<Index> count(sum.size(), 0);
        for (Index i = 0; i < first_of.size(); ++i) {
            if (first_of[i] != kNone) sum[first_of[i]] += frame(own[i]), ++count[first_of[i]];
        }
        for (Index v = 0; v < count.size(); ++v) {
            if (!count[v]) continue;
            out_.positions[v] = sum[v] / count[v];
            out_.returned[v] = 1;
        }
    }

    void snap_below_noise() {
        const double least = std::max(options_.noise_mm, precision_mm_);
        std::size_t many = 0;
        for (std::size_t v = 0; v < out_.positions.size(); ++v) {
            const double moved = (out_.positions[v] - expected_[v]).norm();
            if (!out_.returned[v] || moved == 0 || moved >= least) continue;
            out_.positions[v] = expected_[v];
            ++many;
        }
        char text[32];
        std::snprintf(text, sizeof text, "%.2g", least);
        if (many)
            out_.steps.push_back(
                {counted(many, "vertex was", "vertices were") + " set back exactly",
                 std::string("Moved by less than ") + text + " mm" +
                     (precision_mm_ > options_.noise_mm ? ", which is what the file's digits can hold."
                                                        : ", which nobody sculpts."),
                 true});
    }

    void take_out_what_was_sent() {
        const SentFile* sent = options_.sent;
        if (!sent) return;
        if (sent->options.pose) {
            out_.positions = unposed(out_.positions, kit_.joints, kit_.weights, *sent->options.pose);
            out_.steps.push_back({"Pose taken out", "It went out in a pose; morphs hold shape only.", true});
        }
        const bool subtract = options_.subtract_sent && !sent->morphs.empty();
        for (std::size_t v = 0; v < out_.positions.size(); ++v) {
            const bool new_here = out_.returned[v] && out_.positions[v] != sent_shape_[v];
            if (!subtract)
                out_.positions[v] = out_.returned[v] ? out_.positions[v] : sent_shape_[v];
            else
                out_.positions[v] = new_here ? Vec3(out_.positions[v] - (sent_shape_[v] - kit_.mesh.positions[v]))
                                             : kit_.mesh.positions[v];
        }
        if (!subtract) return;
        std::string names;
        for (const auto& [name, amount] : sent->morphs) {
            char text[32];
            std::snprintf(text, sizeof text, "%g", amount);
            names += (names.empty() ? "" : ", ") + std::string(text) + " of '" + name + "'";
        }
        out_.steps.push_back(
            {"Taken out: " + names, "They were on when it was sent, so that the sculpt is what is new.", true});
    }

    // A head without its body stands on the base's neck.
    void seat() {
        const auto came = [&](const std::vector<Index>& list) {
            return std::count_if(list.begin(), list.end(), [&](Index v) { return out_.returned[v] != 0; });
        };
        if (kit_.neck_ring.empty() || came(kit_.neck_ring) < static_cast<std::ptrdiff_t>(kit_.neck_ring.size()))
            return;
        std::ptrdiff_t body = 0;
        VertexMask head(out_.positions.size(), 0);
        for (const Index v : kit_.region("head_skin")) head[v] = 1;
        for (const Index v : kit_.neck_ring) head[v] = 1;
        for (const Index v : kit_.part("skin")->vertices) body += !head[v] && out_.returned[v];
        const SeatGap gap = seat_gap(kit_, out_.positions);
        if (body > 0 || gap.worst < kSeatedMm) return;
        char text[64];
        std::snprintf(text, sizeof text, "%.1f mm at most, %.1f mm in the mean", gap.worst, gap.mean.norm());
        const std::string off = std::string("Its neck's rim lay beside the base's, ") + text + ".";
        if (options_.seat == Seat::AsItLies) {
            out_.steps.push_back({"The head does not sit on the neck",
                                  off + " Choose to move the head to the neck, or to bring the neck to the head.",
                                  false, ReturnTopic::Neck});
            return;
        }
        seat_head(kit_, options_.seat, options_.seat_fade_mm, out_.positions);
        out_.steps.push_back(
            {options_.seat == Seat::HeadToNeck ? "Head moved to the neck" : "Neck brought to the head", off, true,
             ReturnTopic::Neck});
    }

    void say_missing() {
        std::string gone, half;
        for (const KitPart& p : kit_.parts) {
            const auto back =
                std::count_if(p.vertices.begin(), p.vertices.end(), [&](Index v) { return out_.returned[v] != 0; });
            if (back == 0)
                gone += (gone.empty() ? "" : ", ") + p.name;
            else if (back < static_cast<std::ptrdiff_t>(p.vertices.size()))
                half += (half.empty() ? "" : ", ") + p.name + " (" + std::to_string(back) + " of " +
                        std::to_string(p.vertices.size()) + " vertices)";
        }
        if (!gone.empty())
            out_.steps.push_back(
                {"Missing: " + gone, "These parts did not come back; they stay as the base has them.", true});
        if (!half.empty())
            out_.steps.push_back(
                {"In part: " + half,
                 "Small gaps move along with what lies around them; the rest stays as the base has it.", true});
    }

    void leftovers() {
        std::vector<Morph> own;
        for (const auto& [name, shape] : kit_.expressions) {
            if (auto m = make_morph(kit_, shape, name)) own.push_back(std::move(*m));
        }
        std::vector<const Morph*> shapes = options_.known;
        for (const Morph& m : own) shapes.push_back(&m);
        if (shapes.empty()) return;
        Points delta(out_.positions.size(), Vec3::Zero());
        for (Index v = 0; v < delta.size(); ++v) delta[v] = out_.positions[v] - kit_.mesh.positions[v];
        const std::vector<LeftoverAmount> found = leftover_amounts(kit_, delta, out_.returned, shapes);
        for (std::size_t k = 0; k < shapes.size(); ++k) {
            const double amount = found[k].amount;
            if (std::abs(amount) < kLeastLeftover || found[k].proven < kLeastProven) continue;
            out_.leftovers.push_back({shapes[k]->name, amount});
            char text[32];
            std::snprintf(text, sizeof text, "%.3f", amount);
            const bool subtract = options_.subtract_leftovers ||
                                  std::find(options_.subtract.begin(), options_.subtract.end(), shapes[k]->name) !=
                                      options_.subtract.end();
            out_.steps.push_back({std::string(text) + " of '" + shapes[k]->name + "' is still inside",
                                  subtract ? "It was switched on when the base went out; it is taken out again."
                                           : "It was switched on when the base went out; it would be applied twice.",
                                  subtract, ReturnTopic::Leftover, shapes[k]->name});
            if (!subtract) continue;
            for (std::size_t i = 0; i < shapes[k]->index.size(); ++i) {
                if (out_.returned[shapes[k]->index[i]])
                    out_.positions[shapes[k]->index[i]] -= amount * shapes[k]->delta[i];
            }
        }
    }

    // Against the middle of the neighbours' own moves.
    void exploded() {
        const Adjacency& next = kit_neighbours(kit_);
        const auto moved = [&](Index v) { return Vec3(out_.positions[v] - kit_.mesh.positions[v]); };
        for (Index v = 0; v < out_.positions.size(); ++v) {
            if (!out_.returned[v]) continue;
            std::vector<double> off;
            for (const Index* j = next.begin(v); j != next.end(v); ++j) {
                if (out_.returned[*j]) off.push_back((moved(v) - moved(*j)).norm());
            }
            if (!off.empty() && median(off) > kExplodedMm) out_.exploded.push_back(v);
        }
        if (!out_.exploded.empty())
            out_.steps.push_back({counted(out_.exploded.size(), "vertex lies", "vertices lie") + " far outside",
                                  "More than " + std::to_string(static_cast<int>(kExplodedMm)) +
                                      " mm from where their neighbours went. Look at them before you keep the shape.",
                                  false});
    }

    const BaseKit& kit_;
    const Mesh& mesh_;
    const ReturnOptions& options_;
    Points expected_;           // the whole base as it went out, kit frame
    Points sent_shape_;         // the same at rest
    std::vector<Index> piece_;  // of the base, what should have come back
    double precision_mm_ = 0;   // what the file's numbers can tell apart
    ReturnCheck out_;
};

}  // namespace

Result<Morph> updated_morph(const BaseKit& kit, const Morph& morph, const ReturnCheck& check,
                            const ReturnOptions& options) {
    double on = 0;
    if (options.sent && options.subtract_sent) {
        for (const auto& [name, amount] : options.sent->morphs) on += name == morph.name ? amount : 0;
    }
    Points shape = check.positions;
    if (on != 0) {
        const Points& base = kit.mesh.positions;
        for (std::size_t v = 0; v < shape.size(); ++v) shape[v] = base[v] + (shape[v] - base[v]) / on;
        for (std::size_t i = 0; i < morph.index.size(); ++i) shape[morph.index[i]] += morph.delta[i];
    }
    auto out = make_morph(kit, shape, morph.name);
    if (out && on != 0) out->root = morph.root;
    return out;
}

Result<ReturnCheck> check_return(const BaseKit& kit, const Mesh& returned, const ReturnOptions& options,
                                 const Progress& progress) {
    if (auto ok = check_mesh(returned, "The returned mesh"); !ok) return ok.error();
    return Checker(kit, returned, options).run(progress);
}

}  // namespace veld
