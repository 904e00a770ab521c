#pragma once
// Tidy: a raw source is cleaned.
#include "app/stations/station_page.h"

namespace veld {

class TidyPanel;

class TidyStation : public StationPage {
    Q_OBJECT
 public:
    explicit TidyStation(const StationContext& context);
    QWidget* panel() override;
    QString figures() const override;
    bool upright() const override { return true; }
    Framing home() override { return home_of_source(c_); }
    std::string framed() override { return name_of_source(c_); }
    std::vector<ViewId> shown() override { return {ViewId::Source}; }
    std::vector<ViewId> offered() override { return {ViewId::Base, ViewId::Source}; }
    Pane pane(ViewId which) override;
    void clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers keys) override;
    void stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) override;
    void stroke_moved(ViewId which, const Ray& ray, double pressure) override;
    void stroke_ended(ViewId which) override;
    void line_drawn(ViewId which, const Ray& from, const Ray& to) override;
    void outline_drawn(ViewId which, const std::vector<Vec2>& clip, const std::array<double, 16>& to_clip,
                       Qt::KeyboardModifiers keys) override;

 private:
    FaceMask lit() const;
    std::vector<Marker> picked() const;
    QString prompt() const;
    void ask_for_steps(bool read);
    void ask_for_source_file();

    TidyPanel* panel_;
};

}  // namespace veld
