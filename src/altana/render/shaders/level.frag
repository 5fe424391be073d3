#version 330
#extension GL_ARB_shading_language_packing : require
// Where a picture shows the level surface that mirrors.
in vec2 v_at;
uniform usampler2D u_surface;
uniform float u_eye_high;      // how high the eye stands above that surface
uniform vec3 u_corner;
uniform vec3 u_across;
uniform vec3 u_high;
out float out_level;
void main() {
    uvec4 texel = texelFetch(u_surface, ivec2(gl_FragCoord.xy), 0);
    float depth = uintBitsToFloat(texel.x);
    vec2 folded = unpackSnorm2x16(texel.y);
    float high = u_eye_high + (u_corner + u_across * v_at.x + u_high * v_at.y).z * depth;
    out_level = depth > 0.0 && abs(high) < 0.012 && 1.0 - abs(folded.x) - abs(folded.y) > 0.98 ? 1.0 : 0.0;
}
