#version 330
out vec2 v_at;
void main() {
    v_at = vec2(float((gl_VertexID << 1) & 2), float(gl_VertexID & 2));
    gl_Position = vec4(v_at * 2.0 - 1.0, 1.0, 1.0);
}
