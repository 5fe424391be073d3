#version 330
// What is seen where: direction of the surface with its depth, and the numbers of object and material.
#include bounds.glsl
in vec3 v_world;
in vec3 v_normal;
in vec2 v_uv;
in vec2 v_light;
in float v_depth;
flat in vec4 v_colour;
flat in vec4 v_surface;
flat in uint v_object;
flat in uint v_material;
uniform vec3 u_eye;
#ifdef HOLES
#include holes.glsl
#include pictures.glsl
#endif
layout(location = 0) out vec4 out_surface;
layout(location = 1) out uvec2 out_numbers;
void main() {
    if (cut_away(v_world, v_depth, u_eye)) discard;
#ifdef HOLES
    if (hole(picture(v_uv, v_surface.x, 0.0).a * v_colour.a, max(v_surface.w, 0.0) > 0.0 ? v_surface.w : 0.5)) discard;
#endif
    vec3 normal = normalize(v_normal);
    if (dot(normal, u_eye - v_world) < 0.0) normal = -normal;
    out_surface = vec4(normal, v_depth);
    out_numbers = uvec2(v_object, v_material) + 1u;
}
