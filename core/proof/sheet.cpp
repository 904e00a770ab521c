#include "core/proof/sheet.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <optional>

#include "core/base/file.h"
#include "core/kit/kit_surface.h"
#include "core/proof/page.h"

namespace veld {
namespace {

constexpr double kWide = 595, kHigh = 842, kEdge = 30;  // A4
constexpr double kTop = 92, kRowHigh = 120, kPictureSide = 64, kGap = 15;
constexpr std::size_t kColumns = 2, kFiguresSaid = 3;
constexpr int kPixels = 400;
constexpr double kAside = 35 * M_PI / 180;  // three-quarter
constexpr double kAround = 1.08;            // of the shape's size that a picture shows
constexpr double kPixelsPerInch = 200;
constexpr double kNeckBandMm = 40;
constexpr Page::Ink kDark{0.13, 0.12, 0.11}, kDim{0.45, 0.43, 0.40}, kOchre{0.72, 0.47, 0.08}, kRule{0.80, 0.78, 0.75};
// a figure in attitudes and a face in motion, when nothing else is worse
constexpr const char* kPlainOnes[] = {"rest",  "sit",   "squat",    "stride", "head turned", "T",
                                      "blink", "smile", "jaw_open", "gaze",   "lip_pucker",  "extremes"};

// One shape in a stop, from one side.
struct View {
    Points shown;  // turned; seen along -Z
    std::vector<Triangle> triangles;
    Box box;
};

struct Cell {
    const Proof* proof = nullptr;
    std::size_t stop = 0;
    std::vector<const ProofRow*> figures;  // worst first
    std::array<View, 4> views;             // base, shape from the front; base, shape from three quarters
    std::array<SmallPicture, 4> pictures;
    double side = 1;  // mm
};

Points turned(Points x, double angle) {
    const Mat3 turn = Eigen::AngleAxisd(angle, Vec3::UnitY()).toRotationMatrix();
    for (Vec3& p : x) p = turn * p;
    return x;
}

class Sheet {
 public:
    Sheet(const ProofBench& bench, const ProofReport& report, Skinning skinning, const SheetText& text)
        : bench_(bench), report_(report), skinning_(skinning), text_(text), kit_(bench.shape.kit()) {
        const VertexMask head = head_vertices(kit_, head_fade(kit_, kNeckBandMm));
        for (const Triangle& t : solid_triangles(kit_)) {
            all_.push_back(t);
            if (head[t[0]] && head[t[1]] && head[t[2]]) head_.push_back(t);
        }
    }
    Cell cell(const Proof& proof) const;
    void draw(Cell& cell) const;
    ProofSheet page(const std::vector<Cell>& cells) const;

 private:
    void head_line(Page& page) const;
    void put(Page& page, const Cell& cell, double x, double y) const;
    std::string said(const ProofRow& row) const {
        return text_.word(proof_measure_plain(row.figure.measure)) + " " + proof_value_text(row.figure);
    }
    const ProofBench& bench_;
    const ProofReport& report_;
    const Skinning skinning_;
    const SheetText& text_;
    const BaseKit& kit_;
    std::vector<Triangle> all_, head_;
};

Cell Sheet::cell(const Proof& proof) const {
    Cell out;
    out.proof = &proof, out.stop = proof.stops.size() - 1;
    for (const ProofRow& row : report_.rows)
        if (row.proof == proof.name) out.figures.push_back(&row);
    if (!out.figures.empty() && out.figures.front()->figure.badness() >= 1) out.stop = out.figures.front()->stop;
    return out;
}

void Sheet::draw(Cell& cell) const {
    const ProofStop& stop = cell.proof->stops[cell.stop];
    ProofStop on_base = stop;
    on_base.amount = 1;
    const Points base = bench_.base.at(on_base, skinning_), shape = bench_.shape.at(stop, skinning_);
    const std::vector<Triangle>& triangles = cell.proof->kind == ProofKind::Face ? head_ : all_;
    double side = 1;
    for (std::size_t i = 0; i < 4; ++i) {
        View& view = cell.views[i];
        view.shown = turned(i % 2 ? shape : base, i < 2 ? 0 : -kAside);
        view.triangles = triangles;
        for (const Triangle& t : triangles)
            for (const Index v : t) view.box.add(view.shown[v]);
        side = std::max({side, kAround * view.box.size().x(), kAround * view.box.size().y()});
    }
    cell.side = side;
    for (std::size_t i = 0; i < 4; ++i) {
        View& view = cell.views[i];
        const Vec3 half(side / 2, side / 2, side / 2), middle = view.box.centre();
        view.box = Box{};
        view.box.add(middle - half), view.box.add(middle + half);
        cell.pictures[i] = small_picture(view.shown, view.triangles, view.box, kPixels);
    }
}

void Sheet::head_line(Page& page) const {
    page.text_within(kEdge, 46, kWide - 2 * kEdge, text_.word("Proof sheet") + ": " + text_.shape, 20,
                     Page::Font::Bold, kDark);
    const std::size_t bad = report_.bad();
    const std::string figures =
        bad ? text_.word("figures to look at") + ": " + std::to_string(bad) : text_.word("nothing to look at");
    page.text_within(kEdge, 63, kWide - 2 * kEdge,
                     text_.word("Base") + " " + std::filesystem::path(kit_.folder).filename().string() + "  ·  " +
                         text_.word("skinning") + " " + text_.word(skinning_name(skinning_)) + "  ·  " +
                         text_.word("stops measured") + ": " + std::to_string(report_.stops) + "  ·  " + figures,
                     9.5, Page::Font::Regular, kDim);
    page.line(kEdge, 74, kWide - kEdge, 74, 0.7, kRule);
    page.text_within(kEdge, kHigh - 22, kWide - 2 * kEdge,
                     text_.word("Base left, shape right; from the front and from three quarters"), 8,
                     Page::Font::Regular, kDim);
}

void Sheet::put(Page& page, const Cell& cell, double x, double y) const {
    const double wide = 4 * kPictureSide;
    std::string name = text_.word(cell.proof->name);
    std::replace(name.begin(), name.end(), '_', ' ');
    if (cell.proof->stops.size() > 1)
        name += "  " + std::to_string(cell.stop + 1) + "/" + std::to_string(cell.proof->stops.size());
    page.text_within(x, y, wide, name, 10, Page::Font::Bold, kDark);
    const double top = y + 6;
    for (std::size_t i = 0; i < 4; ++i)
        page.picture(x + static_cast<double>(i) * kPictureSide, top, kPictureSide, cell.pictures[i]);
    double line = top + kPictureSide + 11;
    std::size_t bad = 0;
    for (const ProofRow* row : cell.figures) {
        if (row->figure.badness() < 1 || bad == kFiguresSaid) break;
        ++bad;
        page.text_within(x, line, wide, said(*row), 8, Page::Font::Bold, kOchre);
        line += 10;
        if (row->figure.at == kNone || row->stop != cell.stop) continue;
        for (const std::size_t i : {1u, 3u}) {
            const Vec3 off = cell.views[i].shown[row->figure.at] - cell.views[i].box.centre();
            const double scale = kPictureSide / cell.side, at = static_cast<double>(i) * kPictureSide;
            page.ring(x + at + kPictureSide / 2 + scale * off.x(), top + kPictureSide / 2 - scale * off.y(), 4, 1.1,
                      kOchre);
        }
    }
    if (bad > 0 || cell.figures.empty()) return;
    page.text_within(x, line, wide, text_.word("nothing to look at"), 8, Page::Font::Regular, kDim);
}

ProofSheet Sheet::page(const std::vector<Cell>& cells) const {
    Page page(kWide, kHigh);
    head_line(page);
    const double column = 4 * kPictureSide + kGap + 8;
    for (std::size_t i = 0; i < cells.size(); ++i)
        put(page, cells[i], kEdge + static_cast<double>(i % kColumns) * column,
            kTop + static_cast<double>(i / kColumns) * kRowHigh);
    return {page.png(kPixelsPerInch), page.pdf()};
}

}  // namespace

std::vector<Proof> proofs_for_sheet(const std::vector<Proof>& proofs, const ProofReport& report) {
    std::vector<Proof> out;
    const auto add = [&](const std::string& name) {
        const auto is = [&](const Proof& p) { return p.name == name; };
        const auto at = std::find_if(proofs.begin(), proofs.end(), is);
        if (at == proofs.end() || out.size() == kMostOnSheet || std::any_of(out.begin(), out.end(), is)) return;
        out.push_back(*at);
    };
    for (const ProofRow& row : report.rows)
        if (row.figure.badness() >= 1) add(row.proof);
    for (const char* name : kPlainOnes) add(name);
    for (const Proof& proof : proofs) add(proof.name);
    return out;
}

Result<ProofSheet> proof_sheet(const ProofBench& bench, const std::vector<Proof>& proofs, const ProofReport& report,
                               Skinning skinning, const SheetText& text, const Progress& progress) {
    const Sheet sheet(bench, report, skinning, text);
    std::vector<Cell> cells;
    for (std::size_t i = 0; i < std::min(kMostOnSheet, proofs.size()); ++i) cells.push_back(sheet.cell(proofs[i]));
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        sheet.draw(cells[i]);
        progress.say(static_cast<double>(i + 1) / static_cast<double>(cells.size()), cells[i].proof->name);
    }
    return sheet.page(cells);
}

Status write_sheet(const ProofSheet& sheet, const std::string& path) {
    std::filesystem::path plain(path);
    if (plain.extension() == ".png" || plain.extension() == ".pdf") plain.replace_extension();
    if (auto ok = write_file(plain.string() + ".png", sheet.png); !ok) return ok;
    return write_file(plain.string() + ".pdf", sheet.pdf);
}

}  // namespace veld
