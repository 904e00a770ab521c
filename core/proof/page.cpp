#include "core/proof/page.h"

#include <cairo-ft.h>
#include <cairo-pdf.h>
#include <cairo.h>

#include <array>
#include <cmath>
#include <cstring>

// The assembler puts the fonts into the library as they are: nothing to find at run time.
#define VELD_INCLUDE_FONT(symbol, path)                                              \
    asm(".section .rodata\n.balign 16\n" #symbol ":\n.incbin \"" path "\"\n" #symbol \
        "_end:\n"                                                                    \
        ".byte 0\n.previous\n");                                                     \
    extern "C" const unsigned char symbol[], symbol##_end[];

VELD_INCLUDE_FONT(veldstone_font_regular, VELDSTONE_FONTS "/Lato-Regular.ttf")
VELD_INCLUDE_FONT(veldstone_font_bold, VELDSTONE_FONTS "/Lato-Bold.ttf")

namespace veld {
namespace {

cairo_status_t append(void* out, const unsigned char* data, unsigned int size) {
    static_cast<std::string*>(out)->append(reinterpret_cast<const char*>(data), size);
    return CAIRO_STATUS_SUCCESS;
}

constexpr double kPointsPerInch = 72;

// Live as long as the program: Cairo keeps glyphs of them.
struct ShippedFonts {
    std::array<cairo_font_face_t*, 2> face{};
    ShippedFonts() {
        FT_Library library = nullptr;
        FT_Init_FreeType(&library);
        const auto open = [&](std::size_t i, const unsigned char* begin, const unsigned char* end) {
            FT_Face font = nullptr;
            FT_New_Memory_Face(library, begin, static_cast<FT_Long>(end - begin), 0, &font);
            face[i] = cairo_ft_font_face_create_for_ft_face(font, 0);
        };
        open(0, veldstone_font_regular, veldstone_font_regular_end);
        open(1, veldstone_font_bold, veldstone_font_bold_end);
    }
};

const ShippedFonts& shipped_fonts() {
    static const ShippedFonts* fonts = new ShippedFonts;
    return *fonts;
}

}  // namespace

struct Page::Inside {
    double width, height;
    cairo_surface_t* recorded = nullptr;
    cairo_t* pen = nullptr;

    Inside(double w, double h) : width(w), height(h) {
        const cairo_rectangle_t page{0, 0, width, height};
        recorded = cairo_recording_surface_create(CAIRO_CONTENT_COLOR_ALPHA, &page);
        pen = cairo_create(recorded);
    }
    Inside(const Inside&) = delete;
    Inside& operator=(const Inside&) = delete;
    ~Inside() {
        cairo_destroy(pen);
        cairo_surface_destroy(recorded);
    }
    void choose(Font font, double size) const {
        cairo_set_font_face(pen, shipped_fonts().face[font == Font::Bold]);
        cairo_set_font_size(pen, size);
    }
    void colour(const Ink& ink) const { cairo_set_source_rgb(pen, ink.red, ink.green, ink.blue); }
    void replay(cairo_surface_t* onto, double scale) const {
        cairo_t* to = cairo_create(onto);
        cairo_scale(to, scale, scale);
        cairo_set_source_rgb(to, 1, 1, 1);
        cairo_paint(to);
        cairo_set_source_surface(to, recorded, 0, 0);
        cairo_paint(to);
        cairo_destroy(to);
    }
};

Page::Page(double width, double height) : inside_(std::make_unique<Inside>(width, height)) {}
Page::~Page() = default;

void Page::text(double x, double y, const std::string& text, double size, Font font, Ink ink) {
    inside_->choose(font, size);
    inside_->colour(ink);
    cairo_move_to(inside_->pen, x, y);
    cairo_show_text(inside_->pen, text.c_str());
}

double Page::width_of(const std::string& text, double size, Font font) const {
    inside_->choose(font, size);
    cairo_text_extents_t extents;
    cairo_text_extents(inside_->pen, text.c_str(), &extents);
    return extents.x_advance;
}

void Page::text_within(double x, double y, double width, const std::string& said, double size, Font font, Ink ink) {
    std::string shown = said;
    while (!shown.empty() && width_of(shown == said ? said : shown + "…", size, font) > width) {
        do {
            shown.pop_back();
        } while (!shown.empty() && (static_cast<unsigned char>(shown.back()) & 0xC0) == 0x80);
        if (!shown.empty() && static_cast<unsigned char>(shown.back()) >= 0xC0) shown.pop_back();
    }
    text(x, y, shown == said ? said : shown + "…", size, font, ink);
}

void Page::line(double x, double y, double to_x, double to_y, double width, Ink ink) {
    inside_->colour(ink);
    cairo_set_line_width(inside_->pen, width);
    cairo_move_to(inside_->pen, x, y);
    cairo_line_to(inside_->pen, to_x, to_y);
    cairo_stroke(inside_->pen);
}

void Page::ring(double x, double y, double radius, double width, Ink ink) {
    inside_->colour(ink);
    cairo_set_line_width(inside_->pen, width);
    cairo_new_sub_path(inside_->pen);
    cairo_arc(inside_->pen, x, y, radius, 0, 2 * M_PI);
    cairo_stroke(inside_->pen);
}

void Page::picture(double x, double y, double side, const SmallPicture& picture) {
    const int n = picture.side, stride = cairo_format_stride_for_width(CAIRO_FORMAT_ARGB32, n);
    cairo_surface_t* image = cairo_image_surface_create(CAIRO_FORMAT_ARGB32, n, n);
    unsigned char* to = cairo_image_surface_get_data(image);
    for (int row = 0; row < n; ++row)
        for (int column = 0; column < n; ++column) {
            const auto at = static_cast<std::size_t>(row * n + column);
            const std::uint32_t grey = picture.grey[at] * picture.seen[at] / 255u, opaque = picture.seen[at];
            const std::uint32_t pixel = (opaque << 24) | (grey << 16) | (grey << 8) | grey;
            std::memcpy(to + row * stride + 4 * column, &pixel, 4);
        }
    cairo_surface_mark_dirty(image);
    cairo_save(inside_->pen);
    cairo_translate(inside_->pen, x, y);
    cairo_scale(inside_->pen, side / n, side / n);
    cairo_set_source_surface(inside_->pen, image, 0, 0);
    cairo_pattern_set_filter(cairo_get_source(inside_->pen), CAIRO_FILTER_GOOD);
    cairo_paint(inside_->pen);
    cairo_restore(inside_->pen);
    cairo_surface_destroy(image);
}

std::string Page::png(double per_inch) const {
    const double scale = per_inch / kPointsPerInch;
    cairo_surface_t* image =
        cairo_image_surface_create(CAIRO_FORMAT_RGB24, static_cast<int>(std::ceil(scale * inside_->width)),
                                   static_cast<int>(std::ceil(scale * inside_->height)));
    inside_->replay(image, scale);
    std::string out;
    cairo_surface_write_to_png_stream(image, append, &out);
    cairo_surface_destroy(image);
    return out;
}

std::string Page::pdf() const {
    std::string out;
    cairo_surface_t* page = cairo_pdf_surface_create_for_stream(append, &out, inside_->width, inside_->height);
    inside_->replay(page, 1);
    cairo_surface_finish(page);
    cairo_surface_destroy(page);
    return out;
}

}  // namespace veld
