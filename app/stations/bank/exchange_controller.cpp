#include "app/stations/bank/exchange_controller.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>

#include "core/base/file.h"
#include "core/project/sources.h"

namespace veld {
namespace {
constexpr int kLookMs = 800;
}  // namespace

ExchangeController::ExchangeController(Session& session, BankController& bank, QObject* parent)
    : QObject(parent), s_(session), bank_(bank) {
    connect(&timer_, &QTimer::timeout, this, &ExchangeController::look);
    timer_.start(kLookMs);
    connect(&bank_, &BankController::page_changed, this, &ExchangeController::show);
    connect(&s_, &Session::project_changed, this, [this] {
        check_ = 0;
        path_.clear(), trouble_.clear();
        result_.reset(), memory_.reset(), inbox_.reset();
        returns_.clear();
        options = {};
    });
}

QString ExchangeController::folder() const {
    if (!s_.state().exchange.empty()) return QString::fromStdString(s_.state().exchange);
    if (s_.path().isEmpty()) return {};
    const QFileInfo project(s_.path());
    return project.absolutePath() + "/" + project.completeBaseName() + " exchange";
}

void ExchangeController::set_folder(const QString& folder) {
    ProjectState next = s_.state();
    next.exchange = folder.toStdString();
    s_.change(tr("Set the exchange folder"), std::move(next));
}

bool ExchangeController::send(const QString& name, const SendOptions& options, bool with_mix,
                              const std::string& for_morph) {
    const QString to = folder();
    if (to.isEmpty())
        return s_.report(
                   {ErrorCode::BadInput, "Select a folder first, or save the project: then it gets one beside it."}),
               false;
    if (!QDir().mkpath(to))
        return s_.report({ErrorCode::Io, "Cannot make the folder '" + to.toStdString() + "'. Choose another one."}),
               false;
    const std::string path = (to + "/" + QFileInfo(name).fileName()).toStdString();
    // a sculpt that lies there untaken is worth more than what is sent anew
    const bool as_it_went = std::any_of(s_.state().sent.begin(), s_.state().sent.end(), [&](const SentFile& f) {
        return f.file == path && f.stamp == file_stamp(path);
    });
    if (QFileInfo::exists(QString::fromStdString(path)) && !as_it_went)
        return s_.report({ErrorCode::BadInput, "'" + path +
                                                   "' is there already and is not what was sent last: it may have "
                                                   "come back. Check and keep it, or send under another name."}),
               false;
    Result<SentFile> sent{Error{}};
    if (with_mix && !s_.state().region_mix.empty()) {
        // regions are no morph that could be named; they go out as one
        auto baked = bake_mix(s_.state(), "the mix");
        sent = baked ? send_out(*s_.state().kit, options, {{&*baked, 1.0}}, path) : Result<SentFile>(baked.error());
    } else {
        sent = send_out(*s_.state().kit, options, with_mix ? s_.state().amounts() : std::vector<MorphAmount>(), path);
    }
    if (!sent) return s_.report(sent.error()), false;
    sent->morph = for_morph;
    if (auto ok = write_file(sidecar_path(path), sent_text(*sent)); !ok) return s_.report(ok.error()), false;
    sent->stamp = file_stamp(path);
    ProjectState next = s_.state();
    next.exchange = to.toStdString();
    std::erase_if(next.sent, [&](const SentFile& f) { return f.file == path; });
    next.sent.push_back(std::move(*sent));
    s_.change(tr("Send %1").arg(QFileInfo(name).fileName()), std::move(next));
    emit s_.noticed(tr("Sent: %1").arg(QString::fromStdString(path)));
    return true;
}

void ExchangeController::look() {
    const std::string& watched = s_.state().exchange;
    if (watched.empty()) {
        inbox_.reset();
        if (returns_.empty()) return;
        returns_.clear();
        return emit changed();
    }
    if (!inbox_ || inbox_->folder() != watched) inbox_ = std::make_unique<Inbox>(watched);
    std::vector<Delivery> now = inbox_->look(QDateTime::currentMSecsSinceEpoch());
    std::erase_if(now, [&](const Delivery& d) {
        if (d.kind != DeliveryKind::Scan) return true;
        // as it was sent: nobody has touched it
        return std::any_of(s_.state().sent.begin(), s_.state().sent.end(),
                           [&](const SentFile& f) { return f.file == d.path && f.stamp == file_stamp(d.path); });
    });
    const bool same = std::equal(
        now.begin(), now.end(), returns_.begin(), returns_.end(),
        [](const Delivery& a, const Delivery& b) { return a.stamp == b.stamp && a.complete == b.complete; });
    if (same) return;
    const std::size_t before = returns_.size();
    returns_ = std::move(now);
    if (returns_.size() > before && returns_.back().complete)
        emit s_.noticed(
            tr("%1 came back. See Bank, Send and return.").arg(QString::fromStdString(returns_.back().name)));
    emit changed();
}

void ExchangeController::choose(std::size_t i) {
    if (i < returns_.size() && returns_[i].complete)
        start(QString::fromStdString(returns_[i].path), returns_[i].stamp);
}

void ExchangeController::check(const QString& path) { start(path, {}); }

void ExchangeController::start(const QString& path, const std::string& stamp) {
    if (!s_.has_kit()) return;
    if (path != path_) memory_.reset(), options.subtract.clear(), options.answer = ReturnAnswer::Ask;
    path_ = path, stamp_ = stamp;
    trouble_.clear();
    if (!memory_) {
        // the project remembers more than the sidecar; a file under another name is known by its sidecar
        for (const SentFile& f : s_.state().sent) {
            if (QString::fromStdString(f.file) == path) memory_ = f;
        }
        if (!memory_) {
            auto beside = read_sidecar(path.toStdString(), *s_.state().kit);
            if (!beside)
                trouble_ = QString::fromStdString(beside.error().message);
            else
                memory_ = std::move(*beside);
        }
    }
    s_.jobs().cancel(check_);  // with other options, or of another file
    check_ = s_.jobs().start<ReturnCheck>(
        {JobKind::Check, tr("Checking %1").arg(QFileInfo(path).fileName()), {}, true},
        [path, kit = s_.state().kit, bank = s_.state().bank, given = options, place = parts,
         memory = memory_](const Progress& progress) -> Result<ReturnCheck> {
            auto file = read_mesh(path.toStdString(), progress);
            if (!file) return file.error();
            ReturnOptions o = given;
            o.known.clear();
            for (const BankEntry& e : bank) o.known.push_back(e.morph.get());
            o.sent = memory ? &*memory : nullptr;
            auto out = check_return(*kit, file->mesh, o, progress);
            if (out && out->relative) place_parts(*kit, place, out->positions);
            return out;
        },
        [this, number = ++checks_](Result<ReturnCheck>&& done) {
            if (number == checks_) finish(std::move(done));  // else a later one is under way
        });
    emit changed();
}

void ExchangeController::take_out(const std::string& leftover, bool on) {
    std::erase(options.subtract, leftover);
    if (on) options.subtract.push_back(leftover);
    check_again();
}

void ExchangeController::check_again() {
    if (!path_.isEmpty()) start(path_, stamp_);
}

void ExchangeController::answer(ReturnAnswer answer) {
    options.answer = answer;
    check_again();
}

void ExchangeController::finish(Result<ReturnCheck>&& done) {
    check_ = 0;
    result_.reset();
    if (done)
        result_ = std::move(*done);
    else if (!path_.isEmpty())
        trouble_ = QString::fromStdString(done.error().message);
    show();
    emit changed();
}

// What came back is looked at while its page is open.
void ExchangeController::show() {
    if (bank_.page() != BankController::Page::Exchange || !result_ || !result_->relative) return bank_.set_preview({});
    BankController::Preview preview;
    preview.title = tr("Returned  %1").arg(QFileInfo(path_).fileName());
    preview.shape = std::make_shared<const Points>(result_->positions);
    const Points& base = s_.state().kit->mesh.positions;
    for (std::size_t v = 0; v < base.size(); ++v)
        preview.colour.push_back(result_->returned[v] ? static_cast<float>(((*preview.shape)[v] - base[v]).norm())
                                                      : NAN);
    preview.marked = result_->exploded;
    preview.marked.insert(preview.marked.end(), result_->ambiguous.begin(), result_->ambiguous.end());
    bank_.set_preview(std::move(preview));
}

const SentFile* ExchangeController::memory() const { return memory_ ? &*memory_ : nullptr; }

void ExchangeController::forget() {
    for (const Delivery& d : returns_) {
        if (inbox_ && d.path == path_.toStdString()) inbox_->forget(d);
    }
    std::erase_if(returns_, [&](const Delivery& d) { return d.path == path_.toStdString(); });
    s_.jobs().cancel(check_);
    check_ = 0, ++checks_;
    path_.clear(), trouble_.clear();
    result_.reset(), memory_.reset();
    show();
    emit changed();
}

void ExchangeController::dismiss() { forget(); }

bool ExchangeController::keep(const QString& name, const std::string& in_place_of) {
    if (!result_ || !result_->relative) return false;
    if (result_->question)
        return s_.report({ErrorCode::Undecided, result_->question->what + ". Say first whether that is meant."}),
               false;
    const int at = in_place_of.empty() ? -1 : find_morph(s_.state(), in_place_of);
    ReturnOptions given = options;
    given.sent = memory();
    auto morph =
        at >= 0 ? updated_morph(*s_.state().kit, *s_.state().bank[static_cast<std::size_t>(at)].morph, *result_, given)
                : make_morph(*s_.state().kit, result_->positions, name.toStdString());
    if (!morph) return s_.report(morph.error()), false;
    morph->origin = "Came back as " + QFileInfo(path_).fileName().toStdString();
    std::string said;
    for (const ReturnStep& step : result_->steps) {
        if (step.repaired) said += (said.empty() ? "" : "; ") + step.what;
    }
    if (!said.empty()) morph->origin += " (" + said + ")";
    bank_.keep(at >= 0 ? tr("Update %1").arg(QString::fromStdString(in_place_of)) : tr("Keep %1").arg(name),
               std::move(*morph), at, 1);
    // it is taken: as it lies there now it is not offered again, after the project is opened anew either
    ProjectState taken = s_.state();
    for (SentFile& f : taken.sent) {
        if (f.file == path_.toStdString()) f.stamp = file_stamp(f.file);
    }
    s_.document().amend(std::move(taken));
    forget();
    return true;
}

void ExchangeController::take_as_source() {
    if (s_.busy())
        return s_.report({ErrorCode::BadInput,
                          "Wait until the running work is done, or cancel it; what came back stays on offer."});
    const QString path = path_;
    forget();
    s_.load_sources({path});
}

}  // namespace veld
