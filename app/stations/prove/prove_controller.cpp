#include "app/stations/prove/prove_controller.h"

#include <QFileInfo>
#include <algorithm>

#include "app/core_words.h"
#include "core/kit/kit_surface.h"
#include "core/project/bank.h"
#include "core/project/things.h"
#include "core/proof/sheet.h"
#include "core/rig/bvh.h"

namespace veld {
namespace {

constexpr int kTickMs = 33;
constexpr double kStopsPerSecond = 2, kMostFrames = 240;

}  // namespace

ProveController::ProveController(Session& session, BankController& bank, QObject* parent)
    : QObject(parent), s_(session), bank_(bank) {
    connect(&s_, &Session::project_changed, this, [this] { kit_.reset(), refresh(); });
    connect(&s_, &Session::changed, this, &ProveController::refresh);
    timer_.setInterval(kTickMs);
    connect(&timer_, &QTimer::timeout, this, [this] {
        const Proof* of = proof();
        if (!of) return play(false);
        const bool motion = of->kind == ProofKind::Motion;
        const double step = kTickMs / 1000.0 * (motion ? 30 : kStopsPerSecond);
        set_at(at_ + step > last() ? 0 : at_ + step);
    });
}

bool ProveController::can_prove() const { return s_.has_kit() && rest_.has_value(); }

void ProveController::set_awake(bool on) {
    awake_ = on;
    if (!on) return play(false);
    refresh();
}

void ProveController::set_from(From from) {
    wanted_ = from;
    refresh();
}

// Another shape is made ready anew; what hangs on the old one goes.
void ProveController::refresh() {
    if (kit_ != s_.state().kit) {
        kit_ = s_.state().kit;
        plain_base_.reset(), rest_.reset(), hand_.clear();
        forget();
    }
    list_proofs();
    std::optional<Points> rest;
    from_ = wanted_;
    if (kit_ && awake_ && from_ == From::Fit) rest = bank_.shape_of(BankController::From::Fit);
    if (rest)
        for (const ShapeCorrection& c : corrections_in(s_.state(), true)) {
            const double share = c.amount * driven_share(c.morph->drivers, {heads(), {}});
            for (std::size_t i = 0; share != 0 && i < c.morph->index.size(); ++i)
                (*rest)[c.morph->index[i]] += share * c.morph->delta[i];
        }
    if (kit_ && awake_ && from_ == From::Base) rest = kit_->mesh.positions;
    if (kit_ && awake_ && !rest) from_ = From::Mix, rest = bank_.shape_of(BankController::From::Mix);
    auto own = awake_ && kit_ ? own_expressions() : own_;
    if (awake_ && (rest != rest_ || own != own_)) {
        rest_ = std::move(rest), own_ = std::move(own);
        forget();
        prepare();
    }
    correct();
    emit changed();
}

void ProveController::forget() {
    plain_bench_.reset(), bench_.reset(), plain_.reset(), report_.reset();
    shape_.reset(), base_.reset(), values_.reset();
    if (preparing_) s_.jobs().cancel(preparing_);
    if (measuring_) s_.jobs().cancel(measuring_);
    preparing_ = measuring_ = 0;  // jobs of a project that was closed are never heard of again
}

// What the shape is made of, by name: a fit of the morph that the bank makes of it, a mix of its morphs.
std::map<std::string, double> ProveController::heads() const {
    std::map<std::string, double> out;
    if (from_ == From::Fit) out[fit_name().toStdString()] = 1;
    if (from_ == From::Mix)
        for (const MorphAmount& a : s_.state().amounts())
            if (a.amount != 0 && a.morph->drivers.empty() && !kit_->expressions.contains(a.morph->name))
                out[a.morph->name] = a.amount;
    return out;
}

// The bank's expressions of this very shape, as Make and Prove name them ("smile, Ottoline head").
std::map<std::string, std::shared_ptr<const Morph>> ProveController::own_expressions() const {
    std::map<std::string, std::shared_ptr<const Morph>> out;
    const std::map<std::string, double> of = heads();
    if (of.size() != 1 || of.begin()->second != 1) return out;
    for (const BankEntry& e : s_.state().bank)
        for (const auto& [name, shape] : kit_->expressions)
            if (e.morph->drivers.empty() && e.morph->name == name + ", " + of.begin()->first) out[name] = e.morph;
    return out;
}

// The bank's corrections on the bench, where they or it are others than before.
void ProveController::correct() {
    if (!plain_bench_) return;
    std::vector<ShapeCorrection> now = corrections_in(s_.state(), false);
    std::map<std::string, double> of = heads();
    if (bench_ && now == corrections_ && of == heads_) return;
    corrections_ = std::move(now), heads_ = std::move(of);
    bench_ = std::make_shared<const ProofBench>(plain_bench_->corrected(corrections_, heads_));
    if (measuring_) s_.jobs().cancel(measuring_);
    measuring_ = 0;
    report_.reset(), shape_.reset(), base_.reset(), values_.reset();
}

QString ProveController::shape_name() const {
    if (from_ == From::Base) return tr("Base");
    if (from_ == From::Mix) return tr("Mix");
    const Subject* subject = s_.state().current();
    return subject ? QString::fromStdString(subject->name) : tr("Fit");
}

void ProveController::list_proofs() {
    proofs_.clear();
    if (!kit_) return;
    proofs_ = stock_proofs(*kit_);
    for (const auto& own : s_.state().proofs) proofs_.push_back(*own);
    if (!proof()) selected_ = proofs_.front().name, at_ = 1, shape_.reset(), base_.reset(), values_.reset();
}

void ProveController::prepare() {
    if (!rest_) return;
    preparing_ = s_.jobs().start<std::shared_ptr<const ProofBench>>(
        {JobKind::Check, tr("Carrying the expressions over"), {}, true},
        [kit = kit_, rest = *rest_, of = own_](const Progress& progress) -> Result<std::shared_ptr<const ProofBench>> {
            std::map<std::string, Points> own;
            for (const auto& [name, morph] : of) own[name] = mix_morphs(rest, {{morph.get(), 1}});
            auto bench = ProofBench::make(*kit, rest, stock_proofs(*kit), progress, own);
            if (!bench) return bench.error();
            return std::make_shared<const ProofBench>(std::move(*bench));
        },
        [this, kit = kit_, rest = *rest_, of = own_](Result<std::shared_ptr<const ProofBench>>&& bench) {
            // for a shape that is no longer looked at
            if (kit != kit_ || !rest_ || rest != *rest_ || of != own_) return;
            preparing_ = 0;
            if (!bench && bench.error().code != ErrorCode::Cancelled) s_.say_why_not(bench.error());
            if (bench) plain_bench_ = std::move(*bench), correct();
            emit changed();
        });
}

bool ProveController::own(const std::string& name) const {
    const auto& all = s_.state().proofs;
    return std::any_of(all.begin(), all.end(), [&](const auto& p) { return p->name == name; });
}

const Proof* ProveController::proof() const {
    const auto at = std::find_if(proofs_.begin(), proofs_.end(), [&](const Proof& p) { return p.name == selected_; });
    return at == proofs_.end() ? nullptr : &*at;
}

double ProveController::last() const { return proof() ? static_cast<double>(proof()->stops.size()) : 1; }

void ProveController::select(const std::string& name) {
    selected_ = name;
    at_ = proof() && proof()->kind == ProofKind::Motion ? 1 : last();
    shape_.reset(), base_.reset(), values_.reset();
    emit changed();
}

void ProveController::set_at(double at) {
    at_ = std::clamp(at, 0.0, last());
    shape_.reset(), base_.reset(), values_.reset();
    emit changed();
}

void ProveController::play(bool on) {
    on ? timer_.start() : timer_.stop();
    emit changed();
}

void ProveController::set_skinning(Skinning skinning) {
    if (skinning == skinning_) return;
    skinning_ = skinning;
    shape_.reset(), base_.reset(), values_.reset(), report_.reset();
    emit changed();
}

bool ProveController::of_face() const {
    return !proof() || proof()->kind == ProofKind::Face || (any_by_hand() && proof()->kind != ProofKind::Motion);
}

double ProveController::by_hand(const std::string& expression) const {
    const auto at = hand_.find(expression);
    return at == hand_.end() ? 0 : at->second;
}

void ProveController::set_by_hand(const std::string& expression, double amount) {
    if (amount == 0)
        hand_.erase(expression);
    else
        hand_[expression] = amount;
    shape_.reset(), base_.reset(), values_.reset();
    emit changed();
}

void ProveController::clear_by_hand() {
    hand_.clear();
    shape_.reset(), base_.reset(), values_.reset();
    emit changed();
}

ProofStop ProveController::now() const {
    ProofStop out = proof() ? stop_at(*proof(), at_) : ProofStop{};
    for (const auto& [name, amount] : hand_) out.expressions.push_back({name, amount});
    return out;
}

void ProveController::keep(const QString& name) {
    if (!kit_) return;
    Proof proof{name.toStdString(), of_face() ? ProofKind::Face : ProofKind::Pose, {now()}};
    ProjectState next = s_.state();
    selected_ = add_proof(next, std::move(proof)), at_ = 1;
    hand_.clear();
    s_.change(tr("Keep the proof %1").arg(QString::fromStdString(selected_)), std::move(next));
}

bool ProveController::add_motion(const QString& path) {
    if (!kit_) return false;
    const auto motion = read_bvh(path.toStdString());
    if (!motion) return s_.report(motion.error()), false;
    auto poses = motion_on(*motion, kit_->joints);
    if (!poses) return s_.report(poses.error()), false;
    Proof proof{QFileInfo(path).completeBaseName().toStdString(), ProofKind::Motion, {}};
    // long ones are thinned
    const auto frames = static_cast<double>(poses->size()), step = std::max(1.0, frames / kMostFrames);
    for (double f = 0; f < frames; f += step)
        proof.stops.push_back({std::move((*poses)[static_cast<std::size_t>(f)]), {}});
    ProjectState next = s_.state();
    selected_ = add_proof(next, std::move(proof)), at_ = 1;
    s_.change(tr("Motion %1").arg(QString::fromStdString(selected_)), std::move(next));
    return true;
}

void ProveController::remove(const std::string& name) {
    ProjectState next = s_.state();
    if (remove_proof(next, name))
        s_.change(tr("Remove the proof %1").arg(QString::fromStdString(name)), std::move(next));
}

const Points& ProveController::shape() {
    if (shape_) return *shape_;
    if (!bench_ && !plain_) {
        auto made = ProofSubject::make(*kit_, *rest_, {}, {});
        plain_ = std::make_unique<ProofSubject>(std::move(*made));
    }
    shape_ = (bench_ ? bench_->shape : *plain_).at(now(), skinning_);
    return *shape_;
}

const Points& ProveController::base() {
    if (base_) return *base_;
    if (!bench_ && !plain_base_) {
        auto made = ProofSubject::make(*kit_, kit_->mesh.positions, {}, {});
        plain_base_ = std::make_unique<ProofSubject>(std::move(*made));
    }
    ProofStop stop = now();
    stop.amount = 1;
    base_ = (bench_ ? bench_->base : *plain_base_).at(stop, skinning_);
    return *base_;
}

void ProveController::set_colours(Colours colours) {
    colours_ = colours;
    values_.reset();
    emit changed();
}

const std::vector<float>& ProveController::values() {
    if (values_) return *values_;
    values_.emplace();
    if (colours_ == Colours::None || !bench_) return *values_;
    const ProofStop stop = now();
    if (colours_ == Colours::Cuts) {
        const VertexMask cuts = bench_->places->cutting(bench_->shape, bench_->base, stop, shape(), base());
        values_->assign(cuts.begin(), cuts.end());
    } else {
        *values_ = bench_->places->stretch(bench_->shape.rest(stop.amount), bench_->base.rest(), shape(), base());
    }
    return *values_;
}

void ProveController::measure() {
    if (!bench_ || measuring()) return;
    measuring_ = s_.jobs().start<ProofReport>(
        {JobKind::Check, tr("Measuring the proofs"), {}},
        [kit = kit_, bench = bench_, proofs = proofs_, skinning = skinning_](const Progress& progress) {
            return prove(*bench, proofs, skinning, progress);
        },
        [this, bench = bench_, skinning = skinning_](Result<ProofReport>&& report) {
            if (bench != bench_) return;  // of a shape that is no longer looked at
            measuring_ = 0;
            if (!report && report.error().code != ErrorCode::Cancelled) s_.say_why_not(report.error());
            if (report && skinning == skinning_) report_ = std::make_shared<const ProofReport>(std::move(*report));
            emit changed();
        });
    emit changed();
}

void ProveController::write_sheet(const QString& path) {
    if (!bench_ || !report_) return;
    const std::string of = heads_.size() == 1 ? heads_.begin()->first : std::string();
    s_.jobs().start<ProofSheet>(
        {JobKind::Check, tr("Proof sheet"), {}},
        [kit = kit_, bench = bench_, proofs = proofs_for_sheet(proofs_, *report_), report = report_,
         skinning = skinning_, shape = shape_name().toStdString()](const Progress& progress) {
            const SheetText text{shape, [](const std::string& word) { return core_word(word).toStdString(); }};
            return proof_sheet(*bench, proofs, *report, skinning, text, progress);
        },
        [this, kit = kit_, path, of](Result<ProofSheet>&& sheet) {
            if (!sheet) return s_.say_why_not(sheet.error());
            if (auto ok = veld::write_sheet(*sheet, path.toStdString()); !ok) return s_.report(ok.error());
            emit s_.noticed(tr("The proof sheet is written, as PNG and as PDF."));
            const int at = kit == s_.state().kit ? find_morph(s_.state(), of) : -1;
            if (at < 0) return;
            ProjectState next = s_.state();
            next.bank[static_cast<std::size_t>(at)].sheet = std::make_shared<const std::string>(std::move(sheet->png));
            s_.change(tr("Keep the proof sheet with %1").arg(QString::fromStdString(of)), std::move(next));
        });
}

std::size_t ProveController::bad_of(const std::string& proof) const {
    if (!report_) return 0;
    return static_cast<std::size_t>(std::count_if(report_->rows.begin(), report_->rows.end(), [&](const ProofRow& r) {
        return r.proof == proof && r.figure.badness() >= 1;
    }));
}

void ProveController::go_to(const ProofRow& row) {
    play(false);
    hand_.clear();
    select(row.proof);
    set_at(static_cast<double>(row.stop + 1));
    if (row.figure.at != kNone && can_prove()) emit flew_to(shape()[row.figure.at], kit_normals(*kit_)[row.figure.at]);
}

}  // namespace veld
