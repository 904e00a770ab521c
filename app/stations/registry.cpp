#include "app/stations/registry.h"

#include <QtGlobal>

#include "app/stations/bank/bank_station.h"
#include "app/stations/base/base_station.h"
#include "app/stations/deliver/deliver_station.h"
#include "app/stations/fit/fit_station.h"
#include "app/stations/gather/gather_station.h"
#include "app/stations/mark/mark_station.h"
#include "app/stations/prove/prove_station.h"
#include "app/stations/skin/skin_station.h"
#include "app/stations/tidy/tidy_station.h"
#include "app/stations/touch/touch_station.h"

namespace veld {

const std::vector<StationEntry>& stations() {
    static const std::vector<StationEntry> all = {
        {Station::Base, QT_TRANSLATE_NOOP("Stations", "Base"), make_station<BaseStation>},
        {Station::Gather, QT_TRANSLATE_NOOP("Stations", "Gather"), make_station<GatherStation>},
        {Station::Tidy, QT_TRANSLATE_NOOP("Stations", "Tidy"), make_station<TidyStation>},
        {Station::Mark, QT_TRANSLATE_NOOP("Stations", "Mark"), make_station<MarkStation>},
        {Station::Fit, QT_TRANSLATE_NOOP("Stations", "Fit"), make_station<FitStation>},
        {Station::Touch, QT_TRANSLATE_NOOP("Stations", "Touch up"), make_station<TouchStation>},
        {Station::Skin, QT_TRANSLATE_NOOP("Stations", "Skin"), make_station<SkinStation>},
        {Station::Prove, QT_TRANSLATE_NOOP("Stations", "Prove"), make_station<ProveStation>},
        {Station::Bank, QT_TRANSLATE_NOOP("Stations", "Bank"), make_station<BankStation>},
        {Station::Deliver, QT_TRANSLATE_NOOP("Stations", "Deliver"), make_station<DeliverStation>},
    };
    return all;
}

}  // namespace veld
