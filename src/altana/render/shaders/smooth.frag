#version 330
// One pass only: soften stairs along edges by mixing across them.
uniform sampler2D u_picture;
out vec4 out_colour;

float brightness(vec3 c) { return dot(c, vec3(0.299, 0.587, 0.114)); }

void main() {
    ivec2 at = ivec2(gl_FragCoord.xy), last = textureSize(u_picture, 0) - 1;
    vec3 c = texelFetch(u_picture, at, 0).rgb;
    vec3 n = texelFetch(u_picture, min(at + ivec2(0, 1), last), 0).rgb, s = texelFetch(u_picture, max(at - ivec2(0, 1), ivec2(0)), 0).rgb;
    vec3 e = texelFetch(u_picture, min(at + ivec2(1, 0), last), 0).rgb, w = texelFetch(u_picture, max(at - ivec2(1, 0), ivec2(0)), 0).rgb;
    float bn = brightness(n), bs = brightness(s), be = brightness(e), bw = brightness(w), b = brightness(c);
    float contrast = max(b, max(max(bn, bs), max(be, bw))) - min(b, min(min(bn, bs), min(be, bw)));
    if (contrast > 0.05) {
        bool flat_edge = abs(bn + bs - 2.0 * b) >= abs(be + bw - 2.0 * b);
        vec3 one = flat_edge ? (abs(bn - b) > abs(bs - b) ? n : s) : (abs(be - b) > abs(bw - b) ? e : w);
        float share = clamp(abs((bn + bs + be + bw) * 0.25 - b) / contrast, 0.0, 1.0);
        c = mix(c, one, min(0.55, share * share * 0.9 + share * 0.15));
    }
    out_colour = vec4(c, 1.0);
}
