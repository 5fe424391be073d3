#version 330
// What a surface mirrors, only where it is seen: beyond its edge the mirrored picture looks in under walls, and blur would carry that over.
uniform sampler2D u_light;
uniform sampler2D u_level;     // the picture itself, which stands upside down to what it mirrors
out vec4 out_light;
void main() {
    ivec2 at = ivec2(gl_FragCoord.xy);
    float shown = texelFetch(u_level, ivec2(at.x, textureSize(u_level, 0).y - 1 - at.y), 0).r;
    out_light = vec4(texelFetch(u_light, at, 0).rgb, 1.0) * shown;
}
