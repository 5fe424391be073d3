#version 330
// From light to a picture: mean of the passes, tone curve in linear light, sRGB.
in vec2 v_at;
uniform sampler2D u_sum;
uniform float u_gain;   // 0: a sum of passes with its weight; otherwise the light of one pass
out vec4 out_colour;

vec3 toned(ivec2 at) {
    vec4 sum = texelFetch(u_sum, at, 0);
    vec3 x = max(u_gain > 0.0 ? sum.rgb * u_gain : sum.rgb / max(sum.a, 1e-6), vec3(0.0)) * 1.6;
    // Middle tones nearly straight, a long shoulder for what is bright.
    vec3 y = x * (1.0 + x / 200.0) / (1.0 + x * 0.86);
    y = clamp(y, 0.0, 1.0);
    return mix(y * 12.92, 1.055 * pow(max(y, vec3(1e-5)), vec3(1.0 / 2.4)) - 0.055, step(vec3(0.0031308), y));
}

void main() {
    ivec2 at = ivec2(gl_FragCoord.xy);
    // A grain below one step of 8 bits keeps even skies from banding.
    float grain = fract(52.9829189 * fract(dot(vec2(at), vec2(0.06711056, 0.00583715)))) - 0.5;
    out_colour = vec4(toned(at) + grain / 255.0, 1.0);
}
