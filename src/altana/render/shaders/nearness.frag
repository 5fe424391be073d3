#version 330
// How far what a surface mirrors lies behind it, as a share of the whole way from the eye: close to its foot a thing is mirrored sharp.
in vec2 v_at;
uniform usampler2D u_surface;  // of the mirrored picture
uniform sampler2D u_light;     // what is mirrored, with where the surface is seen
uniform float u_eye_high;      // how high the surface lies above the mirrored eye
uniform vec3 u_corner;
uniform vec3 u_across;
uniform vec3 u_high;
out vec2 out_near;
void main() {
    ivec2 at = ivec2(gl_FragCoord.xy);
    float depth = uintBitsToFloat(texelFetch(u_surface, at, 0).x);
    float rises = (u_corner + u_across * v_at.x + u_high * v_at.y).z;
    float before = rises > 1e-4 ? u_eye_high / rises : 0.0;
    float share = depth > 0.0 ? clamp(1.0 - before / depth, 0.0, 1.0) : 1.0;
    out_near = vec2(share, 1.0) * texelFetch(u_light, at, 0).a;
}
