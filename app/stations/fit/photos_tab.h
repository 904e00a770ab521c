#pragma once
// Heads from photographs: the pictures with their grades and lenses, and what is made of them.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QListWidget>
#include <QSlider>

#include "app/stations/fit/photo_controller.h"
#include "app/widgets.h"

namespace veld {

class PhotosTab : public QWidget {
    Q_OBJECT
 public:
    PhotosTab(Session& session, PhotoController& photos, QWidget* parent = nullptr);

 private:
    void build_list(QBoxLayout* column);
    void build_lens(QBoxLayout* column);
    void build_whole(QBoxLayout* column);
    void build_run(QBoxLayout* column);
    void refresh();
    void refresh_list();
    void refresh_remarks();
    void refresh_lens();
    void ask_face(PhotoSetId set, int photo, int faces);
    struct LensOwner {
        PhotoSetId set;
        FitId fit;
        int photo = 0;
        bool operator==(const LensOwner&) const = default;
    };
    LensOwner lens_owner() const;  // whose lens the slider shows

    Session& s_;
    PhotoController& p_;
    QListWidget* list_;
    QLabel *remarks_, *hint_, *lens_text_, *outcome_;
    QComboBox* lens_from_;
    QSlider *lens_, *behind_, *over_;
    QCheckBox *through_, *one_lens_, *curves_, *outline_, *heads_;
    QDoubleSpinBox* eyes_;
    QCheckBox* draw_;
    QPushButton* forget_;
    QPushButton *make_, *go_on_, *cancel_, *skin_;
    bool filling_ = false;
    LensOwner lens_held_for_;
};

// Sliders of the shape space, dragged places, two people as one.
class HandTab : public QWidget {
    Q_OBJECT
 public:
    HandTab(Session& session, PhotoController& photos, QWidget* parent = nullptr);

 private:
    void build_sliders(QBoxLayout* column);
    void build_places(QBoxLayout* column);
    void build_blend(QBoxLayout* column);
    void refresh();

    Session& s_;
    PhotoController& p_;
    QComboBox *region_, *other_;
    std::map<HandMove, std::pair<QSlider*, QLabel*>> sliders_;
    QWidget* keeps_;
    std::vector<QCheckBox*> keep_;
    QCheckBox *drag_, *skins_;
    QPushButton *drop_, *keep_blend_;
    QSlider* blend_;
    QLabel *blend_text_, *hint_;
    bool filling_ = false;
};

}  // namespace veld
