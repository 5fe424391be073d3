#version 330
// Depths of pictures with holes, along the sun's rays.
#include holes.glsl
#include pictures.glsl
in vec2 v_uv;
flat in vec4 v_colour;
flat in vec4 v_surface;
void main() {
    if (hole(picture(v_uv, v_surface.x, 0.0).a * v_colour.a, max(v_surface.w, 0.0) > 0.0 ? v_surface.w : 0.5)) discard;
}
