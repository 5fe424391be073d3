// The sky of core/light/sky.py; a test holds the two together.
uniform vec3 u_sun;
uniform vec3 u_sun_lux;
uniform float u_sky_scale;
uniform float u_haze;
uniform vec3 u_ground;

uniform float u_dusk;
uniform float u_cover;
uniform sampler2D u_around;    // surroundings: columns by heading, rows from straight up
uniform vec2 u_around_use;     // 1: they light; 1: they are seen

vec3 around(vec3 d) { return texture(u_around, vec2(atan(d.x, d.y) / 6.2831853, acos(clamp(d.z, -1.0, 1.0)) / 3.14159265)).rgb; }

vec3 own_sky(vec3 d) {
    if (d.z <= 0.0) return u_ground;
    float up = min(d.z, 1.0);
    float blend = pow(up, 0.42);
    vec3 zenith = mix(vec3(0.27, 0.55, 1.10), vec3(0.20, 0.40, 1.05), u_dusk);
    vec3 colour = mix(vec3(1.20, 1.30, 1.38), zenith, blend);
    float towards = clamp(dot(d, u_sun), 0.0, 1.0);
    float t2 = towards * towards; float t4 = t2 * t2; float t8 = t4 * t4;
    float low = 1.0 - up;
    float glow = mix(0.9 * t8 * t8 * t8 + 0.35 * t4, 1.6 * t4 * t2 * low * low * low + 0.25 * t4, u_dusk);
    float grey = (colour.r + colour.g + colour.b) / 3.0;
    colour = mix(colour, vec3(grey), 0.5 * u_haze) + glow * mix(vec3(1.0, 0.94, 0.85), vec3(1.0, 0.52, 0.24), u_dusk);
    colour = mix(colour, vec3(0.93, 0.98, 1.05) * (1.0 + 2.0 * up) / 3.0, u_cover);
    return colour * u_sky_scale;
}

vec3 sky_luminance(vec3 d) { return u_around_use.x > 0.5 ? around(d) : own_sky(d); }

// What is mirrored out of doors: far ground goes over into the sky without an edge, so that no horizon stands in a pane.
vec3 sky_mirrored(vec3 d) {
    if (d.z > 0.0) return sky_luminance(d);
    vec3 ground = u_around_use.x > 0.5 ? around(d) : u_ground;
    return mix(sky_luminance(vec3(normalize(d.xy + vec2(1e-6)), 0.01)), ground, clamp(-d.z * 6.0, 0.0, 1.0));
}

// What is seen where nothing stands; below the horizon the ground far away is mostly air.
vec3 sky_seen(vec3 d) {
    if (u_around_use.y > 0.5) return around(d);
    if (d.z <= 0.0) return mix(own_sky(vec3(normalize(d.xy), 0.01)), u_ground, clamp(-d.z * 6.0, 0.0, 1.0));
    return min(own_sky(d), vec3(50000.0));
}
