#pragma once
// What runs on the graphics card: surfaces, their wire, pictures, the ground.

namespace veld::shaders {

inline constexpr const char* kSurfaceVertex = R"(#version 330 core
layout(location=0) in vec3 position; layout(location=1) in vec3 normal; layout(location=2) in vec2 uv; layout(location=3) in vec4 colour; layout(location=4) in vec4 mark; layout(location=5) in vec2 strand;
uniform mat4 view, projection;
out vec3 eye_normal, eye_position; out vec2 place, lash; out vec4 marked, tint;
void main() {
    vec4 p = view * vec4(position, 1);
    eye_position = p.xyz; eye_normal = mat3(view) * normal; place = uv; lash = strand; tint = colour; marked = mark;
    gl_Position = projection * p;
})";

// Light is reckoned linearly. What lies closed in (marked.z, baked) gets little from all around and less from the
// lamps, so that nostrils, mouth, lids and ears read dark; a shine there would tell of a light that cannot get in.
inline constexpr const char* kSurfaceFragment = R"(#version 330 core
in vec3 eye_normal, eye_position; in vec2 place, lash; in vec4 marked, tint;
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
// Hairs of a lash: strips that taper towards the tip, bent and of lengths that differ. Too small to be told apart,
// they are a strip that frays.
bool between_hairs() {
    float at = lash.x * 64.0, step = fwidth(at);
    at += 1.6 * lash.y * (lash.x - 0.5);
    float hair = floor(at), chance = fract(sin(hair * 12.9898) * 43758.5453);
    if (lash.y > 0.62 + 0.38 * chance) return true;
    if (step > 0.6) return lash.y > 0.75;
    float middle = 0.5 + 0.35 * (chance - 0.5) * lash.y;
    return abs(at - hair - middle) > mix(0.55, 0.10, sqrt(lash.y));
}
#ifdef RELIEF
uniform sampler2D bumps;
// A tangent-space normal by the directions in which position and UV change on the screen [Schueler 2006, Normal
// Mapping Without Precomputed Tangents].
vec3 bumped(vec3 n) {
    vec3 along_x = dFdx(eye_position), along_y = dFdy(eye_position);
    vec2 uv_x = dFdx(place), uv_y = dFdy(place);
    vec3 across_y = cross(along_y, n), across_x = cross(n, along_x);
    vec3 u = across_y * uv_x.x + across_x * uv_y.x, v = across_y * uv_x.y + across_x * uv_y.y;
    float longest = max(dot(u, u), dot(v, v));
    if (longest <= 0.0) return n;
    vec3 m = texture(bumps, place).xyz * 2.0 - 1.0;
    if (m.z <= 0.0) return n;  // no map there
    return normalize(mat3(u * inversesqrt(longest), v * inversesqrt(longest), n) * m);
}
#else
vec3 bumped(vec3 n) { return n; }
#endif
void main() {
    if (dot(cut.xyz, eye_position) > cut.w) discard;
    if (marked.w > 0.1 && marked.w < 0.9) {
        if (marked.w > 0.4 ? between_hairs() : (shading == 1 || shading == 2) && texture(image, place).a < 0.5) discard;
    }
    vec3 n = bumped(normalize(eye_normal));
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
    // an eye is wet: the lamp stands in it as a small, hard light, and its rim mirrors what is around
    if (marked.w > 0.9 && shading != 3) {
        float glint = smoothstep(0.9915, 0.9965, half_way);
        c += (key_colour * (1.2 * glint + 0.05 * shine) + 0.25 * ambient * outline) * mix(0.25, 1.0, open);
    }
    result = vec4(shown(c), opacity);
})";

// The ground around a figure: a disc that fades into the background, dark where the figure stands.
inline constexpr const char* kGroundVertex = R"(#version 330 core
uniform mat4 view, projection; uniform vec4 extent; uniform float height;  // left, back, right, front
out vec2 at;
void main() {
    vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
    at = corner;
    vec2 p = mix(extent.xy, extent.zw, corner);
    gl_Position = projection * view * vec4(p.x, height, p.y, 1.0);
})";

inline constexpr const char* kGroundFragment = R"(#version 330 core
in vec2 at; uniform sampler2D image; uniform vec3 floor_colour; out vec4 result;
void main() {
    float open = texture(image, at).r, r = length(2.0 * at - 1.0), fade = 1.0 - smoothstep(0.35, 1.0, r);
    result = vec4(floor_colour * open * open, fade * mix(1.0, 0.55, open));
})";

inline constexpr const char* kWireVertex = R"(#version 330 core
layout(location=0) in vec3 position;
uniform mat4 view, projection;
out vec3 eye_position;
void main() { eye_position = (view * vec4(position, 1)).xyz; gl_Position = projection * vec4(eye_position, 1); gl_Position.z -= 2e-4 * gl_Position.w; })";

inline constexpr const char* kWireFragment = R"(#version 330 core
in vec3 eye_position;
uniform vec4 line, cut; out vec4 result; void main() { if (dot(cut.xyz, eye_position) > cut.w) discard; result = line; })";

inline constexpr const char* kPictureVertex = R"(#version 330 core
uniform vec4 place;   // left, top, right, bottom in clip space
out vec2 at;
void main() {
    vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
    at = corner;
    gl_Position = vec4(mix(place.xy, place.zw, corner), 0.0, 1.0);
})";
inline constexpr const char* kPictureFragment = R"(#version 330 core
uniform sampler2D image;
uniform float opacity;
in vec2 at;
out vec4 colour;
void main() { colour = vec4(texture(image, at).rgb, opacity); })";

}  // namespace veld::shaders
