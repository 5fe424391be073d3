#version 330
in vec3 in_position;
uniform mat4 u_clip;
#ifdef MOVED
uniform mat4 u_move;
void main() { gl_Position = u_clip * (u_move * vec4(in_position, 1.0)); }
#else
void main() { gl_Position = u_clip * vec4(in_position, 1.0); }
#endif
