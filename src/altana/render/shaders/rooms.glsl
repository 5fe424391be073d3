// What surfaces in rooms mirror: all-round pictures of the rooms that are seen, folded to squares (render/folded.py).
#ifdef ROOMS
uniform sampler2DArray u_room_sharp;
uniform sampler2DArray u_room_soft;
uniform vec2 u_room_turn[ROOMS];  // cosine and sine of how its box is turned
uniform vec3 u_room_low[ROOMS];   // corners of the box, turned back
uniform vec3 u_room_high[ROOMS];
uniform vec3 u_room_eye[ROOMS];   // where its picture was taken
const float LEVELS = 3.0, SHARP_PX = 256.0, SOFT_PX = 32.0;
// A wall belongs to the room before it: places are taken so far off their surface, and rooms reach so far into their walls.
const float OFF = 0.25, INTO = 0.2;

vec3 in_box(int room, vec3 v) {
    vec2 turn = u_room_turn[room];
    return vec3(turn.x * v.x + turn.y * v.y, turn.x * v.y - turn.y * v.x, v.z);
}

// The smallest room before a surface, -1 where there is none; they come by size.
int room_before(vec3 place, vec3 normal) {
    vec3 before = place + normal * OFF;
    for (int i = 0; i < ROOMS; i++) {
        vec3 at = in_box(i, before);
        if (all(greaterThan(at, u_room_low[i] - INTO)) && all(lessThan(at, u_room_high[i] + INTO))) return i;
    }
    return -1;
}

// From a place in a room to where a line first meets its walls, as its picture's eye sees that.
vec3 as_eye_sees(int room, vec3 place, vec3 towards) {
    vec3 at = in_box(room, place), along = in_box(room, towards);
    along += vec3(lessThan(abs(along), vec3(1e-5))) * 1e-5;
    vec3 run = max((u_room_low[room] - at) / along, (u_room_high[room] - at) / along);
    return place + towards * max(min(run.x, min(run.y, run.z)), 0.01) - u_room_eye[room];
}

vec2 on_square(vec3 d, float side) {
    d /= abs(d.x) + abs(d.y) + abs(d.z);
    vec2 at = d.z >= 0.0 ? d.xy : (1.0 - abs(d.yx)) * vec2(d.x >= 0.0 ? 1.0 : -1.0, d.y >= 0.0 ? 1.0 : -1.0);
    return ((at * 0.5 + 0.5) * side + 1.0) / (side + 2.0);
}

vec3 room_soft(int room, float level, vec3 d) { return texture(u_room_soft, vec3(on_square(d, SOFT_PX), float(room) * LEVELS + level)).rgb; }

// What a surface of some roughness mirrors; around: the light that falls on it.
vec3 room_mirrored(int room, vec3 place, vec3 normal, vec3 mirror, float rough, vec3 around) {
    vec3 d = as_eye_sees(room, place, mirror);
    // Between the levels of 0 (sharp), 0.25, 0.5 and 1 (from all sides).
    float level = rough * 4.0;
    vec3 seen = room_soft(room, 0.0, d);
    if (level < 1.0) seen = mix(texture(u_room_sharp, vec3(on_square(d, SHARP_PX), float(room))).rgb, seen, level);
    else if (level < 2.0) seen = mix(seen, room_soft(room, 1.0, d), level - 1.0);
    else seen = mix(room_soft(room, 1.0, d), room_soft(room, 2.0, d), min(level * 0.5 - 1.0, 1.0));
    // Where less light arrives than the room would bring, something stands close by that its picture does not show there.
    vec3 open = room_soft(room, LEVELS - 1.0, normal) * 3.14159265;
    return seen * clamp(dot(around, vec3(0.33)) / max(dot(open, vec3(0.33)), 1e-4), 0.0, 1.0);
}
#endif
