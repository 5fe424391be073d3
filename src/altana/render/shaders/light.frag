#version 330
#extension GL_ARB_shading_language_packing : require
// Light of what each pixel shows: sun with its shadow, sky and bounces from the light map, mirrored sky on smooth things.
#include sky.glsl
in vec2 v_at;
uniform usampler2D u_surface;
uniform vec3 u_eye;
uniform vec3 u_corner;
uniform vec3 u_across;
uniform vec3 u_high;
uniform vec3 u_air;
uniform float u_ground_at;   // the height on which the haze lies
uniform float u_light_known;
uniform float u_estimate;
uniform sampler2D u_occlusion;
uniform float u_white;       // 1: everything is white card
#ifdef MIRROR
uniform sampler2D u_mirror;     // what a level surface mirrors, upside down
uniform sampler2D u_mirror_near;   // how far that lies behind the surface, as a share of the whole way
uniform float u_mirror_at;      // the height of that surface
uniform float u_mirror_px;      // pixels a radian, and radians as shares of the picture
uniform vec2 u_mirror_step;
uniform vec2 u_mirror_border;   // how far it reaches beyond this tile
#endif
#include sunlight.glsl
#include rooms.glsl
#include flat.glsl
#include pixel_light.glsl
uniform float u_sky_shown;   // 0: nothing where the sky would be, and no coverage there
layout(location = 0) out vec4 out_light;

const float PI = 3.14159265;
// What a surface of one throws by itself, cd/m2: a bright sign.
const float SHINE = 4000.0;
// Air thins to a third by so many metres of height.
const float HAZE_HIGH = 150.0;
// Rougher than this mirrors nothing that could be told (mirrors.py).
const float ROUGHEST = 0.55;
// Rougher than this shows nothing of what is bright beyond it, as polished wood does of a window seen along it.
const float EVENLY = 0.75;
// Rougher than this shows no sharp picture (flat_mirrors.py).
const float SHARPEST = 0.13;
// From the one roughness to the other what is mirrored is taken from the rays of each pixel (pixel_light.py).
const float GATHERED_FROM = 0.3, GATHERED = 0.45;
// How wide a rough surface spreads what lies far behind it, radians for each of its roughness squared.
const float SPREAD = 1.6;

vec3 rippled(vec2 q, float far) {
    float calm = 1.6 / (1.0 + far * 0.035);
    vec2 slope = vec2(0.8, 0.6) * 0.030 * cos(dot(q, vec2(0.8, 0.6)) * 2.1);
    slope += vec2(-0.5, 0.87) * 0.026 * cos(dot(q, vec2(-0.5, 0.87)) * 3.7 + 1.3);
    slope += vec2(0.97, -0.25) * 0.020 * cos(dot(q, vec2(0.97, -0.25)) * 6.9 + 4.1);
    slope += vec2(0.2, 0.98) * 0.016 * cos(dot(q, vec2(0.2, 0.98)) * 12.3 + 0.4);
    return normalize(vec3(-slope * calm, 1.0));
}

vec3 soft_light(uint held) {
    vec3 steps = vec3(float(held & 511u), float((held >> 9) & 511u), float((held >> 18) & 511u));
    return steps * exp2(float(held >> 27) - 15.0 - 9.0) * 4.0;
}

// The share of even light that a surface of this roughness throws back: of its colour where one looks straight at it, and without
// colour (split sum, Karis' fit).
vec2 thrown(float rough, float along) {
    vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
    float a = min(r.x * r.x, exp2(-9.28 * along)) * r.x + r.y;
    return vec2(-1.04 * a + r.z, 1.04 * a + r.w);
}

// The same of paint, wood and stone, which take four hundredths of it.
float sheen(float rough, float along) {
    vec2 share = thrown(rough, along);
    return 0.04 * share.x + share.y;
}

// What paint, lacquer and stone (index 1.5) mirror of light that meets them at an angle of this cosine (Fresnel, not polarized).
float dielectric(float cosine) {
    float c = clamp(cosine, 0.0, 1.0), g = sqrt(1.25 + c * c);
    float aside = (g - c) / (g + c), along = (c * (g + c) - 1.0) / (c * (g - c) + 1.0);
    return 0.5 * aside * aside * (1.0 + along * along);
}

float power5(float x) { float y = x * x; return y * y * x; }

// What a body scatters towards the eye of the sun's light on it, as a share of what even scattering would (B. Burley, "Physically based
// shading at Disney", 2012), as final pictures have it: rough things are brighter seen or lit along them, smooth ones darker.
float sun_scattered(vec3 normal, vec3 to_eye, float rough) {
    float h = dot(u_sun, normalize(to_eye + u_sun));
    float more = 2.0 * rough * h * h - 0.5;
    return (1.0 + more * power5(1.0 - max(dot(normal, u_sun), 0.0))) * (1.0 + more * power5(1.0 - max(dot(normal, to_eye), 0.0)));
}

// Whether so much light from everywhere is little beside the sun's, as it is in a room.
const float LITTLE = 0.05;
bool dim(vec3 around) { return dot(around, vec3(1.0)) < LITTLE * dot(u_sun_lux, vec3(1.0)); }

void main() {
    uvec4 texel = texelFetch(u_surface, ivec2(gl_FragCoord.xy), 0);
    vec3 ray = u_corner + u_across * v_at.x + u_high * v_at.y;
    float depth = uintBitsToFloat(texel.x);
    if (depth <= 0.0) {
        if (u_sky_shown < 0.5) { out_light = vec4(0.0); return; }
        vec3 d = normalize(ray);
        out_light = vec4(sky_seen(d), 1.0);
        return;
    }
    vec3 offset = ray * depth;
    vec3 world = u_eye + offset;
    float distance = length(offset);
    vec3 to_eye = -offset / distance;
    vec2 folded = unpackSnorm2x16(texel.y);
    vec3 normal = vec3(folded, 1.0 - abs(folded.x) - abs(folded.y));
    if (normal.z < 0.0) normal.xy = (1.0 - abs(folded.yx)) * vec2(folded.x >= 0.0 ? 1.0 : -1.0, folded.y >= 0.0 ? 1.0 : -1.0);
    normal = normalize(normal);
    vec3 root = unpackUnorm4x8(texel.w).rgb;
    vec3 albedo = root * root;
    uint kind = texel.w >> 30;
    float value = float((texel.w >> 24) & 63u) / 63.0;
    bool water = kind == 2u, metal = kind == 1u;
    float smoothness = kind == 3u ? 0.0 : 1.0 - value;
    vec3 glow = kind == 3u ? albedo * (exp2((value - 0.5) * 16.0) * SHINE) : vec3(0.0);
    if (u_white > 0.5) { albedo = vec3(0.78); water = metal = false; smoothness = 0.0; glow = vec3(0.0); }
    float upward = normal.z;
    if (water) normal = rippled(world.xy, distance);
    float occlusion = texture(u_occlusion, v_at).r;
    vec3 around;
    if (u_light_known > 0.5) around = soft_light(texel.z) * mix(1.0, occlusion, 0.55);
    else around = mix(u_ground * PI, vec3(0.92, 1.0, 1.1) * u_sky_scale * 2.2, normal.z * 0.5 + 0.5) * u_estimate * occlusion;
#ifdef PIXEL_LIGHT
    vec3 shining;
    vec4 here = pixel_light(world, normal, shining);
    around = mix(around, here.rgb, here.a);
#endif
    // Light thrown back by coloured things is coloured; on white card it is as bright and grey.
    if (u_white > 0.5) around = vec3(dot(around, vec3(0.2126, 0.7152, 0.0722)));
    float facing = dot(normal, u_sun);
    vec3 sun = vec3(0.0);
    if (facing > 0.0 && u_sun.z > 0.0) sun = u_sun_lux * (sunlight(world, normal, facing, dim(around)) * facing);
    // What is smooth enough mirrors below; the rest of the sheen is light from everywhere at once.
    float along = max(dot(normal, to_eye), 0.0);
    bool plain = u_white < 0.5 && !water && !metal;
    float even = plain ? sheen(value, along) * (1.0 - smoothness * smoothness) : 0.0;
    vec3 glossy = around / PI;
#ifdef ROOMS
    // In a room it mirrors what lies there; rough things mirror nothing that could be told, but shine where that is bright.
    int room = (plain && value < EVENLY) || metal ? room_before(world, normal) : -1;
    vec3 mirrored = vec3(0.0);
    float tells = 0.0;
    if (room >= 0) {
        mirrored = room_mirrored(room, world, normal, reflect(-to_eye, normal), value, around);
        tells = 1.0 - smoothstep(0.4, ROUGHEST, value);
        if (plain) glossy = mix(glossy, max(glossy, mirrored), 1.0 - smoothstep(0.65, EVENLY, value));
    }
#endif
#ifdef FLATS
    vec4 shown = (plain || metal) && value < SHARPEST ? flat_mirrored(world, normal) : vec4(0.0);
#endif
    // Rough things are brighter seen along them, smooth ones darker (fitted to the surfaces that final pictures have).
    float body = plain ? 0.98 + 0.06 * value + (1.17 * value - 0.55) * power5(1.0 - along) : 1.0;
    vec3 colour = albedo * body * around / PI + glow;
#ifdef PIXEL_LIGHT
    // What rough things mirror is known of each place; what is smoother few of its rays have met.
    float gathered = plain ? here.a * smoothstep(GATHERED_FROM, GATHERED, value) : 0.0;
    colour += mix(even * glossy, shining, gathered);
#else
    const float gathered = 0.0;
    colour += even * glossy;
#endif
    if (!plain) colour += albedo * sun / PI;
    else if (sun.r > 0.0) {
        float rough = 1.0 - smoothness;
        colour += sun * (albedo * sun_scattered(normal, to_eye, rough) / PI + dielectric(dot(to_eye, normalize(to_eye + u_sun))) * sun_mirrored(normal, to_eye, u_sun, rough * rough));
    }

#ifdef METAL
    if (metal) {
        // Metal throws back what lies around it in its own colour; the rougher it is, the more of it at once.
        vec3 mirror = reflect(-to_eye, normal);
        float open = u_light_known > 0.5 ? clamp(dot(around, vec3(0.33)) / (u_sky_scale * 2.6), 0.0, 1.0) : u_estimate;
        float lobe = value * value;
        // Below the horizon lies what lights it from below, not the ground far away; and indoors little of the sky is ever met.
        vec3 seen = mix(sky_mirrored(mirror), around / PI, clamp(-mirror.z * 6.0, 0.0, 1.0));
        seen = mix(around / PI, seen, open * open * (1.0 - min(1.2 * lobe, 1.0)));
#ifdef ROOMS
        seen = mix(seen, mirrored, tells);
#endif
#ifdef FLATS
        seen = mix(seen, shown.rgb, shown.a);
#endif
        vec2 share = thrown(value, along);
        colour = (albedo * share.x + share.y) * seen + sun * sun_mirrored(normal, to_eye, u_sun, lobe) * (albedo + (1.0 - albedo) * power5(1.0 - max(dot(to_eye, normalize(to_eye + u_sun)), 0.0)));
    } else
#endif
    if (smoothness > 0.3) {
        vec3 mirror = reflect(-to_eye, normal);
        float fresnel = water ? 0.04 + 0.96 * power5(1.0 - along) : dielectric(along);
        // How much of the sky a mirror here could see: the light that reaches it against an open place.
        float open = u_light_known > 0.5 ? clamp(dot(around, vec3(0.33)) / (u_sky_scale * 2.6), 0.0, 1.0) : u_estimate;
        // Ripples too small to see tip the mirror up, so that water takes the deeper blue above the horizon.
        if (water) mirror = normalize(vec3(mirror.xy, max(mirror.z, 0.0) + 0.12));
        vec3 seen = sky_mirrored(mirror);
        float weight = fresnel * smoothness * smoothness * (1.0 - gathered);
        seen *= water ? 1.0 : open;
        bool of_level = false;
#ifdef ROOMS
        seen = mix(seen, mirrored, tells);
#endif
#ifdef FLATS
        seen = mix(seen, shown.rgb, shown.a);
#endif
#ifdef MIRROR
        if (abs(world.z - u_mirror_at) < 0.012 && upward > 0.99) {
            // Ripples throw the mirrored picture aside; roughness spreads it.
            vec2 aside = water ? 2.0 * vec2(dot(normal.xy, normalize(u_across.xy)), dot(normal.xy, normalize(ray.xy))) : vec2(0.0);
            float spread = 0.02;
            if (!water) {
                vec2 near = textureLod(u_mirror_near, (vec2(v_at.x, 1.0 - v_at.y) + u_mirror_border) / (1.0 + 2.0 * u_mirror_border), 2.0).rg;
                spread = value * value * (near.g > 0.05 ? near.r / near.g : 1.0) * SPREAD;
            }
            vec2 at = (vec2(v_at.x, 1.0 - v_at.y) + u_mirror_border) / (1.0 + 2.0 * u_mirror_border) + aside * u_mirror_step;
            float level = log2(max(spread * u_mirror_px, 1.0));
            vec4 there = textureLod(u_mirror, clamp(at, 0.0, 1.0), level);
            // What is mirrored is known only where the surface is seen; close to its edge more of it is asked.
            if (there.a < 0.1) there = textureLod(u_mirror, clamp(at, 0.0, 1.0), level + 2.0);
            of_level = there.a > 0.01;
            if (of_level) seen = there.rgb / there.a;
        }
#endif
        // What smoothness takes from a body's light is in it already.  Of a level mirror it is taken once more: seen along it, what lies far
        // behind it comes out brighter than final pictures have it, and so both together are nearer to them.
        colour = colour * (water || of_level ? 1.0 - weight : 1.0) + seen * weight;
        if (water) {
            float gloss = mix(8.0, 900.0, smoothness * smoothness * smoothness);
            float spot = pow(max(dot(normal, normalize(to_eye + u_sun)), 0.0), gloss) * (gloss + 8.0) / 80.0;
            colour += sun * spot * fresnel * 0.4;
        }
    }
    // Air: far things go towards the horizon's colour.  Haze lies on the ground: from high above little of it is looked through.
    float low = max(min(u_eye.z, world.z) - u_ground_at, 0.0) / HAZE_HIGH;
    float high = max(max(u_eye.z, world.z) - u_ground_at, 0.0) / HAZE_HIGH;
    float dense = high - low > 0.01 ? (exp(-low) - exp(-high)) / (high - low) : exp(-low);
    float air = 1.0 - exp(-max(distance - 40.0, 0.0) * dense * mix(0.00035, 0.0011, u_haze));
    // Half floats end at 65504; a glint of the sun is white long before that.
    out_light = vec4(min(mix(colour, u_air, air), vec3(50000.0)), 1.0);
}
