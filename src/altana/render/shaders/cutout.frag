#version 330
// Depths of pictures with holes, along the sun's rays.
#include holes.glsl
in vec2 v_uv;
flat in vec4 v_colour;
flat in vec4 v_surface;
uniform sampler2DArray u_images;
void main() {
    if (hole(texture(u_images, vec3(v_uv, v_surface.x)).a * v_colour.a, max(v_surface.w, 0.0) > 0.0 ? v_surface.w : 0.5)) discard;
}
