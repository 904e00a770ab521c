#pragma once
// Skin: a subject's skins and their layers, what is baked into them, and how they are looked at.
#include <QObject>
#include <QTimer>
#include <optional>

#include "app/session.h"
#include "app/stations/skin/shown_skin.h"
#include "core/project/layered_skins.h"
#include "core/project/records/photo_record.h"
#include "core/project/skin_out.h"
#include "core/skin/bake.h"

namespace veld {

class SkinController : public QObject {
    Q_OBJECT
 public:
    explicit SkinController(Session& session, QObject* parent = nullptr);

    void set_awake(bool on);  // asleep nothing is composed
    // Why there is nothing to work on; empty: there is a subject.
    QString why_not() const;
    bool can_bake_fit() const;  // the subject has a fit of a scan, a sculpt or photographs
    std::shared_ptr<const LayeredSkin> skin() const;
    const SkinLayer* layer() const;  // the selected one; null: none
    // The project's other skins, "SUBJECT, SKIN".
    std::vector<std::pair<QString, SkinId>> other_skins() const;
    void select(LayerId id);

    // --- skins of the subject
    void add_skin();
    void copy_skin();
    void remove_skin();
    void rename_skin(const QString& name);
    void choose_skin(int place);
    void set_size(int texels);

    // --- stages: what the skin becomes in an expression or a pose
    const std::string& stage() const { return stage_; }  // that is looked at and worked on; empty: none
    void choose_stage(const std::string& name);
    void add_stage(SkinStage stage);
    void remove_stage();

    // --- layers
    void add_fit_layer();  // of the current fit, and bakes it
    void bake_fit();       // the layer of the current fit again; where there is none yet, adds it
    void add_paint_layer();
    void wear(SkinId other);  // another skin of the project as a layer
    void wear_mix();          // the skins of those whose shapes are mixed, as they are mixed
    bool can_wear_mix() const { return !skins_in_mix(s_.state()).empty(); }
    // A skin of another project, onto this base; or what the base in a kit's folder wears.
    void wear_from_project(const QString& path, const std::string& subject, const std::string& skin);
    void wear_of_kit(const QString& folder);
    void show_only_in(const std::string& region);  // of face_regions(); empty: everywhere
    // The selected layer to the tone of the face in a picture.
    void tone_like_picture(const QString& path);
    void remove_layer();
    void move_layer(int by);  // up: > 0
    using Edit = std::function<void(SkinLayer&)>;
    void edit(const QString& label, const Edit& change, const std::string& merge_key = {});
    void edit(LayerId id, const QString& label, const Edit& change, const std::string& merge_key = {});
    // Bakes the selected layer, or every one whose fit has changed.
    void bake();
    void bake_old();
    bool baking() const { return s_.jobs().has(JobKind::Skin, s_.subject()); }
    bool old(const SkinLayer& layer) const { return is_old(s_.state(), layer); }
    int old_layers() const;
    // Of the layer's last bake in this session; null: none.
    const BakeReport* report(LayerId id) const;

    // --- looking
    void set_look(SkinLook look);
    SkinLook look() const { return look_; }
    void set_tile(const std::string& name);
    const std::string& tile() const { return tile_; }
    bool edges() const { return edges_; }
    void set_edges(bool on);
    // What the skin is held against, at the left of a line in the view.
    enum class Against { Nothing, WithoutLayer, Base, Skin };
    void set_against(Against what, SkinId skin = {});
    Against against() const { return against_; }
    SkinId against_skin() const { return against_skin_; }
    double wipe() const { return wipe_; }  // share of the width that shows the other one
    void set_wipe(double share);
    const std::shared_ptr<ShownSkin>& shown_against() const { return other_.shown; }
    // The fit's photographs with their cameras; empty: it was not made from any.
    struct Photos {
        std::shared_ptr<const std::vector<Image>> pictures;
        std::vector<std::optional<PhotoCamera>> cameras;
    };
    Photos photos() const;
    // Beside the model: -1 the scan, or the tile where there is none; else a photograph, whose camera is looked
    // through.
    int photo() const { return photo_; }
    void set_photo(int photo);
    // What is shown now; null: nothing yet. While another is being composed it is the one of before.
    const std::shared_ptr<ShownSkin>& shown() const { return main_.shown; }
    // What the fit's subject wears while the kit's expressions have these amounts: stages that belong to one of them
    // come in with it. By which of the kit's pictures it stands for; composed in the background when that was not done
    // yet, and empty until then.
    std::map<int, QImage> pictures_of(const FitRecord& fit, const std::map<std::string, double>& expressions);
    bool composing() const { return main_.job != 0; }
    UvFigures uv_figures_of(const UvTile& tile) const;
    QImage uv_picture() const;  // of the tile, with its edges when they are asked for

    // --- out
    // In the background; kit, skins, relief and the files' name are filled in.
    void write_maps(const SkinOut& what);
    void write_glb(const SkinOut& what, const QString& path);
    void write_kit(const QString& folder);  // with the skin in place of the kit's pictures

 signals:
    void changed();
    void shown_changed();

 private:
    friend class SkinBrushController;
    void refresh();
    void show();
    struct Composed {
        std::shared_ptr<ShownSkin> shown;
        std::optional<ShownSkin> asked, failed;  // what is being composed; what could not be
        JobId job = 0;
    };
    ShownSkin question(SkinLook look, const std::string& stage) const;
    void compose(SkinLook look);
    QImage picture_in(const std::string& tile, const std::map<std::string, double>& stages);
    void compose_against();
    void compose(Composed& to, const ShownSkin& asked, const std::shared_ptr<ShownSkin>& before);
    // A layer made in the background, then put on top of the subject's skin.
    void put_on(const QString& what, const QString& label,
                const std::function<Result<SkinLayer>(const Progress&)>& make);
    bool put(const QString& label, LayeredSkin&& next, const std::string& merge_key = {});
    // After a stroke: the skin with that layer changed, and these tiles as they are seen now. Nothing is composed
    // anew.
    void keep_painted(const QString& label, LayeredSkin&& next, const SkinLayer& layer,
                      std::map<std::string, Pixels>&& live);
    LayeredSkin fresh_skin() const;
    SkinOut whole(const SkinOut& what) const;
    void bake_layers(const std::vector<LayerId>& which);
    void finish_bake(SkinId skin, int size, std::vector<BakedLayer>&& baked);

    Session& s_;
    bool awake_ = false, edges_ = false;
    LayerId selected_;
    SkinLook look_ = SkinLook::Skin;
    std::string tile_;
    std::string stage_;
    Composed main_, other_;
    std::map<std::string, Composed> in_stage_;  // by stage; entries stay, since work comes back to them
    // Tiles between stages, as they were asked for last.
    struct Between {
        std::vector<std::pair<const Pixels*, double>> of;
        StageAmounts held;
        QImage image;
    };
    std::map<std::string, Between> between_;
    // Two pictures of a tile, and whether they differ: told once, since it takes long.
    struct Told {
        std::weak_ptr<const Pixels> plain, stage;
        bool differ = false;
    };
    std::map<std::pair<std::string, std::string>, Told> told_;  // by tile and stage
    bool stage_differs(const std::string& tile, const std::string& stage, const std::shared_ptr<const Pixels>& plain,
                       const std::shared_ptr<const Pixels>& there);
    Against against_ = Against::Nothing;
    SkinId against_skin_;
    double wipe_ = 0.5;
    int photo_ = -1;
    // the skin without a layer, made once for it
    std::pair<std::pair<const LayeredSkin*, LayerId>, std::shared_ptr<const LayeredSkin>> without_;
    std::map<std::uint64_t, BakeReport> reports_;  // by layer
    // of one tile, made when they are asked for
    mutable std::pair<std::pair<const PaintSurface*, std::string>, QImage> edges_kept_;
    mutable std::pair<std::pair<const PaintSurface*, std::string>, UvFigures> figures_kept_;
};

}  // namespace veld
