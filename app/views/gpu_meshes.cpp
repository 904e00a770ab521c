#include "app/views/gpu_meshes.h"

#include <QOpenGLContext>
#include <QOpenGLVersionFunctionsFactory>
#include <cmath>
#include <cstddef>
#include <set>

#include "app/views/shaders.h"

namespace veld {
namespace {

constexpr std::size_t kMostSmoothTriangles = 500'000;

std::unique_ptr<QOpenGLShaderProgram> program(const char* vertex, const char* fragment, QString& why) {
    auto out = std::make_unique<QOpenGLShaderProgram>();
    const bool ok = out->addShaderFromSourceCode(QOpenGLShader::Vertex, vertex) &&
                    out->addShaderFromSourceCode(QOpenGLShader::Fragment, fragment) && out->link();
    if (!ok) why = out->log();
    return out;
}

QMatrix4x4 matrix_of(const Similarity& model) {
    QMatrix4x4 out;
    for (int r = 0; r < 3; ++r) {
        for (int c = 0; c < 3; ++c) out(r, c) = static_cast<float>(model.scale * model.rotation(r, c));
        out(r, 3) = static_cast<float>(model.translation[r]);
    }
    return out;
}

}  // namespace

bool GpuMeshes::initialise() {
    auto* context = QOpenGLContext::currentContext();
    gl_ = context ? QOpenGLVersionFunctionsFactory::get<QOpenGLFunctions_3_3_Core>(context) : nullptr;
    if (!gl_ || !gl_->initializeOpenGLFunctions()) {
        why_ = "This display offers no OpenGL 3.3. Install libgl1-mesa-dri for software drawing.";
        gl_ = nullptr;
        return false;
    }
    surface_ = program(shaders::kSurfaceVertex, shaders::kSurfaceFragment, why_);
    wire_ = program(shaders::kWireVertex, shaders::kWireFragment, why_);
    picture_ = program(shaders::kPictureVertex, shaders::kPictureFragment, why_);
    ground_ = program(shaders::kGroundVertex, shaders::kGroundFragment, why_);
    return why_.isEmpty();
}

// Compiled when it is first wanted: normal maps are dear without a graphics card, and most views have none.
QOpenGLShaderProgram& GpuMeshes::relief() {
    if (!relief_) {
        QByteArray fragment(shaders::kSurfaceFragment);
        fragment.insert(fragment.indexOf('\n') + 1, "#define RELIEF\n");
        relief_ = program(shaders::kSurfaceVertex, fragment.constData(), why_);
    }
    return relief_->isLinked() ? *relief_ : *surface_;
}

void GpuMeshes::free(Buffers& b) {
    gl_->glDeleteBuffers(1, &b.vertices);
    gl_->glDeleteBuffers(1, &b.indices);
    gl_->glDeleteBuffers(1, &b.stand_in);
    gl_->glDeleteBuffers(1, &b.edges);
    gl_->glDeleteVertexArrays(1, &b.array);
    if (!b.textures.empty()) gl_->glDeleteTextures(static_cast<int>(b.textures.size()), b.textures.data());
    if (b.ground) gl_->glDeleteTextures(1, &b.ground);
}

void GpuMeshes::release() {
    if (!gl_) return;
    for (auto& [mesh, b] : buffers_) free(b);
    buffers_.clear();
    smooth_.reset();
    surface_.reset();
    relief_.reset();
    wire_.reset();
    picture_.reset();
    ground_.reset();
    if (picture_texture_) gl_->glDeleteTextures(1, &picture_texture_);
    if (picture_array_) gl_->glDeleteVertexArrays(1, &picture_array_);
    picture_texture_ = picture_array_ = 0;
}

// What was painted since the last time.
void GpuMeshes::upload_patches(const DisplayMesh& mesh, Buffers& b) {
    std::set<GLuint> touched;
    for (; b.patches < mesh.patches.size(); ++b.patches) {
        const auto& [at, where] = mesh.patches[b.patches];
        const QImage& image = mesh.images[at];
        gl_->glBindTexture(GL_TEXTURE_2D, b.textures[at]);
        gl_->glPixelStorei(GL_UNPACK_ROW_LENGTH, image.width());
        gl_->glTexSubImage2D(GL_TEXTURE_2D, 0, where.left(), where.top(), where.width(), where.height(), GL_RGBA,
                             GL_UNSIGNED_BYTE, image.constScanLine(where.top()) + std::ptrdiff_t{4} * where.left());
        touched.insert(b.textures[at]);
    }
    gl_->glPixelStorei(GL_UNPACK_ROW_LENGTH, 0);
    for (const GLuint texture : touched) {
        gl_->glBindTexture(GL_TEXTURE_2D, texture);
        gl_->glGenerateMipmap(GL_TEXTURE_2D);
    }
}

void GpuMeshes::upload_pictures(const DisplayMesh& mesh, Buffers& b) {
    if (b.images_revision == mesh.images_revision) return upload_patches(mesh, b);
    if (!b.textures.empty()) gl_->glDeleteTextures(static_cast<int>(b.textures.size()), b.textures.data());
    b.textures.clear();
    for (const QImage& image : mesh.images) {
        GLuint texture = 0;
        gl_->glGenTextures(1, &texture);
        gl_->glBindTexture(GL_TEXTURE_2D, texture);
        if (!image.isNull()) {
            gl_->glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, image.width(), image.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE,
                              image.constBits());
            gl_->glGenerateMipmap(GL_TEXTURE_2D);
        }
        gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR_MIPMAP_LINEAR);
        b.textures.push_back(texture);
    }
    b.images_revision = mesh.images_revision;
    b.patches = mesh.patches.size();
}

GpuMeshes::Buffers& GpuMeshes::upload(const std::shared_ptr<DisplayMesh>& mesh) {
    for (auto at = buffers_.begin(); at != buffers_.end();) {
        const bool gone = at->second.owner.expired();
        if (gone) free(at->second);
        at = gone ? buffers_.erase(at) : std::next(at);
    }
    Buffers& b = buffers_[mesh.get()];
    upload_pictures(*mesh, b);
    if (b.revision == mesh->revision) return b;
    const auto bytes = [](const auto& v) { return static_cast<GLsizeiptr>(v.size() * sizeof(v[0])); };
    if (b.revision < 0) {
        b.owner = mesh;
        gl_->glGenVertexArrays(1, &b.array);
        gl_->glGenBuffers(1, &b.vertices);
        gl_->glGenBuffers(1, &b.indices);
        gl_->glGenBuffers(1, &b.stand_in);
        gl_->glGenBuffers(1, &b.edges);
        gl_->glBindVertexArray(b.array);
        if (!mesh->stand_in.empty()) {
            gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.stand_in);
            gl_->glBufferData(GL_ELEMENT_ARRAY_BUFFER, bytes(mesh->stand_in), mesh->stand_in.data(), GL_STATIC_DRAW);
        }
        gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.edges);
        gl_->glBufferData(GL_ELEMENT_ARRAY_BUFFER, bytes(mesh->edges), mesh->edges.data(), GL_STATIC_DRAW);
        gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.indices);
        gl_->glBufferData(GL_ELEMENT_ARRAY_BUFFER, bytes(mesh->indices), mesh->indices.data(), GL_STATIC_DRAW);
    }
    gl_->glBindVertexArray(b.array);
    gl_->glBindBuffer(GL_ARRAY_BUFFER, b.vertices);
    gl_->glBufferData(GL_ARRAY_BUFFER, bytes(mesh->vertices), mesh->vertices.data(), GL_DYNAMIC_DRAW);
    using V = DisplayMesh::Vertex;
    const auto attribute = [&](GLuint at, int width, GLenum type, GLboolean normalise, std::size_t offset) {
        gl_->glEnableVertexAttribArray(at);
        gl_->glVertexAttribPointer(at, width, type, normalise, sizeof(V), reinterpret_cast<const void*>(offset));
    };
    attribute(0, 3, GL_FLOAT, GL_FALSE, offsetof(V, position));
    attribute(1, 3, GL_FLOAT, GL_FALSE, offsetof(V, normal));
    attribute(2, 2, GL_FLOAT, GL_FALSE, offsetof(V, uv));
    attribute(3, 4, GL_UNSIGNED_BYTE, GL_TRUE, offsetof(V, colour));
    attribute(4, 4, GL_UNSIGNED_BYTE, GL_TRUE, offsetof(V, mark));
    attribute(5, 2, GL_UNSIGNED_SHORT, GL_TRUE, offsetof(V, strand));
    b.revision = mesh->revision;
    return b;
}

void GpuMeshes::draw_surface(const Layer& layer, const Buffers& b) {
    const DisplayMesh& mesh = *layer.mesh;
    gl_->glBindVertexArray(b.array);
    const bool reduced = in_motion_ && !mesh.stand_in.empty();
    gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, reduced ? b.stand_in : b.indices);
    for (const DisplayMesh::Range& range : mesh.ranges) {
        int mode = 0;
        QColor clay = layer.clay;
        const bool wants_texture = layer.shading == Shading::Textured || layer.shading == Shading::Flat;
        if (layer.shading == Shading::Colours) mode = 3;
        if (wants_texture && range.image >= 0) {
            mode = layer.shading == Shading::Flat ? 2 : 1;
            gl_->glBindTexture(GL_TEXTURE_2D, b.textures[static_cast<std::size_t>(range.image)]);
        } else if (wants_texture && mesh.has_colours()) {
            mode = 4;
        } else if (wants_texture) {
            clay = range.colour;
        }
        lit_->setUniformValue("shading", mode);
        const auto bumps =
            range.image < 0 ? mesh.relief.end() : mesh.relief.find(static_cast<std::size_t>(range.image));
        if (layer.relief) {
            gl_->glActiveTexture(GL_TEXTURE1);
            gl_->glBindTexture(GL_TEXTURE_2D, bumps != mesh.relief.end() ? b.textures[bumps->second] : 0);
            gl_->glActiveTexture(GL_TEXTURE0);
        }
        lit_->setUniformValue("clay", QVector3D(clay.redF(), clay.greenF(), clay.blueF()));
        const std::size_t first = reduced ? range.stand_in_first : range.first,
                          count = reduced ? range.stand_in_count : range.count;
        gl_->glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(count), GL_UNSIGNED_INT,
                            reinterpret_cast<const void*>(first * sizeof(Index)));
    }
}

void GpuMeshes::set_lights() {
    lit_->setUniformValue("key", lights_.key);
    lit_->setUniformValue("key_colour", lights_.key_colour);
    lit_->setUniformValue("fill", lights_.fill);
    lit_->setUniformValue("fill_colour", lights_.fill_colour);
    lit_->setUniformValue("ambient", lights_.ambient);
    lit_->setUniformValue("rim", lights_.rim);
    lit_->setUniformValue("wrap", lights_.wrap);
    lit_->setUniformValue("gloss", lights_.gloss);
    lit_->setUniformValue("hollows", lights_.hollows);
    lit_->setUniformValue("flat_light", lights_.flat);
}

// The plane as the eye sees it, its front being the side that is taken away.
void GpuMeshes::set_cut(QOpenGLShaderProgram& program, const Camera& camera) {
    QVector4D eye(0, 0, 0, 1);  // nothing lies in front of this
    if (cut_) {
        const QMatrix4x4 view = camera.view();
        const QVector3D n =
            view.mapVector(QVector3D(static_cast<float>(cut_->normal.x()), static_cast<float>(cut_->normal.y()),
                                     static_cast<float>(cut_->normal.z())));
        const Vec3 on = cut_->offset * cut_->normal;
        const QVector3D p =
            view.map(QVector3D(static_cast<float>(on.x()), static_cast<float>(on.y()), static_cast<float>(on.z())));
        const float w = QVector3D::dotProduct(n, p);
        const bool faces = camera.parallel() ? n.z() > 0 : w < 0;
        eye = faces ? QVector4D(n, w) : QVector4D(-n, -w);
    }
    program.setUniformValue("cut", eye);
}

void GpuMeshes::draw_layer(const Layer& layer, const Camera& camera, const QSize& pixels) {
    const double aspect = static_cast<double>(pixels.width()) / std::max(pixels.height(), 1);
    if (layer.from > 0 || layer.to < 1) {
        gl_->glEnable(GL_SCISSOR_TEST);
        const int left = static_cast<int>(layer.from * pixels.width());
        gl_->glScissor(left, 0, static_cast<int>(layer.to * pixels.width()) - left, pixels.height());
    }
    Buffers& b = upload(layer.mesh);
    const QMatrix4x4 view = camera.view() * matrix_of(layer.model), projection = camera.projection(aspect);
    const bool glassy = layer.opacity < 0.999;
    lit_ = layer.relief ? &relief() : surface_.get();
    lit_->bind();
    lit_->setUniformValue("view", view);
    lit_->setUniformValue("projection", projection);
    lit_->setUniformValue("opacity", static_cast<float>(layer.opacity));
    lit_->setUniformValue("orthographic", camera.parallel());
    lit_->setUniformValue("image", 0);
    if (layer.relief) lit_->setUniformValue("bumps", 1);
    set_lights();
    set_cut(*lit_, camera);
    if (glassy) {
        // nearest surface only: depth first, then colour where the depth is equal
        gl_->glClear(GL_DEPTH_BUFFER_BIT);
        gl_->glColorMask(GL_FALSE, GL_FALSE, GL_FALSE, GL_FALSE);
        draw_surface(layer, b);
        gl_->glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
        gl_->glDepthFunc(GL_LEQUAL);
        gl_->glEnable(GL_BLEND);
        gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
    }
    draw_surface(layer, b);
    if (layer.wire) {
        wire_->bind();
        wire_->setUniformValue("view", view);
        wire_->setUniformValue("projection", projection);
        set_cut(*wire_, camera);
        wire_->setUniformValue("line", QVector4D(0.10f, 0.09f, 0.08f, static_cast<float>(0.62 * layer.opacity)));
        gl_->glEnable(GL_BLEND);
        gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
        gl_->glDepthFunc(GL_LEQUAL);
        gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, b.edges);
        gl_->glDrawElements(GL_LINES, static_cast<GLsizei>(layer.mesh->edges.size()), GL_UNSIGNED_INT, nullptr);
    }
    gl_->glDisable(GL_BLEND);
    gl_->glDisable(GL_SCISSOR_TEST);
    gl_->glDepthFunc(GL_LESS);
    gl_->glBindVertexArray(0);
}

void GpuMeshes::upload_ground(const DisplayMesh& mesh, Buffers& b) {
    if (b.ground_revision == mesh.ground_revision) return;
    b.ground_revision = mesh.ground_revision;
    const GroundShadow& shadow = mesh.ground;
    std::vector<std::uint8_t> grey;
    for (const float open : shadow.open) grey.push_back(static_cast<std::uint8_t>(std::lround(255 * open)));
    if (!b.ground) gl_->glGenTextures(1, &b.ground);
    gl_->glBindTexture(GL_TEXTURE_2D, b.ground);
    gl_->glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
    gl_->glTexImage2D(GL_TEXTURE_2D, 0, GL_R8, static_cast<GLsizei>(shadow.across), static_cast<GLsizei>(shadow.deep),
                      0, GL_RED, GL_UNSIGNED_BYTE, grey.data());
    gl_->glPixelStorei(GL_UNPACK_ALIGNMENT, 4);
    gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
    gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
    gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
}

// Four corners that the shader places, over what is there.
void GpuMeshes::draw_four() {
    gl_->glEnable(GL_BLEND);
    gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
    gl_->glBindVertexArray(picture_array_);
    gl_->glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    gl_->glBindVertexArray(0);
    gl_->glDisable(GL_BLEND);
}

// Of what stands upright and is seen from above; a photograph has its own ground.
void GpuMeshes::draw_ground(const Layer& layer, const Camera& camera, double aspect) {
    const GroundShadow& shadow = layer.mesh->ground;
    constexpr double kUpright = 0.999;
    if (shadow.empty() || camera.photo || cut_ || lights_.flat || layer.opacity < 0.999 ||
        layer.model.rotation(1, 1) < kUpright)
        return;
    const Vec3 on = layer.model(Vec3(shadow.left, shadow.height, shadow.back));
    const bool from_above = camera.orthographic ? camera.forward().y() < -1e-3 : camera.eye().y() > on.y() + 1;
    if (!from_above) return;
    Buffers& b = upload(layer.mesh);
    upload_ground(*layer.mesh, b);
    if (!picture_array_) gl_->glGenVertexArrays(1, &picture_array_);
    ground_->bind();
    ground_->setUniformValue("view", camera.view() * matrix_of(layer.model));
    ground_->setUniformValue("projection", camera.projection(aspect));
    const double half = 0.5 * shadow.cell;
    ground_->setUniformValue("extent",
                             QVector4D(static_cast<float>(shadow.left - half), static_cast<float>(shadow.back - half),
                                       static_cast<float>(shadow.left + shadow.across * shadow.cell - half),
                                       static_cast<float>(shadow.back + shadow.deep * shadow.cell - half)));
    ground_->setUniformValue("height", static_cast<float>(shadow.height));
    ground_->setUniformValue("floor_colour", QVector3D(0.235f, 0.218f, 0.200f));
    ground_->setUniformValue("image", 0);
    gl_->glBindTexture(GL_TEXTURE_2D, b.ground);
    draw_four();
}

void GpuMeshes::draw_picture(const Backdrop& backdrop, const Camera& camera, const QSize& pixels, double opacity) {
    if (!camera.photo || backdrop.picture.isNull() || opacity <= 0) return;
    if (!picture_texture_) gl_->glGenTextures(1, &picture_texture_), gl_->glGenVertexArrays(1, &picture_array_);
    gl_->glBindTexture(GL_TEXTURE_2D, picture_texture_);
    if (picture_key_ != backdrop.picture.cacheKey()) {
        picture_key_ = backdrop.picture.cacheKey();
        const QImage rgba = backdrop.picture.convertToFormat(QImage::Format_RGBA8888);
        gl_->glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, rgba.width(), rgba.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE,
                          rgba.constBits());
        gl_->glGenerateMipmap(GL_TEXTURE_2D);
        gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR_MIPMAP_LINEAR);
        gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
        gl_->glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
    }
    const double aspect = static_cast<double>(pixels.width()) / std::max(pixels.height(), 1);
    Vec2 a = camera.photo_place(Vec2(0, 0), aspect),
         b = camera.photo_place(Vec2(camera.photo->camera.width, camera.photo->camera.height), aspect);
    if (camera.zoom != 1) {
        const Vec2 middle(camera.zoom_x, camera.zoom_y);
        a = camera.zoom * (a - middle), b = camera.zoom * (b - middle);
    }
    picture_->bind();
    picture_->setUniformValue("place", QVector4D(static_cast<float>(a.x()), static_cast<float>(a.y()),
                                                 static_cast<float>(b.x()), static_cast<float>(b.y())));
    picture_->setUniformValue("opacity", static_cast<float>(opacity));
    picture_->setUniformValue("image", 0);
    gl_->glDisable(GL_DEPTH_TEST);
    draw_four();
    gl_->glEnable(GL_DEPTH_TEST);
}

void GpuMeshes::draw(const std::vector<Layer>& layers, const Camera& camera, const Backdrop& backdrop,
                     const std::optional<Plane>& cut, const QSize& pixels, bool moving, GLuint target) {
    if (!gl_) return;
    cut_ = cut;
    in_motion_ = moving;
    std::size_t triangles = 0;
    for (const Layer& layer : layers)
        triangles += layer.mesh && layer.opacity > 0.001 ? layer.mesh->indices.size() / 3 : 0;
    const bool smooth = smooth_edges_ && !moving && triangles <= kMostSmoothTriangles;
    if (smooth && (!smooth_ || smooth_->size() != pixels)) {
        QOpenGLFramebufferObjectFormat format;
        format.setSamples(4);
        format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
        smooth_ = std::make_unique<QOpenGLFramebufferObject>(pixels, format);
    }
    gl_->glBindFramebuffer(GL_FRAMEBUFFER, smooth ? smooth_->handle() : target);
    gl_->glViewport(0, 0, pixels.width(), pixels.height());
    gl_->glClearColor(0.163f, 0.150f, 0.137f, 1);
    gl_->glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
    gl_->glEnable(GL_DEPTH_TEST);
    gl_->glDisable(GL_CULL_FACE);
    draw_picture(backdrop, camera, pixels, backdrop.behind);
    for (const Layer& layer : layers) {
        if (layer.mesh && layer.opacity > 0.001) draw_layer(layer, camera, pixels);
    }
    // after what stands on it; of several the first
    for (const Layer& layer : layers) {
        if (!layer.mesh || layer.mesh->ground.empty()) continue;
        draw_ground(layer, camera, static_cast<double>(pixels.width()) / std::max(pixels.height(), 1));
        break;
    }
    draw_picture(backdrop, camera, pixels, backdrop.over);
    if (smooth) {
        gl_->glBindFramebuffer(GL_READ_FRAMEBUFFER, smooth_->handle());
        gl_->glBindFramebuffer(GL_DRAW_FRAMEBUFFER, target);
        gl_->glBlitFramebuffer(0, 0, pixels.width(), pixels.height(), 0, 0, pixels.width(), pixels.height(),
                               GL_COLOR_BUFFER_BIT, GL_NEAREST);
        gl_->glBindFramebuffer(GL_FRAMEBUFFER, target);
    }
    gl_->glDisable(GL_DEPTH_TEST);
    gl_->glUseProgram(0);
}

}  // namespace veld
