#version 330
// Adds one pass to the running mean.  Bright light counts less, so that edges against the sky stay smooth.
uniform sampler2D u_light;
uniform float u_gain;
uniform float u_even;   // 1: light counts by its coverage alone, for pictures without a sky
out vec4 out_sum;
void main() {
    vec4 seen = texelFetch(u_light, ivec2(gl_FragCoord.xy), 0);
    vec3 light = seen.rgb * u_gain;
    light = max(light, vec3(0.0));
    float weight = 1.0 / (1.0 + max(light.r, max(light.g, light.b)));
    out_sum = u_even > 0.5 ? vec4(light, seen.a) : vec4(light * weight, weight);
}
