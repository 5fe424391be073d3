#version 330
// Cut faces filled with poché, even and unlit, as in a drawing; what stands before a wall cut hides them.
#include bounds.glsl
in vec2 v_at;
uniform sampler2D u_count;
uniform usampler2D u_surface;
uniform vec3 u_eye;
uniform vec3 u_corner;
uniform vec3 u_across;
uniform vec3 u_high;
uniform vec3 u_cap;
out vec4 out_light;
void main() {
    ivec2 at = ivec2(gl_FragCoord.xy);
    if (texelFetch(u_count, at, 0).r < 0.5) discard;
    // A ray of unit depth: the share of it is the depth in metres.
    vec3 ray = u_corner + u_across * v_at.x + u_high * v_at.y;
    float seen = uintBitsToFloat(texelFetch(u_surface, at, 0).x);
    if (seen > 0.0 && seen < sight_begins(u_eye + ray, 1.0, u_eye) - 1e-3) discard;
    out_light = vec4(u_cap, 1.0);
}
