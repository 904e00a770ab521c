#include "app/views/gpu_meshes.h"

#include <QOpenGLContext>
#include <QOpenGLVersionFunctionsFactory>
#include <cstddef>

namespace veld {
namespace {

constexpr std::size_t kMostSmoothTriangles = 500'000;

const char* kSurfaceVertex = R"(#version 330 core
layout(location=0) in vec3 position; layout(location=1) in vec3 normal; layout(location=2) in vec2 uv; layout(location=3) in vec4 colour; layout(location=4) in vec3 mark;
uniform mat4 view, projection;
out vec3 eye_normal, eye_position; out vec2 place; out vec3 marked; out vec4 tint;
void main() {
    vec4 p = view * vec4(position, 1);
    eye_position = p.xyz; eye_normal = mat3(view) * normal; place = uv; tint = colour; marked = mark;
    gl_Position = projection * p;
})";

// Light is reckoned linearly. What lies closed in (marked.z, baked) gets little from all around and less from the
// lamps, so that nostrils, mouth, lids and ears read dark; a shine there would tell of a light that cannot get in.
const char* kSurfaceFragment = R"(#version 330 core
in vec3 eye_normal, eye_position; in vec2 place; in vec3 marked; in vec4 tint;
uniform sampler2D image; uniform vec3 clay; uniform int shading; uniform float opacity; uniform bool orthographic;
uniform vec3 key, key_colour, fill, fill_colour, ambient, rim; uniform float wrap, gloss, hollows; uniform bool flat_light;
uniform vec4 cut;
out vec4 result;
// sRGB and back by a cubic and by roots, within half a step of eight bits: powers are dear without a graphics card
vec3 linear(vec3 c) { return c * (c * (c * 0.305306011 + 0.682171111) + 0.012522878); }
vec3 shown(vec3 c) {
    vec3 a = sqrt(c), b = sqrt(a);
    return clamp(0.662002687 * a + 0.684122060 * b - 0.323583601 * sqrt(b) - 0.0225411470 * c, 0.0, 1.0);
}
void main() {
    if (dot(cut.xyz, eye_position) > cut.w) discard;
    vec3 n = normalize(eye_normal);
    vec3 to_eye = orthographic ? vec3(0, 0, 1) : normalize(-eye_position);
    bool inside = dot(n, to_eye) < 0.0 && !gl_FrontFacing;
    if (inside) n = -n;
    bool skin = shading == 1 || shading == 4;
    vec3 base = shading == 1 || shading == 2 ? texture(image, place).rgb : shading >= 3 ? tint.rgb : clay;
    // selected: ochre; ignored: grey with slanting stripes, so that it is told without colour too
    if (marked.y > 0.5) {
        base = vec3(0.30, 0.29, 0.28);
        if (mod(gl_FragCoord.x + gl_FragCoord.y, 9.0) < 3.0) base = vec3(0.52, 0.50, 0.47);
    }
    if (marked.x > 0.5) base = mix(base, vec3(0.86, 0.58, 0.16), 0.66);
    if (inside) base *= 0.45;
    if (shading == 2) { result = vec4(base, opacity); return; }
    if (flat_light) { result = vec4(vec3(0.055, 0.05, 0.046), opacity); return; }
    base = linear(base);
    float open = inside ? 0.4 : mix(1.0, marked.z, hollows), lamp = mix(open * open, 1.0, 0.15);
    float towards = dot(n, key), lit = clamp((towards + wrap) / (1.0 + wrap), 0.0, 1.0);
    vec3 light = ambient * open * (0.75 + 0.25 * n.y) + key_colour * lit * mix(lit, 1.0, 0.35) * lamp +
                 fill_colour * max(dot(n, fill), 0.0) * lamp;
    // where skin turns into the shadow, light that went through it comes out red
    if (skin) light += vec3(0.085, 0.022, 0.010) * smoothstep(-wrap - 0.1, 0.1, towards) * (1.0 - smoothstep(0.1, 0.55, towards)) * lamp;
    float grazing = 1.0 - max(dot(n, to_eye), 0.0);
    float outline = grazing * grazing * grazing;
    vec3 c = base * light + rim * outline * open * mix(base, vec3(1.0), 0.4);
    float half_way = max(dot(n, normalize(key + to_eye)), 0.0);
    float shine = half_way * half_way;
    shine *= shine, shine *= shine, shine *= shine;  // to the 16th
    if (shading == 0) c += key_colour * gloss * shine * lamp * lamp * 0.35;
    if (skin) c += key_colour * (0.045 * shine + 0.02 * outline * grazing) * lamp * lamp;
    result = vec4(shown(c), opacity);
})";

const char* kWireVertex = R"(#version 330 core
layout(location=0) in vec3 position;
uniform mat4 view, projection;
out vec3 eye_position;
void main() { eye_position = (view * vec4(position, 1)).xyz; gl_Position = projection * vec4(eye_position, 1); gl_Position.z -= 2e-4 * gl_Position.w; })";

const char* kWireFragment = R"(#version 330 core
in vec3 eye_position;
uniform vec4 line, cut; out vec4 result; void main() { if (dot(cut.xyz, eye_position) > cut.w) discard; result = line; })";

constexpr const char* kPictureVertex = R"(#version 330 core
uniform vec4 place;   // left, top, right, bottom in clip space
out vec2 at;
void main() {
    vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
    at = corner;
    gl_Position = vec4(mix(place.xy, place.zw, corner), 0.0, 1.0);
})";
constexpr const char* kPictureFragment = R"(#version 330 core
uniform sampler2D image;
uniform float opacity;
in vec2 at;
out vec4 colour;
void main() { colour = vec4(texture(image, at).rgb, opacity); })";

std::unique_ptr<QOpenGLShaderProgram> program(const char* vertex, const char* fragment, QString& why) {
    auto out = std::make_unique<QOpenGLShaderProgram>();
    const bool ok = out->addShaderFromSourceCode(QOpenGLShader::Vertex, vertex) &&
                    out->addShaderFromSourceCode(QOpenGLShader::Fragment, fragment) && out->link();
    if (!ok) why = out->log();
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
    surface_ = program(kSurfaceVertex, kSurfaceFragment, why_);
    wire_ = program(kWireVertex, kWireFragment, why_);
    picture_ = program(kPictureVertex, kPictureFragment, why_);
    return why_.isEmpty();
}

void GpuMeshes::free(Buffers& b) {
    gl_->glDeleteBuffers(1, &b.vertices);
    gl_->glDeleteBuffers(1, &b.indices);
    gl_->glDeleteBuffers(1, &b.stand_in);
    gl_->glDeleteBuffers(1, &b.edges);
    gl_->glDeleteVertexArrays(1, &b.array);
    if (!b.textures.empty()) gl_->glDeleteTextures(static_cast<int>(b.textures.size()), b.textures.data());
}

void GpuMeshes::release() {
    if (!gl_) return;
    for (auto& [mesh, b] : buffers_) free(b);
    buffers_.clear();
    smooth_.reset();
    surface_.reset();
    wire_.reset();
    picture_.reset();
    if (picture_texture_) gl_->glDeleteTextures(1, &picture_texture_);
    if (picture_array_) gl_->glDeleteVertexArrays(1, &picture_array_);
    picture_texture_ = picture_array_ = 0;
}

void GpuMeshes::upload_pictures(const DisplayMesh& mesh, Buffers& b) {
    if (b.images_revision == mesh.images_revision) return;
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
    attribute(4, 3, GL_UNSIGNED_BYTE, GL_TRUE, offsetof(V, mark));
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
        surface_->setUniformValue("shading", mode);
        surface_->setUniformValue("clay", QVector3D(clay.redF(), clay.greenF(), clay.blueF()));
        const std::size_t first = reduced ? range.stand_in_first : range.first,
                          count = reduced ? range.stand_in_count : range.count;
        gl_->glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(count), GL_UNSIGNED_INT,
                            reinterpret_cast<const void*>(first * sizeof(Index)));
    }
}

void GpuMeshes::set_lights() {
    surface_->setUniformValue("key", lights_.key);
    surface_->setUniformValue("key_colour", lights_.key_colour);
    surface_->setUniformValue("fill", lights_.fill);
    surface_->setUniformValue("fill_colour", lights_.fill_colour);
    surface_->setUniformValue("ambient", lights_.ambient);
    surface_->setUniformValue("rim", lights_.rim);
    surface_->setUniformValue("wrap", lights_.wrap);
    surface_->setUniformValue("gloss", lights_.gloss);
    surface_->setUniformValue("hollows", lights_.hollows);
    surface_->setUniformValue("flat_light", lights_.flat);
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
    QMatrix4x4 model;
    for (int r = 0; r < 3; ++r) {
        for (int c = 0; c < 3; ++c) model(r, c) = static_cast<float>(layer.model.scale * layer.model.rotation(r, c));
        model(r, 3) = static_cast<float>(layer.model.translation[r]);
    }
    const QMatrix4x4 view = camera.view() * model, projection = camera.projection(aspect);
    const bool glassy = layer.opacity < 0.999;
    surface_->bind();
    surface_->setUniformValue("view", view);
    surface_->setUniformValue("projection", projection);
    surface_->setUniformValue("opacity", static_cast<float>(layer.opacity));
    surface_->setUniformValue("orthographic", camera.parallel());
    surface_->setUniformValue("image", 0);
    set_lights();
    set_cut(*surface_, camera);
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
    gl_->glEnable(GL_BLEND);
    gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE);
    gl_->glBindVertexArray(picture_array_);
    gl_->glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
    gl_->glBindVertexArray(0);
    gl_->glDisable(GL_BLEND);
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
