// One face of a pane: what of light it mirrors, what it lets straight through and in which colour, and what it shows of itself.
struct Pane {
    float cover;     // mirrored
    float clear;     // let straight through, before its colour is taken
    float solid;     // how dense it is
    float frosted;   // how much of what comes through is scattered
    vec3 colour;     // linear
    vec3 tint;       // what comes through takes on
};

// colour : roots of linear light, and opacity.  facing : the cosine between the light and the pane.
Pane pane_of(vec4 colour, float rough, float facing) {
    Pane pane;
    float fresnel = 0.04 + 0.96 * pow(1.0 - clamp(facing, 0.0, 1.0), 5.0);
    // Both faces of a pane are drawn, so each takes half; seen square on a tenth of the light comes back, as in final pictures.
    pane.cover = clamp(fresnel * 0.54, 0.1, 1.0);
    pane.solid = clamp(colour.a, 0.0, 1.0);
    pane.frosted = smoothstep(0.25, 0.45, rough);
    pane.colour = colour.rgb * colour.rgb;
    // The denser a pane, the more of it is seen itself; what comes through takes its colour.
    float most = max(max(pane.colour.r, max(pane.colour.g, pane.colour.b)), 0.002);
    pane.tint = sqrt(mix(vec3(1.0), pane.colour / most, sqrt(pane.solid)));
    pane.clear = (1.0 - pane.cover) * (1.0 - pane.solid * pane.solid) * (1.0 - 0.94 * pane.frosted);
    return pane;
}
