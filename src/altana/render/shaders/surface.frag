#version 330
#extension GL_ARB_shading_language_packing : require
// What each pixel shows, packed into one texel: depth, direction, soft light, colour and roughness.
// Lighting comes afterwards, once for every pixel, whatever lies behind.
#include bounds.glsl
#ifdef HOLES
#include holes.glsl
#else
uniform int u_phase;
#endif
#ifdef PAINTED
in vec4 v_paint;
#endif
in vec3 v_world;
in vec3 v_normal;
in vec2 v_uv;
in vec2 v_light;
in float v_depth;
flat in vec4 v_colour;
flat in vec4 v_surface;
flat in vec4 v_glow;
uniform vec3 u_eye;
#include pictures.glsl
uniform float u_level_bias;
uniform sampler2D u_light_map;
uniform float u_light_known;
#ifdef BEFORE
uniform vec4 u_before;   // only what lies before this plane is drawn
#endif
layout(location = 0) out uvec4 out_surface;

// Light in one texel: a shared exponent and nine bits a colour.  Its steps are dithered, for a wall is a long gradient.
uint packed_light(vec3 light) {
    vec3 scaled = clamp(light * 0.25, 0.0, 65408.0);
    float most = max(max(scaled.r, max(scaled.g, scaled.b)), 1e-4);
    float power = clamp(floor(log2(most)) + 1.0, -15.0, 16.0);
    vec2 cell = gl_FragCoord.xy + vec2(u_phase, u_phase * 7);
    float dither = fract(52.9829189 * fract(dot(cell, vec2(0.06711056, 0.00583715))));
    vec3 steps = min(floor(scaled * exp2(9.0 - power) + dither), 511.0);
    return uint(steps.r) | (uint(steps.g) << 9) | (uint(steps.b) << 18) | (uint(power + 15.0) << 27);
}

void main() {
#ifdef FAINT
    // One sample in four is drawn; the pattern moves with each pass, so that the mean is a faint, even veil.
    ivec2 cell = ivec2(gl_FragCoord.xy) + ivec2(u_phase, u_phase / 2);
    if (((cell.x & 1) | ((cell.y & 1) << 1)) != 0) discard;
#endif
#ifdef BEFORE
    if (dot(v_world, u_before.xyz) < u_before.w) discard;
#endif
#ifdef BOUNDS
    if (cut_away(v_world, v_depth, u_eye)) discard;
#endif
    vec3 normal = dot(v_normal, u_eye - v_world) < 0.0 ? -v_normal : v_normal;
    vec3 root = v_colour.rgb;
#ifdef PICTURED
    vec4 shown = picture(v_uv, v_surface.x, u_level_bias);
#ifdef HOLES
    if (hole(shown.a * v_colour.a, v_surface.w)) discard;
#endif
    root *= shown.rgb;
#endif
#ifdef PAINTED
    root *= v_paint.rgb;
#endif
    normal /= abs(normal.x) + abs(normal.y) + abs(normal.z);
    vec2 folded = normal.z >= 0.0 ? normal.xy : (1.0 - abs(normal.yx)) * vec2(normal.x >= 0.0 ? 1.0 : -1.0, normal.y >= 0.0 ? 1.0 : -1.0);
    // Two bits say plain, metal, water or glowing; six how rough it is, or how strongly it glows.
    uint kind = v_surface.z > 1.5 ? 2u : v_glow.a > 0.5 ? 1u : 0u;
    float value = clamp(v_surface.y, 0.0, 1.0);
    float glow = max(v_glow.r, max(v_glow.g, v_glow.b));
    if (glow > 0.02) {
        kind = 3u;
        root = sqrt(v_glow.rgb / glow) * (v_surface.x >= 0.0 ? root : vec3(1.0));
        value = clamp(log2(glow) / 16.0 + 0.5, 0.0, 1.0);
    }
    uint finish = (kind << 6) | uint(value * 63.0 + 0.5);
    uint colour = packUnorm4x8(vec4(root, 0.0)) | (finish << 24);
    // Each side of a surface has its own light, in a half of the map of its own.
    vec2 lit = v_light + vec2(0.0, gl_FrontFacing ? 0.0 : 0.5);
    uint light = u_light_known > 0.5 ? packed_light(texture(u_light_map, lit).rgb) : 0u;
    out_surface = uvec4(floatBitsToUint(v_depth), packSnorm2x16(folded), light, colour);
}
