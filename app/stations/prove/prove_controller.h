#pragma once
// What a shape is looked at in, beside the base: poses, expressions, mixes of expressions, motions; what they measure.
#include <QObject>
#include <QTimer>

#include "app/session.h"
#include "app/stations/bank/bank_controller.h"
#include "core/proof/prove.h"

namespace veld {

class ProveController : public QObject {
    Q_OBJECT
 public:
    ProveController(Session& session, BankController& bank, QObject* parent = nullptr);

    enum class From { Fit, Mix, Base };
    From from() const { return from_; }  // where there is no fit, the mix
    void set_from(From from);
    bool can_prove() const;  // there is such a shape
    // The station is on: what it shows is made ready.
    void set_awake(bool on);

    // --- what is looked at
    const std::vector<Proof>& proofs() const { return proofs_; }  // the program's, then people's own
    bool own(const std::string& name) const;                      // people's
    const std::string& selected() const { return selected_; }
    void select(const std::string& name);
    // 0: at rest; n: at the proof's n-th stop
    double at() const { return at_; }
    double last() const;
    void set_at(double at);
    bool playing() const { return timer_.isActive(); }
    void play(bool on);
    Skinning skinning() const { return skinning_; }
    void set_skinning(Skinning skinning);
    // Whole figures are looked at whole, faces near.
    bool of_face() const;

    // --- expressions by hand, on top of the proof
    double by_hand(const std::string& expression) const;
    void set_by_hand(const std::string& expression, double amount);
    bool any_by_hand() const { return !hand_.empty(); }
    void clear_by_hand();
    void keep(const QString& name);  // what is seen as a proof of people's own
    bool add_motion(const QString& path);
    void remove(const std::string& name);

    // --- shapes. Until the shape's expressions are ready, none are shown.
    bool ready() const { return bench_ != nullptr; }
    bool preparing() const { return preparing_ != 0; }
    // With the bank's corrections (core/proof/mend.h), which are made in the Prove station and belong to heads by
    // name.
    const std::shared_ptr<const ProofBench>& bench() const { return bench_; }
    ProofStop now() const;  // what is seen
    QString shape_name() const;
    QString fit_name() const {
        return bank_.suggested_name(BankController::From::Fit);
    }  // as the bank names its morph
    const Points& shape();
    const Points& base();
    enum class Colours { None, Cuts, Stretch };
    Colours colours() const { return colours_; }
    void set_colours(Colours colours);
    const std::vector<float>& values();  // per vertex; empty: no colours, or not ready

    // --- figures
    void measure();  // in the background
    bool measuring() const { return measuring_ != 0; }
    const std::shared_ptr<const ProofReport>& report() const { return report_; }
    // The figures as a page of pictures, PNG and PDF, in the background; kept in the bank as well with the morph that
    // the shape is.
    void write_sheet(const QString& path);
    std::size_t bad_of(const std::string& proof) const;  // figures that are worth a look
    // The proof at the stop where it is worst; the place there.
    void go_to(const ProofRow& row);

 signals:
    void changed();
    void flew_to(veld::Vec3 place, veld::Vec3 normal);  // the camera is to look there

 private:
    void refresh();
    void list_proofs();
    const Proof* proof() const;
    void correct();
    std::map<std::string, double> heads() const;
    std::map<std::string, std::shared_ptr<const Morph>> own_expressions() const;
    void prepare();
    void forget();

    Session& s_;
    BankController& bank_;
    From from_ = From::Fit, wanted_ = From::Fit;
    bool awake_ = false;
    std::shared_ptr<const BaseKit> kit_;
    std::vector<Proof> proofs_;
    std::string selected_ = "rest";
    double at_ = 1;
    Skinning skinning_ = Skinning::Linear;
    Colours colours_ = Colours::None;
    std::map<std::string, double> hand_;
    QTimer timer_;

    std::optional<Points> rest_;                             // the shape as it is
    std::shared_ptr<const ProofBench> plain_bench_, bench_;  // without corrections, with them; null: not ready
    std::vector<ShapeCorrection> corrections_;
    std::map<std::string, double> heads_;
    std::map<std::string, std::shared_ptr<const Morph>> own_;  // the shape's, by the kit's names
    std::unique_ptr<ProofSubject> plain_;                      // what is shown until then
    std::unique_ptr<ProofSubject> plain_base_;
    std::optional<Points> shape_, base_;
    std::optional<std::vector<float>> values_;
    std::shared_ptr<const ProofReport> report_;
    JobId preparing_ = 0, measuring_ = 0;
};

}  // namespace veld
