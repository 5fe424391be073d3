#version 330
// Lays a picture onto a larger one, from a row on; several of them make a mean.
uniform sampler2D u_light;
uniform int u_low;
uniform float u_share;
out vec4 out_light;
void main() { out_light = texelFetch(u_light, ivec2(gl_FragCoord.xy) - ivec2(0, u_low), 0) * u_share; }
