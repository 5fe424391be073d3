#version 330
// Clear glass: a little tint, and the sky mirrored more the flatter one looks along it.
#include sky.glsl
#include bounds.glsl
#include rooms.glsl
#include flat.glsl
#include glass.glsl
in vec3 v_world;
in vec3 v_normal;
in vec2 v_uv;
in vec2 v_light;
in float v_depth;
flat in vec4 v_colour;
flat in vec4 v_surface;
flat in uint v_object;
uniform vec3 u_eye;
uniform sampler2D u_light_map;
uniform float u_light_known;
uniform float u_estimate;
#ifdef BEFORE
uniform vec4 u_before;   // only what lies before this plane is drawn
#endif
layout(location = 0, index = 0) out vec4 out_light;
layout(location = 0, index = 1) out vec4 out_through;   // how much of what lies behind comes through, by colour

void main() {
    if (cut_away(v_world, v_depth, u_eye)) discard;
#ifdef BEFORE
    if (dot(v_world, u_before.xyz) < u_before.w) discard;
#endif
    vec3 to_eye = normalize(u_eye - v_world);
    vec3 normal = normalize(v_normal);
    if (dot(normal, to_eye) < 0.0) normal = -normal;
    Pane pane = pane_of(v_colour, v_surface.y, dot(normal, to_eye));
    vec3 mirror = reflect(-to_eye, normal);
    bool front = gl_FrontFacing;
    vec2 across = vec2(0.0, 0.5);
    vec3 around = vec3(u_sky_scale * 2.0 * u_estimate), beyond = around;
    if (u_light_known > 0.5) {
        around = texture(u_light_map, v_light + (front ? vec2(0.0) : across)).rgb;
        beyond = texture(u_light_map, v_light + (front ? across : vec2(0.0))).rgb;
    }
    float open = clamp(dot(around, vec3(0.33)) / (u_sky_scale * 1.8), 0.0, 1.0);
    // A pane mirrors what is there: outdoors sky and ground, indoors the room, about as bright as its walls.
    vec3 seen = mix(around * (0.5 / 3.14159265), sky_mirrored(mirror), open * open);
#ifdef ROOMS
    int room = room_before(v_world, normal);
    if (room >= 0) seen = room_mirrored(room, v_world, normal, mirror, 0.0, around);
#endif
#ifdef FLATS
    vec4 shown = flat_mirrored(v_world, normal);
    seen = mix(seen, shown.rgb, shown.a);
#endif
    vec3 body = pane.colour * around / 3.14159265 * (1.0 - pane.cover) * pane.solid * pane.solid;
    // Frosted glass shows no picture of what lies behind, only how light it is there; of two faces each lets half of it through.
    vec3 scattered = pane.colour * (0.85 * beyond + 0.07 * around) / 3.14159265;
    out_light = vec4((seen * pane.cover + body) * (1.0 - pane.frosted) + scattered * pane.frosted, 1.0 - pane.clear);
    out_through = vec4(pane.tint * pane.clear, pane.clear);
}
