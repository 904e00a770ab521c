#include "app/window/doubt_words.h"

#include <QCoreApplication>

#include "app/region_names.h"

namespace veld {
namespace {

struct Words {
    Q_DECLARE_TR_FUNCTIONS(Doubts)
};

QStringList names_of(std::vector<std::pair<double, std::string>> found) {
    std::sort(found.rbegin(), found.rend());
    QStringList out;
    for (const auto& [unused, region] : found) out << plain_region(region);
    return out;
}

}  // namespace

QString doubt_words(const RegionDoubt& doubt) {
    if (is_guessed(doubt.signs)) return QStringLiteral("◇ ") + Words::tr("guessed");
    if (doubt.wrong < kLooksWrong) return QStringLiteral("■ ") + Words::tr("fine");
    const QString why = doubt.why == DoubtReason::Unlikely  ? Words::tr("look: unusual shape")
                        : doubt.why == DoubtReason::NotSkin ? Words::tr("look: no skin matched")
                        : doubt.why == DoubtReason::Marks   ? Words::tr("look: landmarks unsure")
                        : doubt.why == DoubtReason::Guessed ? Words::tr("look: partly guessed")
                                                            : Words::tr("look: folds, stretch or gaps");
    return QStringLiteral("△ ") + why;
}

QStringList regions_to_look_at(const FitFigures& figures) {
    std::vector<std::pair<double, std::string>> found;
    for (const auto& [region, doubt] : figures.doubts) {
        if (doubt.wrong >= kLooksWrong && !is_guessed(doubt.signs)) found.emplace_back(doubt.wrong, region);
    }
    return names_of(std::move(found));
}

QStringList guessed_regions(const FitFigures& figures) {
    std::vector<std::pair<double, std::string>> found;
    for (const auto& [region, doubt] : figures.doubts) {
        if (is_guessed(doubt.signs)) found.emplace_back(doubt.signs.guessed, region);
    }
    return names_of(std::move(found));
}

}  // namespace veld
