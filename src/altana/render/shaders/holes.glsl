// Where a picture makes a hole.  A veil is drawn in some samples and not in others, so that the mean of passes is as dense as it says.
uniform int u_phase;

bool hole(float opacity, float cutoff) {
    if (cutoff > 0.0) return opacity < cutoff;
    vec2 at = floor(gl_FragCoord.xy) + vec2(5.588238) * float(u_phase);
    return opacity < fract(52.9829189 * fract(dot(at, vec2(0.06711056, 0.00583715)))) * 0.96 + 0.02;
}
