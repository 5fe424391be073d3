// Pictures of materials, and what lies beyond their edges.
uniform sampler2DArray u_images;

#ifdef EDGES
// Kinds: 0 the picture again, 1 the picture mirrored, 2 its edge.  What is taken stays half a texel within, lest the other edge shines in.
float within(float at, float kind, float half_texel) {
    if (kind < 0.5) return at;
    if (kind < 1.5) at = 1.0 - abs(mod(at, 2.0) - 1.0);
    return clamp(at, half_texel, 1.0 - half_texel);
}

// shelf : the layer, and 4096 for each of the nine ways of going on beyond the edges.
vec4 picture(vec2 at, float shelf, float bias) {
    vec2 dx = dFdx(at) * exp2(bias), dy = dFdy(at) * exp2(bias);
    float way = floor(shelf / 4096.0);
    if (way < 0.5) return textureGrad(u_images, vec3(at, shelf), dx, dy);
    float side = float(textureSize(u_images, 0).x);
    float texel = max(1.0, side * max(length(dx), length(dy))) / side;
    float half_texel = min(0.5 * texel, 0.5);
    vec2 taken = vec2(within(at.x, mod(way, 3.0), half_texel), within(at.y, floor(way / 3.0), half_texel));
    return textureGrad(u_images, vec3(taken, shelf - way * 4096.0), dx, dy);
}
#else
vec4 picture(vec2 at, float layer, float bias) { return texture(u_images, vec3(at, layer), bias); }
#endif
