// How near a head from photographs comes to the truth: made-up people, photographed by known cameras.
// Usage: photo_accuracy KIT_FOLDER [--seeds N] [--first N] [--heads N] [--hand] [--mark-error MM] [--exif] [--photos
// 1,2,3] [--warp MM]
//        [--no-outline] [--no-depth] [--no-curves] [--one-lens] [--eyes MM] [--profile] [--side-turn DEG] [--believe]
//        [--verbose] [--demo SUBJECTS_FOLDER]
// --heads N: the shape space knows N other made-up heads; without: only smooth deformations of the base
// --hand: all marks by hand (1 mm off), no network. Else the network marks what it can, and the side is marked by hand
// --profile: nobody marks the side: found by its outline; --side-turn DEG: it is up to so far from a true profile
// (else 4)
// --believe: only whether a profile is believed on sides, fronts and three-quarters
// --exif: the lens is known from the file
#include <cstdio>
#include <cstring>
#include <ctime>

#include "core/base/file.h"
#include "core/linalg/statistics.h"
#include "core/photo/look_at_photos.h"
#include "demo/standins/sitting.h"

using namespace veld;

namespace {

struct Options {
    std::string kit, demo;
    int seeds = 20, first = 1, heads = 0;
    bool hand = false, exif = false, verbose = false, profile = false, believe = false;
    std::vector<int> photos{1, 2, 3};
    double warp = 12, mark_error = 1, side_turn = 4;
    PhotoHeadSettings settings;
};

void add_errors(const BaseKit& kit, const Sitting& sitting, std::size_t i, const PhotoMarks& marks,
                std::vector<double>* errors) {
    const SittingPhoto& p = sitting.photos[i];
    for (const auto& [name, at] : marks.points) {
        const auto t = p.true_marks.points.find(name);
        if (t != p.true_marks.points.end() && in_point_set(name, PointSet::Face))
            errors->push_back((at - t->second).norm() /
                              p.camera.pixels_per_mm(kit.landmarks.at(name).at(sitting.subject.truth_mm)));
    }
}

PhotoHeadInput input_of(const BaseKit& kit, const ShapeSpace& space, const Sitting& sitting, const Options& o,
                        FaceNetwork& network, const FaceReference& reference, std::vector<double>* mark_errors) {
    PhotoHeadInput in;
    in.kit = &kit, in.space = &space, in.settings = o.settings;
    for (const SittingPhoto& p : sitting.photos) {
        PhotoView2D view{&p.photo, p.photo.name, o.exif ? p.photo.focal_35mm : 0, p.marks, nullptr};
        if (o.profile && p.photo.name == "side.png") {
            view.marks = {};
            if (auto found = find_profile(kit, p.photo, &space, {}))
                view.marks = found->marks, view.found = std::make_shared<PhotoDetection>(*found);
            else
                std::printf("no profile found\n");
        } else if (!o.hand) {
            if (auto found = detect_on_photo(network, kit, p.photo, &reference); found && std::abs(found->yaw) < 65) {
                view.marks = found->marks, view.found = std::make_shared<PhotoDetection>(*found);
                add_errors(kit, sitting, in.photos.size(), found->marks, mark_errors);
            }
        }
        in.photos.push_back(std::move(view));
    }
    return in;
}

// The demo's three portraits: found by the network, the side marked by hand; the truth stands in the kit's frame.
int try_demo(const BaseKit& kit, const ShapeSpace& space, const Options& o) {
    std::vector<Image> images;
    for (const char* name : {"front", "three_quarter", "side"}) {
        auto bytes = read_file(o.demo + "/juniper/juniper_" + name + ".jpg");
        if (!bytes) return std::fprintf(stderr, "%s\n", bytes.error().message.c_str()), 1;
        images.push_back({std::string(name) + ".jpg", "image/jpeg", {bytes->view().begin(), bytes->view().end()}});
    }
    const std::string marks_file = o.demo + "/juniper/juniper_side_marks.json";
    auto text = read_file(marks_file), raw = read_file(o.demo + "/juniper/juniper_truth.unposed_mm.f32");
    if (!text || !raw) return std::fprintf(stderr, "%s is not there\n", marks_file.c_str()), 1;
    auto marks = parse_photo_marks(text->view(), marks_file);
    if (!marks) return 1;
    Sitting sitting;
    sitting.subject.truth_mm.resize(kit.mesh.positions.size());
    std::vector<float> numbers(raw->size / 4);
    std::memcpy(numbers.data(), raw->data.get(), numbers.size() * 4);
    for (std::size_t v = 0; v < sitting.subject.truth_mm.size() && 3 * v + 2 < numbers.size(); ++v)
        sitting.subject.truth_mm[v] = Vec3(numbers[3 * v], numbers[3 * v + 1], numbers[3 * v + 2]);
    sitting.subject.surface_mm = sitting.subject.truth_mm,
    sitting.subject.surface_triangles = kit.triangulation.triangles;
    auto looked = look_at_photos(kit, images, {{}, {}, o.profile ? PhotoMarks{} : *marks}, {}, {});
    if (!looked) return std::fprintf(stderr, "%s\n", looked.error().message.c_str()), 1;
    for (const int photos : o.photos) {
        PhotoHeadInput in;
        in.kit = &kit, in.space = &space, in.settings = o.settings, in.photos = views_of(*looked);
        if (photos == 1) in.photos.resize(1);
        if (photos == 2) in.photos.erase(in.photos.begin() + 1);
        const auto fit = fit_photos(in, {});
        if (!fit) return std::fprintf(stderr, "%s\n", fit.error().message.c_str()), 1;
        const PhotoTruth t = compare_with_truth(kit, sitting, *fit);
        std::printf(
            "demo, %d photograph%s: face to true surface median %.2f, 95 %% %.2f mm; vertices to their true place "
            "%.2f mm; flips %u, cuts %u;",
            photos, photos > 1 ? "s" : "", t.surface_median, t.surface_p95, t.place_mean, fit->figures.flipped_faces,
            fit->figures.self_intersections);
        for (const PhotoFigures& f : fit->photos)
            std::printf(" [%s %.0f mm, landmarks %.2f mm rms, %.2f %% of the eyes, outline %.2f]", f.name.c_str(),
                        f.camera ? f.camera->focal_35mm() : 0, f.landmark_rms_mm, 100 * f.landmark_share,
                        f.outline_rms_mm);
        std::printf("\n");
    }
    return 0;
}

// On how many sides a profile is believed, and on how many pictures that show none; without the networks, which come
// first in the program.
int try_belief(const BaseKit& kit, const ShapeSpace& space, const Options& o) {
    std::map<std::string, std::pair<int, int>> believed;  // of how many
    std::vector<double> yaw, roll;
    for (int seed = o.first; seed < o.first + o.seeds; ++seed) {
        SittingOptions how;
        how.seed = static_cast<unsigned>(seed), how.warp_mm = o.warp, how.side_turn = o.side_turn;
        for (const SittingPhoto& p : make_sitting(kit, how).photos) {
            const auto found = find_profile(kit, p.photo, &space, {});
            believed[p.photo.name].first += found ? 1 : 0, ++believed[p.photo.name].second;
            if (!found || p.photo.name != "side.png") continue;
            const HeadTurn t = head_turn(p.camera);
            yaw.push_back(std::abs(found->yaw - t.yaw)), roll.push_back(std::abs(found->roll - t.roll));
            if (o.verbose)
                std::printf("  seed %d: yaw %.1f (true %.1f), roll %.1f (true %.1f)\n", seed, found->yaw, t.yaw,
                            found->roll, t.roll);
        }
    }
    for (const auto& [name, n] : believed)
        std::printf("%s: a profile is believed on %d of %d\n", name.c_str(), n.first, n.second);
    if (!yaw.empty())
        std::printf("found sides: yaw off by %.1f, roll by %.1f degrees (medians)\n", median(yaw), median(roll));
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    Options o;
    for (int i = 1; i < argc; ++i) {
        const std::string a = argv[i];
        const auto number = [&] { return i + 1 < argc ? std::atof(argv[++i]) : 0; };
        if (a == "--seeds")
            o.seeds = static_cast<int>(number());
        else if (a == "--first")
            o.first = static_cast<int>(number());
        else if (a == "--heads")
            o.heads = static_cast<int>(number());
        else if (a == "--warp")
            o.warp = number();
        else if (a == "--eyes")
            o.settings.eyes_mm = number();
        else if (a == "--demo")
            o.demo = argv[++i];
        else if (a == "--mark-error")
            o.mark_error = number();
        else if (a == "--hand")
            o.hand = true;
        else if (a == "--exif")
            o.exif = true;
        else if (a == "--profile")
            o.profile = true;
        else if (a == "--believe")
            o.believe = true;
        else if (a == "--side-turn")
            o.side_turn = number();
        else if (a == "--verbose")
            o.verbose = true;
        else if (a == "--no-outline")
            o.settings.use_outline = false;
        else if (a == "--no-depth")
            o.settings.use_depth = false;
        else if (a == "--no-curves")
            o.settings.use_curves = false;
        else if (a == "--one-lens")
            o.settings.one_lens = true;
        else if (a == "--strength")
            o.settings.strength = number();
        else if (a == "--photos") {
            o.photos.clear();
            for (const char* c = argv[++i]; *c; ++c) {
                if (*c >= '1' && *c <= '3') o.photos.push_back(*c - '0');
            }
        } else
            o.kit = a;
    }
    auto kit = read_base_kit(o.kit);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    const std::vector<Morph> heads = made_up_heads(*kit, o.heads);
    std::vector<const Morph*> known;
    for (const Morph& m : heads) known.push_back(&m);
    std::clock_t clock = std::clock();
    const auto space = make_shape_space(*kit, *whole_deltas(*kit, known));
    if (!space) return std::fprintf(stderr, "%s\n", space.error().message.c_str()), 1;
    std::printf("shape space: %d modes, %d of them from %d known heads, %.2f s of one core\n", space->count(),
                space->known, o.heads, static_cast<double>(std::clock() - clock) / CLOCKS_PER_SEC);
    if (!o.demo.empty()) return try_demo(*kit, *space, o);
    if (o.believe) return try_belief(*kit, *space, o);
    FaceNetwork network;
    const auto reference = face_reference(network, *kit);
    if (!reference) return std::fprintf(stderr, "%s\n", reference.error().message.c_str()), 1;
    for (const int photos : o.photos) {
        std::vector<double> surface, p95, place, focal, yaw, roll, share, seconds, marks;
        Index flips = 0, cuts = 0;
        for (int seed = o.first; seed < o.first + o.seeds; ++seed) {
            SittingOptions how;
            how.seed = static_cast<unsigned>(seed), how.photos = photos, how.warp_mm = o.warp,
            how.mark_error_mm = o.mark_error, how.side_turn = o.side_turn;
            const Sitting sitting = make_sitting(*kit, how);
            const PhotoHeadInput in = input_of(*kit, *space, sitting, o, network, *reference, &marks);
            clock = std::clock();
            const auto fit = fit_photos(in, {});
            if (!fit) {
                std::printf("seed %d: %s\n", seed, fit.error().message.c_str());
                continue;
            }
            seconds.push_back(static_cast<double>(std::clock() - clock) / CLOCKS_PER_SEC);
            const PhotoTruth t = compare_with_truth(*kit, sitting, *fit);
            surface.push_back(t.surface_median), p95.push_back(t.surface_p95), place.push_back(t.place_mean),
                focal.push_back(t.focal_worst), yaw.push_back(t.yaw_worst), roll.push_back(t.roll_worst),
                share.push_back(t.landmark_share);
            flips += fit->figures.flipped_faces, cuts += fit->figures.self_intersections;
            if (!o.verbose) continue;
            std::printf(
                "  seed %2d: surface %.2f (95 %% %.2f) place %.2f mm, focal %.0f %%, yaw %.1f roll %.1f, landmarks "
                "%.2f %%;",
                seed, t.surface_median, t.surface_p95, t.place_mean, 100 * t.focal_worst, t.yaw_worst, t.roll_worst,
                100 * t.landmark_share);
            for (std::size_t i = 0; i < fit->photos.size(); ++i) {
                const PhotoFigures& f = fit->photos[i];
                if (f.camera)
                    std::printf(" [f %.0f of %.0f, %.0f mm, rms %.2f, curves %.2f, outline %d %.2f]",
                                f.camera->focal_35mm(), sitting.photos[i].camera.focal_35mm(), f.distance_mm,
                                f.landmark_rms_mm, f.curve_rms_mm, f.outline_points, f.outline_rms_mm);
            }
            std::printf("\n");
            std::fflush(stdout);
        }
        const auto worst = [](const std::vector<double>& v) {
            return v.empty() ? 0 : *std::max_element(v.begin(), v.end());
        };
        std::printf(
            "%d photo%s, %zu people: face to true surface median %.2f (worst head %.2f), 95 %% %.2f mm; vertices to "
            "their true place %.2f mm\n",
            photos, photos > 1 ? "s" : "", surface.size(), median(surface), worst(surface), median(p95),
            median(place));
        std::printf(
            "  focal length off by %.0f %% (median of the worst photograph; worst %.0f %%), yaw %.2f (worst %.2f), "
            "roll %.2f (worst %.2f) degrees; landmarks %.2f %% of the eyes' distance (worst %.2f %%)\n",
            100 * median(focal), 100 * worst(focal), median(yaw), worst(yaw), median(roll), worst(roll),
            100 * median(share), 100 * worst(share));
        std::printf("  %.2f s of one core (worst %.2f); flips %u, cuts %u", median(seconds), worst(seconds), flips,
                    cuts);
        if (!marks.empty()) std::printf("; automatic face points off by %.2f mm (median)", median(marks));
        std::printf("\n");
    }
    return 0;
}
