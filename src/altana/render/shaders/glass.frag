#version 330
// Clear glass: a little tint, and the sky mirrored more the flatter one looks along it.
#include sky.glsl
#include bounds.glsl
#include rooms.glsl
#include flat.glsl
#ifdef FROSTED
#include sunlight.glsl
#endif
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
// How much of its roughness a pane of index 1.45 has for what comes through it.
const float THROUGH = 0.59;
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
    vec3 glare = vec3(0.0);
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
#ifdef FROSTED
    // The sun shines on one side or the other.
    float facing = dot(normal, u_sun);
    if (pane.frosted > 0.0 && u_sun.z > 0.0) {
        vec3 lit = u_sun_lux * abs(facing) * sunlight(v_world, facing > 0.0 ? normal : -normal, abs(facing), false);
        if (facing > 0.0) around += lit;
        else {
            // From beyond it comes through about straight on, spread as the pane is rough: as if mirrored by a surface that is smoother by as much
            // as light is bent less (as final pictures have it).
            float lobe = THROUGH * v_surface.y;
            glare = lit * sun_mirrored(normal, to_eye, u_sun - 2.0 * facing * normal, lobe * lobe);
        }
    }
#endif
    // Frosted glass shows no picture of what lies behind, only how light it is there: where sky and ground lie free, that way.
    // Much more light than the sky's is of lamps, in a room beyond.
    float share = dot(beyond, vec3(0.33)) / (u_sky_scale * 1.8);
    float free = clamp(min(share, 4.0 - share), 0.0, 1.0);
    vec3 there = mix(beyond / 3.14159265, sky_mirrored(-to_eye), free);
    vec3 scattered = pane.colour * (0.85 * (there + glare) + 0.07 * around / 3.14159265);
    out_light = vec4((seen * pane.cover + body) * (1.0 - pane.frosted) + scattered * pane.frosted, 1.0 - pane.clear);
    out_through = vec4(pane.tint * pane.clear, pane.clear);
}
