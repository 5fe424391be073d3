#version 330
// What one face of a pane lets through of the sun's light, by colour, and where it lies along the sun's rays.
#include glass.glsl
in vec3 v_world;
in vec3 v_normal;
in float v_depth;
flat in vec4 v_colour;
flat in vec4 v_surface;
uniform vec3 u_forward;
layout(location = 0) out vec4 out_through;   // multiplied into what the other panes let through; the nearest place is kept

void main() {
    Pane pane = pane_of(v_colour, v_surface.y, abs(dot(normalize(v_normal), u_forward)));
    out_through = vec4(pane.tint * pane.clear, v_depth);
}
