// Light that was reckoned for the very places that a view shows (render/pixel_light.py).
#ifdef PIXEL_LIGHT
uniform usampler2D u_pixel_light;   // halves: lux, whether it is known, and how the place shines in it, cd/m2
uniform usampler2D u_pixel_place;   // where, as seen from the eye, metres; and which way it faces
uniform mat4 u_pixel_clip;
uniform vec3 u_pixel_eye;
// Places speak for others of their plane alone: so many metres off it at most, and for each metre from the eye.
const float OFF_PLANE = 0.003, OFF_PLANE_A_METRE = 0.0015;
const float ALIKE = 0.9;
// Those a little farther off are asked only where no nearer one is of the plane.
const float FARTHER = 0.01;
// Those at the edge of their plane have some of the light of what lies beside it.
const float SURE = 0.9, UNSURE = 0.005;

// The light of a place, whether it is known, and how it shines.
vec4 pixel_light(vec3 world, vec3 normal, out vec3 sheen) {
    sheen = vec3(0.0);
    vec3 from = world - u_pixel_eye;
    vec4 at = u_pixel_clip * vec4(from, 1.0);
    if (at.w <= 0.0) return vec4(0.0);
    ivec2 size = textureSize(u_pixel_light, 0);
    vec2 px = (at.xy / at.w * 0.5 + 0.5) * vec2(size) - 0.5;
    ivec2 first = ivec2(floor(px));
    vec2 part = px - vec2(first);
    float near = OFF_PLANE + OFF_PLANE_A_METRE * length(from);
    vec4 sum = vec4(0.0);
    for (int j = -1; j <= 2; j++)
        for (int i = -1; i <= 2; i++) {
            ivec2 texel = clamp(first + ivec2(i, j), ivec2(0), size - 1);
            uvec4 halves = texelFetch(u_pixel_light, texel, 0);
            vec4 light = vec4(unpackHalf2x16(halves.x), unpackHalf2x16(halves.y));
            uvec4 there = texelFetch(u_pixel_place, texel, 0);
            float off = abs(dot(from - uintBitsToFloat(there.xyz), normal));
            if (light.a < 0.5 || off > near || dot(unpackSnorm4x8(there.w).xyz, normal) < ALIKE) continue;
            vec2 away = abs(vec2(i, j) - part);
            vec2 share = max(1.0 - away, 0.0);
            float weight = share.x * share.y + FARTHER * max(2.0 - away.x, 0.0) * max(2.0 - away.y, 0.0);
            if (light.a < SURE) weight *= UNSURE;
            sum += weight * vec4(light.rgb, 1.0);
            sheen += weight * vec3(unpackHalf2x16(halves.z), unpackHalf2x16(halves.w).x);
        }
    sheen /= max(sum.a, 1e-6);
    return sum.a > 0.0 ? vec4(sum.rgb / sum.a, 1.0) : vec4(0.0);
}
#endif
