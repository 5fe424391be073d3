#version 330
in vec3 in_position;
uniform mat4 u_clip;
void main() { gl_Position = u_clip * vec4(in_position, 1.0); }
