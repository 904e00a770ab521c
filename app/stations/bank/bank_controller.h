#pragma once
// What is done in the Bank station: sliders, regions, morphs made, the two shares of a whole shape. Every change goes
// to the document.
#include <QObject>

#include "app/session.h"
#include "app/views/camera.h"
#include "app/weight_brush.h"
#include "core/morph/share.h"
#include "core/project/bank.h"
#include "core/proof/carry_expression.h"

namespace veld {

class BankController : public QObject {
    Q_OBJECT
 public:
    enum class Page { Mix, Regions, Make, Rest, Joints, Exchange };
    explicit BankController(Session& session, QObject* parent = nullptr);

    void set_page(Page page);
    Page page() const { return page_; }

    // --- sliders
    void slide(std::size_t at, double amount, bool dragging);
    void reset();  // all to their usual amounts, regions to nothing
    void change_entry(const QString& label, std::size_t at, const std::function<void(BankEntry&)>& change);
    void rename(MorphId id, const QString& name);
    void erase(MorphId id);
    // Setting A or B: kept when there is none yet or `keep`, else shown.
    void setting(bool b, bool keep);
    void between(double share, bool dragging);
    void bake(const QString& name);

    // --- out of other morphs
    enum class Made { Mirrored, LeftHalf, RightHalf, LeftOnBoth, RightOnBoth };
    void make_from(MorphId id, Made what);
    void scale(MorphId id, double factor);
    void add_other(MorphId id, MorphId other, double sign);
    void split_by_region(MorphId id);

    // --- by region
    const std::string& region() const { return region_; }
    void select_region(const std::string& region);
    const BaseRegions* regions();  // of the kit; computed when first asked for
    // the region under a ray of the result view, or of the base
    void pick_region(const Ray& ray);
    // false: the region has as many shapes as it can hold
    bool set_region_amount(const std::string& morph, double amount, bool dragging);
    void remove_from_region(const std::string& morph);

    // --- a morph out of a shape
    enum class From { Fit, Mix };
    std::optional<Points> shape_of(From from) const;
    QString suggested_name(From from) const;
    struct Card {
        QString name, group;
        MorphKind kind = MorphKind::Whole;
        PartsChoice parts = PartsChoice::AsTheyAre;
        int in_place_of = -1;  // of the bank; -1: a new one
    };
    bool make(From from, const Card& card);
    // The kit's expressions as the shape makes them, as morphs; in the background, one step.
    void carry_expressions(From from, const QString& name);
    // The kit's own expressions as morphs, and what each lacks on the shape as a correction that expression and shape
    // bring in together; corrections of before give way. The shape is kept as a morph of that name if it is none yet.
    void add_corrections(From from, const QString& name);
    bool carrying() const { return carrying_ != 0; }
    bool make_shares(From from, const Card& card, double neck_mm, bool on_floor);
    // How far up the shares' neck is moved when nobody says otherwise; mm.
    double neck_found(From from) const;
    // A shape of the base kept as a morph by other controllers (a return). Its name is made free.
    void keep(const QString& label, Morph morph, int in_place_of, double amount, SubjectId of = {});

    // --- the head's share of the base, painted
    void set_painting(bool on);
    bool painting() const { return painting_ && page_ == Page::Make; }
    bool share_painted() const { return !s_.state().head_share.empty(); }
    void begin_painting();  // from the neck band's weights
    void clear_painted();
    Status keep_with_kit() const;
    std::vector<float> share_weights() const;
    void begin_stroke(const Ray& ray, Qt::KeyboardModifiers keys);
    void move_stroke(const Ray& ray);
    void end_stroke();
    double radius_mm = 20;

    // --- a shape that is looked at instead of the mix, by other controllers
    struct Preview {
        QString title;
        std::shared_ptr<const Points> shape;
        std::vector<Index> marked = {};  // vertices to look at
        std::vector<float> colour = {};  // per vertex, mm from the base, NaN: not there; or empty: clay
    };
    void set_preview(std::optional<Preview> preview);
    const std::optional<Preview>& preview() const { return preview_; }

 signals:
    void changed();  // what is looked at, not the document
    void page_changed();

 private:
    void add(const QString& label, Result<Morph>&& morph);
    void put_corrections(const std::string& of, const Points& shape, bool fit, HeadExpressions made);

    Session& s_;
    Page page_ = Page::Mix;
    std::string region_;
    std::shared_ptr<const BaseRegions> regions_;
    std::shared_ptr<const BaseKit> regions_of_;
    std::optional<Preview> preview_;
    JobId carrying_ = 0;
    bool painting_ = false, stroking_ = false, erasing_ = false;
    std::vector<float> painted_;
    WeightBrush brush_;
};

}  // namespace veld
