// What is cut away for the camera (core/camera/bounds.py): near and far across the view, and wall cuts.
uniform vec2 u_bounds;
#ifdef CUTS
uniform vec4 u_cut_plane[CUTS];    // unit normal into the kept room, place along it
uniform vec4 u_cut_along[CUTS];    // unit vector along the wall (x, y), how deep it cuts, place of its zero
uniform vec4 u_cut_extent[CUTS];   // left, right along the wall; low and high in metres above zero height
#endif

bool cut_away(vec3 world, float depth, vec3 eye) {
    if (depth < u_bounds.x || depth > u_bounds.y) return true;
#ifdef CUTS
    for (int i = 0; i < CUTS; i++) {
        vec3 normal = u_cut_plane[i].xyz;
        float from = dot(normal, eye) - u_cut_plane[i].w;
        float here = dot(normal, world) - u_cut_plane[i].w;
        // Only what lies before the plane, no further than the cut is deep, on a line of sight that passes the rectangle.
        if (from >= 0.0 || here >= 0.0 || here <= from || here < -u_cut_along[i].z) continue;
        vec3 met = eye + (world - eye) * (from / (from - here));
        float aside = dot(vec3(u_cut_along[i].xy, 0.0), met) - u_cut_along[i].w;
        vec4 extent = u_cut_extent[i];
        if (aside >= extent.x && aside <= extent.y && met.z >= extent.z && met.z <= extent.w) return true;
    }
#endif
    return false;
}

// Where sight begins on the line of sight to a place, as a share of the way there.
float sight_begins(vec3 world, float depth, vec3 eye) {
    float share = max(u_bounds.x / max(depth, 1e-6), 0.0);
#ifdef CUTS
    for (int i = 0; i < CUTS; i++) {
        vec3 normal = u_cut_plane[i].xyz;
        float from = dot(normal, eye) - u_cut_plane[i].w;
        float rising = dot(normal, world - eye);
        if (from >= 0.0 || rising <= 1e-9) continue;
        float at = -from / rising;
        vec3 met = eye + (world - eye) * at;
        float aside = dot(vec3(u_cut_along[i].xy, 0.0), met) - u_cut_along[i].w;
        vec4 extent = u_cut_extent[i];
        if (aside >= extent.x && aside <= extent.y && met.z >= extent.z && met.z <= extent.w) share = max(share, at);
    }
#endif
    return share;
}
