#version 330
// Evens out the grain of the contact shading without carrying it over edges.
in vec2 v_at;
uniform sampler2D u_open;
uniform usampler2D u_surface;
uniform float u_pixel;   // how wide a pixel is a metre away
out float out_open;
float depth_at(vec2 at) {
    ivec2 size = textureSize(u_surface, 0);
    return uintBitsToFloat(texelFetch(u_surface, clamp(ivec2(at * vec2(size)), ivec2(0), size - 1), 0).x);
}

void main() {
    vec2 texel = 1.0 / vec2(textureSize(u_open, 0));
    float depth = depth_at(v_at);
    float sum = 0.0, total = 0.0;
    for (int i = 0; i < 5; i++) {
        vec2 at = v_at + (i == 4 ? vec2(0.0) : vec2(float(i & 1) * 2.0 - 1.0, float(i >> 1) * 2.0 - 1.0) * 1.2) * texel;
        float other = depth_at(at);
        float weight = abs(other - depth) < 25.0 * u_pixel * depth + 0.02 ? 1.0 : 0.02;
        sum += textureLod(u_open, at, 0.0).r * weight;
        total += weight;
    }
    out_open = sum / total;
}
