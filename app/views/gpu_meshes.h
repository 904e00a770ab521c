#pragma once
// OpenGL 3.3 side of a viewport: static buffers, one shader for surfaces, one for wires.
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions_3_3_Core>
#include <QOpenGLShaderProgram>
#include <map>
#include <memory>

#include "app/views/lights.h"
#include "app/views/viewport.h"

namespace veld {

class GpuMeshes {
 public:
    // false: the driver lacks OpenGL 3.3; why() tells
    bool initialise();
    QString why() const { return why_; }
    // moving: heavy meshes are drawn by their stand-ins. At rest: all of it, with 4x multisampling
    // where that is affordable (it costs two to three times as much)
    void draw(const std::vector<Layer>& layers, const Camera& camera, const Backdrop& backdrop,
              const std::optional<Plane>& cut, const QSize& pixels, bool moving, GLuint target);
    // off: as while moving, for machines that draw without a graphics card
    void set_smooth_edges(bool on) { smooth_edges_ = on; }
    void set_lights(const Lights& lights) { lights_ = lights; }
    void release();

 private:
    struct Buffers {
        std::weak_ptr<DisplayMesh> owner;
        GLuint array = 0, vertices = 0, indices = 0, stand_in = 0, edges = 0;
        std::vector<GLuint> textures;
        GLuint ground = 0;
        std::size_t patches = 0;  // of the mesh, done
        int revision = -1, images_revision = -1, ground_revision = 0;
    };
    Buffers& upload(const std::shared_ptr<DisplayMesh>& mesh);
    void upload_pictures(const DisplayMesh& mesh, Buffers& buffers);
    void upload_patches(const DisplayMesh& mesh, Buffers& buffers);
    void upload_ground(const DisplayMesh& mesh, Buffers& buffers);
    void draw_ground(const Layer& layer, const Camera& camera, double aspect);
    void draw_four();
    QOpenGLShaderProgram& relief();
    void free(Buffers& buffers);
    void draw_layer(const Layer& layer, const Camera& camera, const QSize& pixels);
    void set_cut(QOpenGLShaderProgram& program, const Camera& camera);
    void set_lights();
    void draw_picture(const Backdrop& backdrop, const Camera& camera, const QSize& pixels, double opacity);
    void draw_surface(const Layer& layer, const Buffers& buffers);

    QOpenGLFunctions_3_3_Core* gl_ = nullptr;
    std::unique_ptr<QOpenGLShaderProgram> surface_, relief_, wire_, picture_, ground_;
    QOpenGLShaderProgram* lit_ = nullptr;  // that draws the layer: surface_, or relief_ with normal maps
    GLuint picture_texture_ = 0, picture_array_ = 0;
    qint64 picture_key_ = 0;
    bool smooth_edges_ = true;
    Lights lights_ = lights_of(StudioLight::Soft);
    std::unique_ptr<QOpenGLFramebufferObject> smooth_;
    std::map<const DisplayMesh*, Buffers> buffers_;
    QString why_;
    bool in_motion_ = false;
    std::optional<Plane> cut_;
};

}  // namespace veld
