#include "app/stations/bank/bank_controller.h"

#include "core/morph/arithmetic.h"
#include "core/project/fits.h"
#include "core/proof/carry_expression.h"

namespace veld {
namespace {
constexpr double kSoftMiddleMm = 8;

QString text(const std::string& s) { return QString::fromStdString(s); }
}  // namespace

BankController::BankController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] {
        stroking_ = painting_ = false;
        painted_.clear();
        preview_.reset();
        region_.clear();
        carrying_ = 0;  // what ran for the old project is never heard of again
    });
    connect(&s_, &Session::changed, this, [this] {
        if (stroking_) return;
        painted_.clear();
        if (painting_ && !share_painted()) painting_ = false;  // undone
    });
}

void BankController::set_page(Page page) {
    if (page == page_) return;
    page_ = page;
    emit page_changed();
    emit changed();
}

void BankController::slide(std::size_t at, double amount, bool dragging) {
    if (at >= s_.state().bank.size() || s_.state().bank[at].amount == amount) return;
    ProjectState next = s_.state();
    next.bank[at].amount = amount;
    next.between.reset();
    s_.change(tr("Slide %1").arg(text(next.bank[at].morph->name)), std::move(next),
              dragging ? "slide " + std::to_string(at) : "");
}

void BankController::reset() {
    ProjectState next = s_.state();
    for (BankEntry& e : next.bank) e.amount = e.morph->usual, e.muted = e.solo = false;
    next.region_mix.clear();
    next.between.reset();
    s_.change(tr("Reset all morphs"), std::move(next));
}

void BankController::change_entry(const QString& label, std::size_t at,
                                  const std::function<void(BankEntry&)>& change) {
    if (at >= s_.state().bank.size()) return;
    ProjectState next = s_.state();
    change(next.bank[at]);
    s_.change(label, std::move(next));
}

void BankController::rename(MorphId id, const QString& name) {
    const int at = morph_place(s_.state(), id);
    if (at < 0 || name.isEmpty()) return;
    ProjectState next = s_.state();
    rename_morph(next, static_cast<std::size_t>(at), name.toStdString());
    s_.change(tr("Rename to %1").arg(text(next.bank[static_cast<std::size_t>(at)].morph->name)), std::move(next));
}

void BankController::erase(MorphId id) {
    const int at = morph_place(s_.state(), id);
    if (at < 0) return;
    ProjectState next = s_.state();
    const QString name = text(next.bank[static_cast<std::size_t>(at)].morph->name);
    remove_morph(next, static_cast<std::size_t>(at));
    s_.change(tr("Delete %1").arg(name), std::move(next));
}

void BankController::setting(bool b, bool keep) {
    ProjectState next = s_.state();
    std::optional<MixSetting>& slot = b ? next.mix_b : next.mix_a;
    const QString name = b ? tr("B") : tr("A");
    if (keep || !slot) {
        slot = mix_setting(next);
        next.between.reset();
        return s_.change(tr("Keep the mix as %1").arg(name), std::move(next));
    }
    set_mix(next, *slot);
    if (next.mix_a && next.mix_b) next.between = b ? 1.0 : 0.0;
    s_.change(tr("Show setting %1").arg(name), std::move(next));
}

void BankController::between(double share, bool dragging) {
    ProjectState next = s_.state();
    if (!next.mix_a || !next.mix_b || next.between == share) return;
    set_between(next, share);
    s_.change(tr("Blend A and B"), std::move(next), dragging ? "between" : "");
}

void BankController::bake(const QString& name) {
    auto baked = bake_mix(s_.state(), name.toStdString());
    if (!baked) return s_.report(baked.error());
    ProjectState next = s_.state();
    // the mix looks as before: the new one alone at 1
    for (BankEntry& e : next.bank) e.amount = 0, e.muted = e.solo = false;
    next.region_mix.clear();
    next.between.reset();
    add_morph(next, std::move(*baked), 1);
    s_.change(tr("Bake %1").arg(name), std::move(next));
}

void BankController::add(const QString& label, Result<Morph>&& morph) {
    if (!morph) return s_.report(morph.error());
    keep(label, std::move(*morph), -1, 0);
}

void BankController::keep(const QString& label, Morph morph, int in_place_of, double amount, SubjectId of) {
    ProjectState next = s_.state();
    if (in_place_of >= 0 && in_place_of < static_cast<int>(next.bank.size()))
        replace_morph(next, static_cast<std::size_t>(in_place_of), std::move(morph));
    else
        add_morph(next, std::move(morph), amount);
    if (of) (in_place_of >= 0 ? next.bank[static_cast<std::size_t>(in_place_of)] : next.bank.back()).subject = of;
    s_.change(label, std::move(next));
}

void BankController::make_from(MorphId id, Made what) {
    const int at = morph_place(s_.state(), id);
    if (at < 0) return;
    const BaseKit& kit = *s_.state().kit;
    const Morph& m = *s_.state().bank[static_cast<std::size_t>(at)].morph;
    switch (what) {
        case Made::Mirrored:
            return add(tr("Mirror %1").arg(text(m.name)), mirrored_morph(kit, m, m.name + " mirrored"));
        case Made::LeftHalf:
            return add(tr("Left half of %1").arg(text(m.name)),
                       half_morph(kit, m, Side::Left, kSoftMiddleMm, m.name + " left"));
        case Made::RightHalf:
            return add(tr("Right half of %1").arg(text(m.name)),
                       half_morph(kit, m, Side::Right, kSoftMiddleMm, m.name + " right"));
        case Made::LeftOnBoth:
            return add(tr("%1, left on both sides").arg(text(m.name)),
                       symmetric_morph(kit, m, Side::Left, kSoftMiddleMm, m.name + " left on both"));
        case Made::RightOnBoth:
            return add(tr("%1, right on both sides").arg(text(m.name)),
                       symmetric_morph(kit, m, Side::Right, kSoftMiddleMm, m.name + " right on both"));
    }
}

void BankController::scale(MorphId id, double factor) {
    const int at = morph_place(s_.state(), id);
    if (at < 0) return;
    const Morph& m = *s_.state().bank[static_cast<std::size_t>(at)].morph;
    add(tr("%1 times %2").arg(text(m.name)).arg(factor),
        sum_morphs(*s_.state().kit, {{&m, factor}}, m.name + " x " + QString::number(factor).toStdString()));
}

void BankController::add_other(MorphId id, MorphId other, double sign) {
    const auto& bank = s_.state().bank;
    const int at = morph_place(s_.state(), id), with = morph_place(s_.state(), other);
    if (at < 0 || with < 0) return;
    const Morph &a = *bank[static_cast<std::size_t>(at)].morph, &b = *bank[static_cast<std::size_t>(with)].morph;
    const std::string name = a.name + (sign > 0 ? " plus " : " minus ") + b.name;
    add(text(name), sum_morphs(*s_.state().kit, {{&a, 1.0}, {&b, sign}}, name));
}

void BankController::split_by_region(MorphId id) {
    const int at = morph_place(s_.state(), id);
    if (at < 0 || !regions()) return;
    const Morph& m = *s_.state().bank[static_cast<std::size_t>(at)].morph;
    auto shares = region_shares(*s_.state().kit, *regions(), m);
    if (!shares) return s_.report(shares.error());
    ProjectState next = s_.state();
    for (Morph& share : *shares) {
        share.group = m.group.empty() ? m.name : m.group + "/" + m.name;
        add_morph(next, std::move(share), 0);
    }
    s_.change(tr("Split %1 by region").arg(text(m.name)), std::move(next));
}

const BaseRegions* BankController::regions() {
    if (!s_.has_kit()) return nullptr;
    if (s_.state().regions) return s_.state().regions.get();
    if (regions_of_ != s_.state().kit) {
        regions_of_ = s_.state().kit;
        regions_ = std::make_shared<const BaseRegions>(face_regions(*s_.state().kit));
    }
    return regions_.get();
}

void BankController::select_region(const std::string& region) {
    if (region == region_) return;
    region_ = region;
    emit changed();
}

void BankController::pick_region(const Ray& ray) {
    const BaseRegions* all = regions();
    if (!all) return;
    // on the shape that is shown
    const Points shape = mixed_shape(s_.state());
    const SurfaceQuery query(shape, s_.state().kit->triangulation.triangles);
    const std::string* met = region_met(*all, *s_.state().kit, query, ray.origin, ray.direction);
    if (met) select_region(*met);
}

bool BankController::set_region_amount(const std::string& morph, double amount, bool dragging) {
    if (region_.empty() || !regions()) return false;
    ProjectState next = s_.state();
    if (!next.regions) next.regions = regions_;
    if (!veld::set_region_amount(next, {region_, morph, amount})) return false;
    s_.change(tr("%1 of %2").arg(text(region_), text(morph)), std::move(next),
              dragging ? "region " + region_ + " " + morph : "");
    return true;
}

void BankController::remove_from_region(const std::string& morph) {
    ProjectState next = s_.state();
    std::erase_if(next.region_mix, [&](const RegionAmount& a) { return a.region == region_ && a.morph == morph; });
    next.between.reset();
    s_.change(tr("Remove %1 from %2").arg(text(morph), text(region_)), std::move(next));
}

std::optional<Points> BankController::shape_of(From from) const {
    if (!s_.has_kit()) return {};
    if (from == From::Fit)
        return s_.state().fit() ? std::optional(rest_shape(*s_.state().kit, *s_.state().fit())) : std::nullopt;
    return mixed_shape(s_.state());
}

QString BankController::suggested_name(From from) const {
    const ProjectState& state = s_.state();
    if (from == From::Mix) return tr("Mix");
    return state.fit() && state.current()
               ? text(state.current()->name) + " " + fit_part_name(state.fit()->settings.part)
               : QString();
}

bool BankController::make(From from, const Card& card) {
    const ProjectState& state = s_.state();
    auto shape = shape_of(from);
    if (!shape) return false;
    const std::string name = (card.name.isEmpty() ? suggested_name(from) : card.name).toStdString();
    place_parts(*state.kit, card.parts, *shape);
    auto morph = make_morph(*state.kit, *shape, name);
    if (!morph) return s_.report(morph.error()), false;
    if (from == From::Fit) {
        morph->origin = "From " + state.fit()->name + " of " + state.fit()->source;
        morph->figures = figures_text(state.fit()->figures);
    } else {
        // what a slider's root lifted is a root again, not in every vertex
        if (auto baked = bake_mix(state, name); baked && card.parts == PartsChoice::AsTheyAre)
            *morph = std::move(*baked);
    }
    if (from == From::Mix && morph->index.empty())
        return s_.report({ErrorCode::BadInput, "Nothing is mixed: every slider is at 0."}), false;
    morph->kind = card.kind, morph->group = card.group.toStdString();
    keep(tr("Keep %1").arg(text(name)), std::move(*morph), card.in_place_of, from == From::Fit ? 1 : 0,
         from == From::Fit ? s_.subject() : SubjectId{});
    return true;
}

void BankController::carry_expressions(From from, const QString& name) {
    const auto shape = shape_of(from);
    if (!shape || carrying()) return;
    const QString of = name.isEmpty() ? suggested_name(from) : name;
    carrying_ = s_.jobs().start<std::vector<Morph>>(
        {JobKind::Check, tr("Carrying the expressions over"), {}, true},
        [kit = s_.state().kit, shape = *shape](const Progress& progress) {
            return carried_morphs(*kit, shape, progress);
        },
        [this, kit = s_.state().kit, of](Result<std::vector<Morph>>&& morphs) {
            carrying_ = 0;
            emit changed();
            if (!morphs) return s_.say_why_not(morphs.error());
            if (kit != s_.state().kit) return;
            ProjectState next = s_.state();
            QStringList look;
            for (Morph& morph : *morphs) {
                if (!morph.note.empty()) look << text(morph.name);
                morph.group = "expressions/" + of.toStdString();
                morph.name += ", " + of.toStdString();
                add_morph(next, std::move(morph), 0);
            }
            s_.change(tr("Expressions of %1").arg(of), std::move(next));
            if (!look.isEmpty()) emit s_.noticed(tr("Look at %1: skin still cuts itself there.").arg(look.join(", ")));
        });
    emit changed();
}

void BankController::add_corrections(From from, const QString& name) {
    const auto shape = shape_of(from);
    if (!shape || carrying()) return;
    const std::string of = (name.isEmpty() ? suggested_name(from) : name).toStdString();
    carrying_ = s_.jobs().start<HeadExpressions>(
        {JobKind::Check, tr("Carrying the expressions over"), {}, true},
        [kit = s_.state().kit, shape = *shape, of](const Progress& progress) {
            return head_expressions(*kit, shape, of, progress);
        },
        [this, kit = s_.state().kit, shape = *shape, of, from](Result<HeadExpressions>&& made) {
            carrying_ = 0;
            emit changed();
            if (!made) return s_.say_why_not(made.error());
            if (kit == s_.state().kit) put_corrections(of, shape, from == From::Fit, std::move(*made));
        });
    emit changed();
}

void BankController::put_corrections(const std::string& of, const Points& shape, bool fit, HeadExpressions made) {
    ProjectState next = s_.state();
    if (find_morph(next, of) < 0) {
        auto head = make_morph(*next.kit, shape, of);
        if (!head) return s_.report(head.error());
        add_morph(next, std::move(*head), fit ? 1 : 0);
    }
    for (Morph& m : made.plain) {
        if (find_morph(next, m.name) >= 0) continue;
        m.group = "expressions";
        add_morph(next, std::move(m), 0);
    }
    std::erase_if(next.bank, [&](const BankEntry& e) {
        const auto& drivers = e.morph->drivers;
        return e.morph->kind == MorphKind::Expression && drivers.size() == 2 && drivers[0].morph == of;
    });
    const std::size_t count = made.corrections.size();
    for (Morph& m : made.corrections) {
        m.group = "corrections/" + of;
        add_morph(next, std::move(m), 1);
    }
    s_.change(tr("Corrections of %1").arg(text(of)), std::move(next));
    emit s_.noticed(tr("Corrections added, mixed in with their expression and %1: %2").arg(text(of)).arg(count));
}

double BankController::neck_found(From from) const {
    const auto shape = shape_of(from);
    return shape ? neck_alignment(*s_.state().kit, *shape).y() : 0;
}

bool BankController::make_shares(From from, const Card& card, double neck_mm, bool on_floor) {
    const ProjectState& state = s_.state();
    auto shape = shape_of(from);
    if (!shape) return false;
    place_parts(*state.kit, card.parts, *shape);
    const std::vector<double> weights = head_share_weights(state);
    ShareOptions options;
    options.head = &weights;
    options.neck_move = neck_mm * Vec3::UnitY();
    options.on_floor = on_floor;
    const std::string name = (card.name.isEmpty() ? suggested_name(from) : card.name).toStdString();
    auto shares = split_shares(*state.kit, *shape, name, options);
    if (!shares) return s_.report(shares.error()), false;
    ProjectState next = state;
    for (Morph* m : {&shares->head, &shares->body}) {
        m->group = card.group.toStdString();
        if (from == From::Fit) m->figures = figures_text(state.fit()->figures);
        add_morph(next, std::move(*m), 0);
    }
    s_.change(tr("Split %1 into head and body").arg(text(name)), std::move(next));
    return true;
}

void BankController::set_painting(bool on) {
    painting_ = on && share_painted();
    emit changed();
}

void BankController::begin_painting() {
    if (!s_.has_kit()) return;
    painting_ = true;
    if (share_painted()) return emit changed();
    ProjectState next = s_.state();
    const std::vector<double> band = head_share_weights(next);
    next.head_share = soft_weights({band.begin(), band.end()});
    s_.change(tr("Paint the head's share"), std::move(next));
}

void BankController::clear_painted() {
    painting_ = false;
    ProjectState next = s_.state();
    next.head_share = {};
    s_.change(tr("Head's share by the neck band"), std::move(next));
}

Status BankController::keep_with_kit() const { return write_share_weights(*s_.state().kit, s_.state().head_share); }

std::vector<float> BankController::share_weights() const {
    if (!painted_.empty()) return painted_;
    const std::vector<double> w = head_share_weights(s_.state());
    return {w.begin(), w.end()};
}

void BankController::begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys) {
    if (!painting()) return;
    painted_ = share_weights();
    stroking_ = true;
    erasing_ = keys.testFlag(Qt::ControlModifier);
    move_stroke(ray);
}

void BankController::move_stroke(const Ray& ray) {
    if (stroking_ && brush_.paint(s_.state().kit, ray, radius_mm, erasing_, true, painted_)) emit changed();
}

void BankController::end_stroke() {
    if (!stroking_) return;
    stroking_ = false;
    if (!share_painted()) return;  // undone under the hand
    ProjectState next = s_.state();
    next.head_share = soft_weights(painted_);
    s_.change(erasing_ ? tr("Remove from the head's share") : tr("Paint the head's share"), std::move(next));
}

void BankController::set_preview(std::optional<Preview> preview) {
    preview_ = std::move(preview);
    emit changed();
}

}  // namespace veld
