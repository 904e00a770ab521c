#include "app/window/doubt_words.h"

#include <QCoreApplication>

#include "app/lengths.h"
#include "app/region_names.h"

namespace veld {
namespace {

constexpr double kSureAtRestMm = 6;  // what is surer needs no look

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
    const QString why = doubt.why == DoubtReason::Unlikely  ? Words::tr("odd shape")
                        : doubt.why == DoubtReason::NotSkin ? Words::tr("no skin")
                        : doubt.why == DoubtReason::Marks   ? Words::tr("landmarks")
                        : doubt.why == DoubtReason::Guessed ? Words::tr("part guessed")
                                                            : Words::tr("folds, gaps");
    return QStringLiteral("△ ") + why;
}

QString doubt_reason(const RegionDoubt& doubt) {
    if (is_guessed(doubt.signs)) return Words::tr("Little of it was seen: it follows from the rest of the head.");
    if (doubt.wrong < kLooksWrong) return Words::tr("Nothing speaks against it.");
    switch (doubt.why) {
        case DoubtReason::Unlikely:
            return Words::tr("Look at it: its shape is unusual for a head.");
        case DoubtReason::NotSkin:
            return Words::tr("Look at it: what it was matched to likely is no skin.");
        case DoubtReason::Marks:
            return Words::tr("Look at it: its landmarks are unsure, or the fit does not meet them.");
        case DoubtReason::Guessed:
            return Words::tr("Look at it: part of it was not seen.");
        default:
            return Words::tr("Look at it: it folds, stretches, or leaves the source.");
    }
}

QString rest_words(const RestDoubt& doubt) {
    return (doubt.expected_mm < kSureAtRestMm ? QStringLiteral("■ ") : QStringLiteral("△ ")) +
           Words::tr("± %1").arg(length_text(doubt.expected_mm, 0));
}

QString rest_reason(const RestDoubt& doubt) {
    const RestSigns& s = doubt.signs;
    QStringList out{Words::tr("How far the shape may be off once the pose is out, root mean square.")};
    out << Words::tr("Left and right differ by %1 there; %2 % was not seen; what pose and build do not explain: %3.")
               .arg(length_text(2 * s.uneven, 1))
               .arg(100 * s.guessed, 0, 'f', 0)
               .arg(length_text(s.left, 1));
    return out.join(' ');
}

QStringList unsure_at_rest(const FitFigures& figures, std::size_t most) {
    std::vector<std::pair<double, std::string>> found;
    for (const auto& [region, doubt] : figures.rest)
        if (doubt.expected_mm >= kSureAtRestMm) found.emplace_back(doubt.expected_mm, region);
    std::sort(found.rbegin(), found.rend());
    if (found.size() > most) found.resize(most);
    QStringList out;
    for (const auto& [mm, region] : found) out << Words::tr("%1 ± %2").arg(plain_region(region), length_text(mm, 0));
    return out;
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
