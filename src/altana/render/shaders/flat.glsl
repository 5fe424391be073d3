// What flat mirrors show: pictures from behind their planes, one above the other (render/flat_mirrors.py).
#ifdef FLATS
uniform sampler2D u_flat;
uniform int u_flats;
uniform vec2 u_flat_step;       // a texel as a share of it
uniform vec4 u_flat_plane[6];   // normal, and how far along it
uniform vec4 u_flat_shift[6];   // from where it is taken, pixels, and its texels a pixel
uniform vec4 u_flat_box[6];     // what it fills, texels
uniform float u_flat_share[6];  // how much of a mirror it is taken for
// Both faces of a pane, and panes of windows that lie nearly in one plane, are one mirror.
const float WITHIN = 0.08, STRAIGHT = 0.9995;

// What a surface mirrors, and how much of a mirror it is; nothing where none was drawn.
vec4 flat_mirrored(vec3 place, vec3 normal) {
    for (int i = 0; i < u_flats; i++) {
        vec4 plane = u_flat_plane[i];
        if (dot(normal, plane.xyz) < STRAIGHT || abs(dot(place, plane.xyz) - plane.w) > WITHIN) continue;
        vec4 shift = u_flat_shift[i], box = u_flat_box[i];
        vec2 at = vec2(shift.x - gl_FragCoord.x, shift.y + gl_FragCoord.y) * shift.zw + box.xy;
        if (any(lessThan(at, box.xy)) || any(greaterThan(at, box.zw))) continue;
        return vec4(textureLod(u_flat, clamp(at, box.xy + 0.5, box.zw - 0.5) * u_flat_step, 0.0).rgb, u_flat_share[i]);
    }
    return vec4(0.0);
}
#endif
