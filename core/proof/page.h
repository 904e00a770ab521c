#pragma once
// A printed page: drawn once, written as PNG and as PDF (Cairo). Points of 1/72 inch, from the upper left corner. Text
// is in the font that ships with the program.
#include <memory>
#include <string>

#include "core/spatial/small_picture.h"

namespace veld {

class Page {
 public:
    Page(double width, double height);
    ~Page();

    struct Ink {
        double red, green, blue;
    };
    enum class Font { Regular, Bold };
    // y: of the line that letters stand on.
    void text(double x, double y, const std::string& text, double size, Font font, Ink ink);
    double width_of(const std::string& text, double size, Font font) const;
    // Ends in "…" where it is wider than that.
    void text_within(double x, double y, double width, const std::string& text, double size, Font font, Ink ink);
    void line(double x, double y, double to_x, double to_y, double width, Ink ink);
    void ring(double x, double y, double radius, double width, Ink ink);
    void picture(double x, double y, double side, const SmallPicture& picture);

    std::string png(double per_inch) const;  // pixels per inch
    std::string pdf() const;

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
