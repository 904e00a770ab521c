// Photographs before a fit: how good each is, who is on it, and those that cannot be used.
#include <catch2/catch.hpp>
#include <cstring>

#include "core/photo/look_at_photos.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

TEST_CASE("Photo report: blur, light, size and a missing face are said with their cost") {
    FaceNetwork network;
    auto photo = read_photo(demo("subjects/juniper/juniper_front.jpg"));
    REQUIRE(photo);
    const auto reference = face_reference(network, *demo_kit());
    REQUIRE(reference);
    const auto found = detect_on_photo(network, *demo_kit(), *photo, &*reference);
    REQUIRE(found);
    CHECK(found->faces.size() == 1);
    const PhotoReport good = report_on(*demo_kit(), *photo, &*found);
    CHECK(good.grade == PhotoGrade::Good);
    CHECK(good.eyes_px == Approx(216).margin(15));
    CHECK(good.distance_mm == Approx(1200).epsilon(0.08));
    CHECK(good.lids[0] > 0.6);
    const auto about = [](const PhotoReport& r, const std::string& what) {
        return std::any_of(r.remarks.begin(), r.remarks.end(), [&](const PhotoRemark& m) {
            return m.about == what && m.grade != PhotoGrade::Good && !m.costs.empty() && !m.better.empty();
        });
    };
    Photo bright = *photo;
    for (std::uint8_t& c : bright.pixels.rgba) c = static_cast<std::uint8_t>(std::min(255, 2 * c + 60));
    CHECK(about(report_on(*demo_kit(), bright, &*found), "light"));
    Photo dim = *photo;  // the left half in the dark
    for (int y = 0; y < dim.pixels.height; ++y) {
        for (int x = dim.pixels.width / 2; x < dim.pixels.width; ++x) {
            for (std::size_t k = 0; k < 3; ++k)
                dim.pixels.rgba[4 * static_cast<std::size_t>(y * dim.pixels.width + x) + k] /= 4;
        }
    }
    const PhotoReport one_sided = report_on(*demo_kit(), dim, &*found);
    CHECK(one_sided.one_sided > 2);
    CHECK(one_sided.grade != PhotoGrade::Good);
    // blurred once over and again
    Pixels soft = photo->pixels;
    for (int pass = 0; pass < 3; ++pass) {
        Pixels next = soft;
        for (int y = 2; y + 2 < soft.height; ++y) {
            for (int x = 2; x + 2 < soft.width; ++x) {
                for (int k = 0; k < 3; ++k) {
                    int sum = 0;
                    for (int j = -2; j <= 2; ++j) {
                        for (int i = -2; i <= 2; ++i)
                            sum += soft.rgba[static_cast<std::size_t>(4 * ((y + j) * soft.width + x + i) + k)];
                    }
                    next.rgba[static_cast<std::size_t>(4 * (y * soft.width + x) + k)] =
                        static_cast<std::uint8_t>(sum / 25);
                }
            }
        }
        soft = next;
    }
    CHECK(blur_of(soft, 300, 500, 600, 600) > blur_of(photo->pixels, 300, 500, 600, 600) + 0.1);
    const Photo grey{"grey.png", {64, 64, std::vector<std::uint8_t>(64 * 64 * 4, 128)}, 0};
    const PhotoReport none = report_on(*demo_kit(), grey, nullptr);
    CHECK(none.grade == PhotoGrade::Poor);
    CHECK(none.remarks.front().better.find("64 x 64") != std::string::npos);
}

TEST_CASE(
    "Looking at photographs: two faces are asked about, a drawing and a beast have none, damaged ones are named") {
    const auto photo = read_photo(demo("subjects/juniper/juniper_front.jpg"));
    REQUIRE(photo);
    Pixels two{2 * photo->pixels.width, photo->pixels.height, {}};
    two.rgba.resize(2 * photo->pixels.rgba.size());
    for (int y = 0; y < two.height; ++y) {
        for (int half = 0; half < 2; ++half)
            std::memcpy(&two.rgba[static_cast<std::size_t>(4 * (y * two.width + half * photo->pixels.width))],
                        &photo->pixels.rgba[static_cast<std::size_t>(4 * y * photo->pixels.width)],
                        static_cast<std::size_t>(4 * photo->pixels.width));
    }
    const Image pair{"pair.png", "image/png", encode_png(two)};
    const auto looked = look_at_photos(*demo_kit(), {pair}, {}, {}, {});
    REQUIRE(looked);
    CHECK(looked->front().which_face);
    LookOptions second;
    second.face = {1};
    const auto selected = look_at_photos(*demo_kit(), {pair}, {}, second, {});
    REQUIRE(selected);
    CHECK_FALSE(selected->front().which_face);
    CHECK(std::abs(selected->front().found->faces[0].centre.x() - selected->front().found->faces[1].centre.x()) > 600);
    // a drawing: a circle with dots; a beast: a round head, pointed ears, slit eyes
    for (const bool beast : {false, true}) {
        Pixels drawing{400, 400, std::vector<std::uint8_t>(400 * 400 * 4, 255)};
        for (int y = 0; y < 400; ++y) {
            for (int x = 0; x < 400; ++x) {
                const double r = std::hypot(x - 200, y - 210);
                bool ink =
                    std::abs(r - 130) < 3 || std::hypot(x - 150, y - 180) < 12 || std::hypot(x - 250, y - 180) < 12;
                if (beast)
                    ink = r < 130 || (std::abs(x - 200) > 60 && std::abs(x - 200) < 120 && y < 210 &&
                                      y > 2 * std::abs(std::abs(x - 200) - 90) + 40);
                if (ink)
                    std::fill_n(&drawing.rgba[static_cast<std::size_t>(4 * (y * 400 + x))], 3,
                                static_cast<std::uint8_t>(beast ? 90 : 0));
            }
        }
        const auto none = look_at_photos(*demo_kit(), {{"drawing.png", "image/png", encode_png(drawing)}}, {}, {}, {});
        REQUIRE(none);
        CHECK_FALSE(none->front().found);
        CHECK(none->front().report.grade == PhotoGrade::Poor);
    }
    const auto damaged = look_at_photos(
        *demo_kit(), {{"cut.jpg", "image/jpeg", {0xff, 0xd8, 0xff, 0xe0, 0, 3, 1, 2, 3, 4}}}, {}, {}, {});
    REQUIRE_FALSE(damaged);
    CHECK(damaged.error().message.find("cut.jpg") != std::string::npos);
    PhotoMarks other;
    other.width = 10, other.height = 10;
    const auto strange = look_at_photos(*demo_kit(), {pair}, {other}, {}, {});
    REQUIRE_FALSE(strange);
    CHECK(strange.error().message.find("10 x 10") != std::string::npos);
}
