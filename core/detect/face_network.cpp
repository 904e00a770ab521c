#include "core/detect/face_network.h"

#include <algorithm>
#include <cmath>
#include <opencv2/dnn.hpp>
#include <opencv2/imgproc.hpp>

#include "core/detect/network_data.h"

namespace veld {
namespace {

constexpr int kDetectorSide = 256, kMeshSide = 192, kEyeSide = 64;

cv::Mat rgb(const Pixels& picture) {
    const cv::Mat rgba(picture.height, picture.width, CV_8UC4, const_cast<std::uint8_t*>(picture.rgba.data()));
    cv::Mat out;
    cv::cvtColor(rgba, out, cv::COLOR_RGBA2RGB);
    return out;
}

// Map from picture to crop pixels: p -> scale * turn * (p - centre) + half.
struct CropMap {
    Vec2 centre;
    double c, s, scale, half;
    CropMap(const FaceCrop& crop, int side)
        : centre(crop.centre),
          c(std::cos(crop.angle)),
          s(std::sin(crop.angle)),
          scale(side / crop.side),
          half(0.5 * side) {}
    Vec2 back(const Vec2& q) const {
        const Vec2 d = (q - Vec2(half, half)) / scale;
        return centre + Vec2(c * d.x() - s * d.y(), s * d.x() + c * d.y());
    }
};

cv::Mat cut(const Pixels& picture, const FaceCrop& crop, int side) {
    cv::Mat image = rgb(picture);
    double shrunk = 1;
    if (crop.side > 1.5 * side) {  // averaged first: a bilinear look-up alone would skip pixels
        shrunk = side / crop.side;
        cv::Mat small;
        cv::resize(image, small, cv::Size(), shrunk, shrunk, cv::INTER_AREA);
        image = small;
    }
    const CropMap map(crop, side);
    const double k = map.scale / shrunk, c = k * map.c, s = k * map.s;
    // OpenCV counts from the middle of the first pixel, we from its corner
    const Vec2 m = shrunk * map.centre;
    const Vec2 off(map.half - (c * m.x() + s * m.y()), map.half - (-s * m.x() + c * m.y()));
    const Vec2 shift(off.x() + 0.5 * (c + s) - 0.5, off.y() + 0.5 * (-s + c) - 0.5);
    const cv::Matx23d affine(c, s, shift.x(), -s, c, shift.y());
    cv::Mat out;
    cv::warpAffine(image, out, affine, cv::Size(side, side), cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    return out;
}

double overlap(const FaceBox& a, const FaceBox& b) {
    const Vec2 low = (a.centre - 0.5 * a.size).cwiseMax(b.centre - 0.5 * b.size),
               high = (a.centre + 0.5 * a.size).cwiseMin(b.centre + 0.5 * b.size);
    const Vec2 d = (high - low).cwiseMax(Vec2::Zero());
    const double both = d.x() * d.y();
    return both / (a.size.prod() + b.size.prod() - both);
}

}  // namespace

struct FaceNetwork::Inside {
    cv::dnn::Net detector, mesh, iris;
    static cv::dnn::Net read(std::string_view bytes) { return cv::dnn::readNetFromONNX(bytes.data(), bytes.size()); }
    Inside() : detector(read(detector_network())), mesh(read(mesh_network())), iris(read(iris_network())) {}
};

FaceNetwork::FaceNetwork() : inside_(std::make_unique<Inside>()) {}
FaceNetwork::~FaceNetwork() = default;

std::vector<FaceBox> FaceNetwork::detect(const Pixels& picture, double least_score) {
    const double longer = std::max(picture.width, picture.height), scale = kDetectorSide / longer;
    const FaceCrop whole{Vec2(0.5 * longer, 0.5 * longer), longer, 0};
    cv::Mat input = cut(picture, whole, kDetectorSide);
    // what is outside the picture is black, not its stretched border
    const int w = static_cast<int>(std::ceil(picture.width * scale)),
              h = static_cast<int>(std::ceil(picture.height * scale));
    if (w < kDetectorSide) input.colRange(w, kDetectorSide).setTo(0);
    if (h < kDetectorSide) input.rowRange(h, kDetectorSide).setTo(0);
    inside_->detector.setInput(cv::dnn::blobFromImage(input, 1 / 127.5, {}, cv::Scalar(127.5, 127.5, 127.5)));
    std::vector<cv::Mat> out;
    inside_->detector.forward(out, std::vector<cv::String>{"score16", "score8", "box16", "box8"});
    ++evaluations_;
    std::vector<FaceBox> found;
    for (int level = 0; level < 2; ++level) {
        const int stride = level == 0 ? 16 : 32, cells = kDetectorSide / stride, each = level == 0 ? 2 : 6;
        const float* score = out[static_cast<std::size_t>(level)].ptr<float>();
        const float* box = out[static_cast<std::size_t>(2 + level)].ptr<float>();
        for (int i = 0; i < cells * cells * each; ++i) {
            const double sure = 1 / (1 + std::exp(-static_cast<double>(score[i])));
            if (sure < least_score) continue;
            const int cell = i / each;
            const Vec2 anchor(stride * (cell % cells + 0.5), stride * (cell / cells + 0.5));
            const float* b = box + 16 * i;
            const auto at = [&](int k) { return Vec2((anchor + Vec2(b[k], b[k + 1])) / scale); };
            found.push_back({at(0), Vec2(b[2], b[3]) / scale, at(4), at(6), at(8), at(10), sure});
        }
    }
    std::stable_sort(found.begin(), found.end(), [](const FaceBox& a, const FaceBox& b) { return a.score > b.score; });
    std::vector<FaceBox> kept;
    for (const FaceBox& f : found) {
        if (std::none_of(kept.begin(), kept.end(), [&](const FaceBox& k) { return overlap(f, k) > 0.3; }))
            kept.push_back(f);
    }
    return kept;
}

FaceMesh FaceNetwork::mesh(const Pixels& picture, const FaceCrop& crop) {
    inside_->mesh.setInput(cv::dnn::blobFromImage(cut(picture, crop, kMeshSide), 1 / 255.0));
    std::vector<cv::Mat> out;
    inside_->mesh.forward(out, std::vector<cv::String>{"mesh", "flag"});
    ++evaluations_;
    FaceMesh face;
    face.sure = out[1].ptr<float>()[0];
    const CropMap map(crop, kMeshSide);
    const float* p = out[0].ptr<float>();
    for (int i = 0; i < kFacePoints; ++i)
        face.points.push_back(map.back(Vec2(p[3 * i], p[3 * i + 1]))), face.depth.push_back(p[3 * i + 2] / map.scale);
    return face;
}

std::vector<Vec2> FaceNetwork::eye(const Pixels& picture, const FaceCrop& crop, bool left) {
    cv::Mat input = cut(picture, crop, kEyeSide);
    if (left) {  // the network knows right eyes
        cv::Mat flipped;
        cv::flip(input, flipped, 1);
        input = flipped;
    }
    inside_->iris.setInput(cv::dnn::blobFromImage(input, 1 / 255.0));
    const cv::Mat out = inside_->iris.forward("eye");
    ++evaluations_;
    const CropMap map(crop, kEyeSide);
    const float* p = out.ptr<float>();
    std::vector<Vec2> points;
    for (int i = 0; i < kEyePoints; ++i) {
        const double x = p[3 * i];
        points.push_back(map.back(Vec2(left ? kEyeSide - x : x, p[3 * i + 1])));
    }
    return points;
}

FaceCrop crop_of(const FaceBox& box) {
    const Vec2 eyes = box.left_eye - box.right_eye;
    return {box.centre, 1.5 * box.size.maxCoeff(), std::atan2(eyes.y(), eyes.x())};
}

FaceCrop crop_of(const FaceMesh& mesh) {
    const Vec2 eyes = mesh.points[263] - mesh.points[33];
    const double angle = std::atan2(eyes.y(), eyes.x()), c = std::cos(angle), s = std::sin(angle);
    Vec2 low = Vec2::Constant(1e300), high = -low;
    for (const Vec2& p : mesh.points) {
        const Vec2 q(c * p.x() + s * p.y(), -s * p.x() + c * p.y());
        low = low.cwiseMin(q), high = high.cwiseMax(q);
    }
    const Vec2 m = 0.5 * (low + high);
    return {Vec2(c * m.x() - s * m.y(), s * m.x() + c * m.y()), 1.5 * (high - low).maxCoeff(), angle};
}

FaceCrop eye_crop(const FaceMesh& mesh, bool left) {
    const Vec2 outer = mesh.points[left ? 263 : 33], inner = mesh.points[left ? 362 : 133];
    const Vec2 along = left ? Vec2(outer - inner) : Vec2(inner - outer);
    return {0.5 * (outer + inner), 2.3 * along.norm(), std::atan2(along.y(), along.x())};
}

}  // namespace veld
