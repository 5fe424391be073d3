#version 330
// Surfaces along each line of sight, from where it begins: left by the back +1, entered by the front -1.
// What is left over says in how many bodies it begins (core/checks/cut_faces.py).
#include bounds.glsl
in vec3 v_world;
in float v_depth;
uniform vec3 u_eye;
uniform float u_sense;
// The body's box: where sight begins outside it, it begins outside the body, even if that is not quite closed.
uniform vec3 u_low;
uniform vec3 u_high;
out float out_count;
void main() {
    if (cut_away(v_world, v_depth, u_eye)) discard;
    vec3 begin = u_eye + (v_world - u_eye) * sight_begins(v_world, v_depth, u_eye);
    if (any(lessThan(begin, u_low)) || any(greaterThan(begin, u_high))) discard;
    out_count = gl_FrontFacing ? -u_sense : u_sense;
}
