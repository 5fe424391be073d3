#version 330
in vec3 in_position;
uniform mat4 u_clip;
#ifdef COPIES
in vec4 in_row_x;
in vec4 in_row_y;
in vec4 in_row_z;
#endif
uniform vec3 u_from;   // places are taken from here
#ifdef MOVED
uniform mat4 u_move;
#endif
void main() {
    vec3 world = in_position;
#ifdef COPIES
    vec4 place = vec4(in_position, 1.0);
    world = vec3(dot(in_row_x, place), dot(in_row_y, place), dot(in_row_z, place));
#endif
#ifdef MOVED
    world = (u_move * vec4(world, 1.0)).xyz;
#endif
    gl_Position = u_clip * vec4(world - u_from, 1.0);
#ifdef SPREAD_DEPTH
    gl_Position.z = 2.0 * gl_Position.z - gl_Position.w;
#endif
}
