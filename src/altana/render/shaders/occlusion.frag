#version 330
#extension GL_ARB_shading_language_packing : require
// Contact shading: how much of the half-space before a point is filled nearby, from the picture's own depths.
in vec2 v_at;
uniform usampler2D u_surface;
// What there is when nothing is cut away: a bound takes no contact shade from what both pictures show.
uniform usampler2D u_whole;
uniform float u_cut;
uniform vec4 u_edges;      // left, right, bottom, top tangents of this picture
uniform mat3 u_camera;     // world to right, up, forward
uniform float u_radius;
uniform float u_widest;    // of the picture's height
uniform vec3 u_noise;      // x, y of the tile in pixels, turn
uniform int u_samples;
out float out_open;

float depth_at(vec2 at) {
    ivec2 size = textureSize(u_surface, 0);
    return uintBitsToFloat(texelFetch(u_surface, clamp(ivec2(at * vec2(size)), ivec2(0), size - 1), 0).x);
}

float whole_at(vec2 at) {
    ivec2 size = textureSize(u_whole, 0);
    return uintBitsToFloat(texelFetch(u_whole, clamp(ivec2(at * vec2(size)), ivec2(0), size - 1), 0).x);
}

float shade(vec2 at, float depth, vec2 spread, vec3 place, vec3 normal) {
    if (depth <= 0.0) return 0.0;
    vec3 other = vec3(vec2(u_edges.x, u_edges.z) + spread * at, 1.0) * depth;
    vec3 towards = other - place;
    float apart = length(towards);
    float lift = dot(towards / max(apart, 1e-4), normal) - 0.06;
    return max(lift, 0.0) * max(0.0, 1.0 - apart * apart / (u_radius * u_radius));
}

vec3 direction(uint texel) {
    vec2 folded = unpackSnorm2x16(texel);
    vec3 normal = vec3(folded, 1.0 - abs(folded.x) - abs(folded.y));
    if (normal.z < 0.0) normal.xy = (1.0 - abs(folded.yx)) * vec2(folded.x >= 0.0 ? 1.0 : -1.0, folded.y >= 0.0 ? 1.0 : -1.0);
    return normalize(normal);
}

void main() {
    uvec4 texel = texelFetch(u_surface, ivec2(v_at * vec2(textureSize(u_surface, 0))), 0);
    float here = uintBitsToFloat(texel.x);
    if (here <= 0.0) { out_open = 1.0; return; }
    vec2 spread = vec2(u_edges.y - u_edges.x, u_edges.w - u_edges.z);
    vec3 place = vec3(vec2(u_edges.x, u_edges.z) + spread * v_at, 1.0) * here;
    vec3 normal = u_camera * direction(texel.y);
    float reach = min(u_radius / here, u_widest * spread.y);
    vec2 pixel = gl_FragCoord.xy + u_noise.xy;
    float turn = fract(52.9829189 * fract(dot(pixel, vec2(0.06711056, 0.00583715)))) * 6.2831853 + u_noise.z;
    bool same = u_cut > 0.5 && abs(whole_at(v_at) - here) < 1e-3 + 1e-3 * here;
    float filled = 0.0;
    for (int i = 0; i < u_samples; i++) {
        float share = (float(i) + 0.5) / float(u_samples);
        float angle = turn + float(i) * 2.3999632;
        vec2 at = v_at + vec2(cos(angle), sin(angle)) * share * reach / spread;
        // Where both pictures show the same place, its shade is the one of the picture without bounds.
        float near = same ? 0.0 : shade(at, depth_at(at), spread, place, normal);
        filled += u_cut > 0.5 ? max(near, shade(at, whole_at(at), spread, place, normal)) : near;
    }
    out_open = clamp(1.0 - 2.2 * filled / float(u_samples), 0.0, 1.0);
}
