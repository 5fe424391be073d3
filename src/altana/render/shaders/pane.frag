#version 330
// Where a pane lies before what is seen.
#include bounds.glsl
in vec3 v_world;
in float v_depth;
uniform vec3 u_eye;
out float out_pane;
void main() {
    if (cut_away(v_world, v_depth, u_eye)) discard;
    out_pane = 1.0;
}
