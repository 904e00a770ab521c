#pragma once
// A station as the window sees it: a panel, keys of its own, what the views show and what is done in them. A new one
// is a folder with a page, and a line in registry.cpp.
#include <QObject>
#include <functional>
#include <memory>
#include <vector>

#include "app/station.h"
#include "app/views/pane.h"

class QWidget;

namespace veld {

class BankController;
class BaseController;
class Commands;
class ExchangeController;
class FitScene;
class LookBar;
class MainWindow;
class MarkController;
class PhotoController;
class ProveController;
class RegionController;
class Scene;
class Session;
class SkinController;
class TidyController;
class TouchController;
class ViewSet;
struct Menus;

// What the window gives to a station.
struct StationContext {
    MainWindow& window;
    Session& session;
    ViewSet& views;
    Scene& scene;
    FitScene& fits;
    LookBar& looks;
    Commands& commands;
    Menus& menus;
    MarkController& mark;
    TidyController& tidy;
    TouchController& touch;
    RegionController& regions;
    PhotoController& photos;
    BankController& bank;
    BaseController& base;
    ExchangeController& exchange;
    ProveController& prove;
    SkinController& skins;
};

// One step larger or smaller, mm.
double next_brush_size(double mm, bool larger);
// The keys for it, in this station.
void add_brush_keys(const StationContext& context, Station station, const std::function<void(bool larger)>& set);

// What a page does not say for itself: base and source side by side, as they are, and nothing is done there.
class StationPage : public QObject, public ViewClient {
    Q_OBJECT
 public:
    explicit StationPage(const StationContext& context) : c_(context) {}
    // The window owns it.
    virtual QWidget* panel() = 0;
    virtual void entered() {}
    virtual void left() {}
    // A source stands as it was straightened, else as its landmarks say.
    virtual bool upright() const { return false; }
    // Which ways of looking the bar below the views offers: none, those of a fit, those of a mix.
    enum class Looks { None, Fit, Mix };
    virtual Looks looks() const { return Looks::None; }
    // What the line below the views says here; where a fit is looked at, that are its figures.
    virtual QString figures() const { return {}; }

    std::vector<ViewId> shown() override { return {ViewId::Base, ViewId::Source}; }
    Pane pane(ViewId which) override;
    Framing home() override;

 protected:
    // These views again, when they show this page.
    void refresh(std::initializer_list<ViewId> which);
    const StationContext c_;

 signals:
    void figures_changed();  // figures() says otherwise; after a change of the document they are asked for anyway
};

// For stations in which a figure is looked at whole, and each source anew.
Framing home_of_source(const StationContext& context);
std::string name_of_source(const StationContext& context);

// Lines of figures: what the source is, what the bank holds.
QString figures_of_source(const StationContext& context);
QString figures_of_bank(const StationContext& context);

struct StationEntry {
    Station station;
    const char* title;  // for the tr() of context "Stations"
    std::function<std::unique_ptr<StationPage>(const StationContext&)> make;
};

template <class Page>
std::unique_ptr<StationPage> make_station(const StationContext& context) {
    return std::make_unique<Page>(context);
}

}  // namespace veld
