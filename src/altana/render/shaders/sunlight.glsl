// How much of the sun's light comes to a place: past what casts shadow, and through panes.
uniform sampler2DShadow u_shadow_near;
uniform sampler2DShadow u_shadow_far;
uniform mat4 u_to_shadow_near;
uniform mat4 u_to_shadow_far;
uniform sampler2DShadow u_shadow_seen;   // round what the view shows; the far one again where that holds it
uniform mat4 u_to_shadow_seen;
uniform vec3 u_shadow_texel;   // size of one texel in metres: near, far, seen
uniform float u_shadow_step;   // one texel as a share of the map
uniform int u_taps;
#ifdef PANES
// What panes let through of the sun: round the eye, round the building, round what is seen (through.frag).
uniform sampler2D u_panes_near;
uniform sampler2D u_panes_far;
uniform sampler2D u_panes_seen;
uniform mat4 u_to_panes_near;
uniform mat4 u_to_panes_far;
uniform mat4 u_to_panes_seen;
uniform vec3 u_panes_deep;     // how deep the maps reach, metres
uniform vec2 u_panes_shift;    // how far this pass looks beside a place, pixels of the maps: half-shadows, and edges without steps
#endif
// What lies nearer to a pane than this, metres, is the pane's own.
const float NEARER_PANE = 0.01;
// How far the next pixel of a map lies on a surface, how far from there at most what stands close by, and how much higher that pixel is lifted, in pixels.
const float NEXT_PIXEL = 2.5, CLOSE_BY = 7.0, LIFTED = 1.5;

float compare(sampler2DShadow map, vec3 at) {
    if (u_taps == 1) return texture(map, at);
    vec2 s = vec2(0.7, 0.7) * u_shadow_step;
    if (u_taps == 2) return 0.5 * (texture(map, at + vec3(s, 0.0)) + texture(map, at - vec3(s, 0.0)));
    return 0.25 * (texture(map, at + vec3(-s.x, -s.y, 0.0)) + texture(map, at + vec3(s.x, -s.y, 0.0))
                 + texture(map, at + vec3(-s.x, s.y, 0.0)) + texture(map, at + vec3(s.x, s.y, 0.0)));
}

// Where a place lies in a map: x, y and depth from 0 to 1.
vec3 in_map(mat4 to_map, vec3 world) { return (to_map * vec4(world, 1.0)).xyz * vec3(0.5, 0.5, 1.0) + vec3(0.5, 0.5, 0.0); }

bool within(vec3 at) { return all(lessThan(abs(at - 0.5), vec3(0.495, 0.495, 0.5))); }

#ifdef PANES
// What a pixel of a map lets through to a place that lies ``own`` metres behind the map's middle.
vec3 let_through(sampler2D map, ivec2 pixel, float own) {
    vec4 held = texelFetch(map, clamp(pixel, ivec2(0), textureSize(map, 0) - 1), 0);
    return held.a < own - NEARER_PANE * (1.0 + 0.1 * abs(held.a)) ? held.rgb : vec3(1.0);
}

// What the panes between a place and the sun let through.
vec3 through_panes(sampler2D map, mat4 to_map, float deep, vec3 world) {
    vec3 at = in_map(to_map, world);
    float own = (at.z - 0.5) * deep;
    vec2 size = vec2(textureSize(map, 0)), place = at.xy * size - 0.5 + u_panes_shift;
    ivec2 low = ivec2(floor(place));
    vec2 part = place - floor(place);
    // Each of the four pixels says for itself whether its pane lies before the place: where it lies cannot be mixed with where none lies.
    vec3 below = mix(let_through(map, low, own), let_through(map, low + ivec2(1, 0), own), part.x);
    vec3 above = mix(let_through(map, low + ivec2(0, 1), own), let_through(map, low + ivec2(1, 1), own), part.x);
    return mix(below, above, part.y);
}
#endif

// What comes of the sun to a place that the shadow maps give a share of it, behind panes: near, far, seen.
vec3 behind_panes(int which, float share, vec3 world) {
#ifdef PANES
    if (share <= 0.0) return vec3(0.0);
    if (which == 0) return share * through_panes(u_panes_near, u_to_panes_near, u_panes_deep.x, world);
    if (which == 1) return share * through_panes(u_panes_far, u_to_panes_far, u_panes_deep.y, world);
    return share * through_panes(u_panes_seen, u_to_panes_seen, u_panes_deep.z, world);
#else
    return vec3(share);
#endif
}

// What a map has of the sun at a place in it.  In a room a place at the foot of a wall as thin as a sheet may share its pixel with the sunlit ground
// beyond the wall: where the next pixel of its surface away from the sun lies in the shade of what stands close to it, it does, too.
float lit(sampler2DShadow map, mat4 to_map, vec3 at, vec3 away, vec3 close) {
    float share = compare(map, at);
    if (close == vec3(0.0) || share <= 0.0) return share;
    vec3 next = at + mat3(to_map) * away * vec3(0.5, 0.5, 1.0);
    return min(share, max(compare(map, next), 1.0 - compare(map, next + mat3(to_map) * close * vec3(0.5, 0.5, 1.0))));
}

vec3 sunlight(vec3 world, vec3 normal, float facing, bool within_room) {
    // A place is lifted off its surface as far as the depths beside it in the map differ, and no farther: shadows end where they should.
    float aslant = sqrt(max(1.0 - facing * facing, 0.0)), slant = 0.15 + 1.15 * aslant;
    // Lifted once more: on ground that the sun only grazes nothing but what stands there is to shade it.
    vec3 away = (normal * facing - u_sun) * (NEXT_PIXEL / max(aslant, 0.2)) + normal * LIFTED;
    vec3 close = within_room ? u_sun * (CLOSE_BY / max(aslant, 0.2)) : vec3(0.0);
    vec3 at = in_map(u_to_shadow_near, world + normal * (u_shadow_texel.x * slant + 0.003));
    if (within(at)) return behind_panes(0, lit(u_shadow_near, u_to_shadow_near, at, away * u_shadow_texel.x, close * u_shadow_texel.x), world);
    at = in_map(u_to_shadow_far, world + normal * (u_shadow_texel.y * slant + 0.006));
    if (within(at)) return behind_panes(1, lit(u_shadow_far, u_to_shadow_far, at, away * u_shadow_texel.y, close * u_shadow_texel.y), world);
#ifdef SEEN
    at = in_map(u_to_shadow_seen, world + normal * (u_shadow_texel.z * slant + 0.006));
    if (within(at)) return behind_panes(2, lit(u_shadow_seen, u_to_shadow_seen, at, away * u_shadow_texel.z, close * u_shadow_texel.z), world);
#endif
    return vec3(1.0);
}

// What a surface mirrors towards the eye of the light of a sun that stands there (B. Walter and others, "Microfacet models for refraction", 2007),
// as a share of the light that Fresnel's formula gives it.  lobe : the roughness squared; the sun is a disc, so that it is never a point.
float sun_mirrored(vec3 normal, vec3 to_eye, vec3 sun, float lobe) {
    vec3 half_way = normalize(to_eye + sun);
    float a2 = max(lobe * lobe, 0.002);
    float h = max(dot(normal, half_way), 0.0), l = max(dot(normal, sun), 1e-3), v = max(dot(normal, to_eye), 1e-3);
    float spread = h * h * (a2 - 1.0) + 1.0;
    float hidden = (l + sqrt(a2 + (1.0 - a2) * l * l)) * (v + sqrt(a2 + (1.0 - a2) * v * v));
    return a2 / (3.14159265 * spread * spread) / hidden;
}
