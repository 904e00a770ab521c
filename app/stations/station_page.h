#pragma once
// A station as the window sees it: a panel, keys of its own, and what happens on the way in. A new one is a folder
// with a page, and a line in registry.cpp.
#include <QKeySequence>
#include <QObject>
#include <functional>
#include <map>
#include <memory>
#include <vector>

#include "app/station.h"

class QWidget;

namespace veld {

class BankController;
class Bench;
class ExchangeController;
class LookBar;
class MainWindow;
class MarkController;
class PhotoController;
class RegionController;
class Session;
class TidyController;
class TouchController;

// Keys that mean something in some stations only: the one that is on gets them.
class StationKeys : public QObject {
    Q_OBJECT
 public:
    // current: the station that is on
    StationKeys(QWidget* window, std::function<Station()> current);
    void add(Station station, const QKeySequence& key, std::function<void()> act);

 private:
    struct Act {
        Station station;
        std::function<void()> run;
    };
    QWidget* window_;
    std::function<Station()> current_;
    std::map<QKeySequence, std::vector<Act>> acts_;
};

// What the window gives to a station.
struct StationContext {
    MainWindow& window;
    Session& session;
    Bench& bench;
    LookBar& looks;
    StationKeys& keys;
    MarkController& mark;
    TidyController& tidy;
    TouchController& touch;
    RegionController& regions;
    PhotoController& photos;
    BankController& bank;
    ExchangeController& exchange;
};

// One step larger or smaller, mm.
double next_brush_size(double mm, bool larger);

class StationPage : public QObject {
    Q_OBJECT
 public:
    // The window owns it.
    virtual QWidget* panel() = 0;
    virtual void entered() {}
    // Which ways of looking the bar below the views offers: none, those of a fit, those of a mix.
    enum class Looks { None, Fit, Mix };
    virtual Looks looks() const { return Looks::None; }
};

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
