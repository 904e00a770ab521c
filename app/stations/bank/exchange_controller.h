#pragma once
// The base out to another program and back: the project's exchange folder is watched, what comes back is checked in
// the background and offered.
#include <QObject>
#include <QTimer>

#include "app/stations/bank/bank_controller.h"
#include "core/exchange/return_check.h"
#include "core/project/inbox.h"

namespace veld {

class ExchangeController : public QObject {
    Q_OBJECT
 public:
    ExchangeController(Session& session, BankController& bank, QObject* parent = nullptr);

    // --- out
    void set_folder(const QString& folder);
    // The project's folder, or the one that would be made beside the project file.
    QString folder() const;
    // name: file name with its ending. with_mix: the bank's sliders as they stand are on. pose_of: name of a fit whose
    // pose the base goes out in; empty: at rest. for_morph: the bank's morph that the return is meant for; empty: a
    // new one.
    bool send(const QString& name, const SendOptions& options, bool with_mix, const std::string& for_morph);

    // --- back
    const std::vector<Delivery>& returns() const { return returns_; }
    // Also a mesh from anywhere, by the user's own choice.
    void check(const QString& path);
    void choose(std::size_t i);  // of returns()
    void check_again();          // with the options as they are now
    void dismiss();              // what is looked at is not wanted
    QString looked_at() const { return path_; }
    bool checking() const { return check_ != 0; }
    const ReturnCheck* result() const { return result_ ? &*result_ : nullptr; }
    const QString& trouble() const { return trouble_; }
    ReturnOptions options;
    void take_out(const std::string& leftover, bool on);
    void answer(ReturnAnswer answer);  // to result()->question
    PartsChoice parts = PartsChoice::AsTheyAre;
    // in_place_of: name of a bank morph; empty: a new one
    bool keep(const QString& name, const std::string& in_place_of);
    void take_as_source();
    const SentFile* memory() const;  // of what is looked at

 signals:
    void changed();

 private:
    void look();
    void finish(Result<ReturnCheck>&& done);
    void show();
    void start(const QString& path, const std::string& stamp);
    void forget();

    Session& s_;
    BankController& bank_;
    std::unique_ptr<Inbox> inbox_;
    QTimer timer_;
    std::vector<Delivery> returns_;
    QString path_, trouble_;
    std::string stamp_;
    std::optional<ReturnCheck> result_;
    std::optional<SentFile> memory_;
    JobId check_ = 0;  // the one that counts; 0: none
    int checks_ = 0;
};

}  // namespace veld
