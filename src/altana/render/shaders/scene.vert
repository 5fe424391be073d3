#version 330
// Places triangles; what a material says is looked up once a vertex, because it is flat over a triangle.
in vec3 in_position;
in vec3 in_normal;
in vec2 in_uv;
in vec2 in_light;
in uvec2 in_ids;   // material, with how small the object is in its uppermost byte; and object
#ifdef COPIES
// What brings a copied object from where its original stands to its own place, and its number from 1; 0 for what stands as it is.
in vec4 in_row_x;
in vec4 in_row_y;
in vec4 in_row_z;
in uint in_copy;
#endif
#ifdef PAINTED
in vec4 in_paint;
out vec4 v_paint;   // roots of linear light, and opacity
#endif
uniform mat4 u_clip;
uniform vec3 u_eye;
uniform vec3 u_forward;
uniform sampler2D u_materials;
uniform vec2 u_light_size;
const float APART = 3e-8;
out vec3 v_world;
out vec3 v_normal;
out vec2 v_uv;
out vec2 v_light;
out float v_depth;
flat out vec4 v_colour;
flat out vec4 v_surface;   // image layer (and what lies beyond its edges) or -1, roughness, kind (0 solid, 1 glass, 2 water), cutoff (0 none, below 0 a veil)
flat out vec4 v_glow;      // what it throws by itself, and how much of it is metal
flat out uint v_object;
flat out uint v_material;

#ifdef MOVED
// An object that stands elsewhere for this picture.
uniform mat4 u_move;
#endif

void main() {
    uint material = in_ids.x & 0xffffffu;
    v_world = in_position;
    v_normal = in_normal;
#ifdef COPIES
    vec4 place = vec4(in_position, 1.0);
    v_world = vec3(dot(in_row_x, place), dot(in_row_y, place), dot(in_row_z, place));
    v_normal = normalize(vec3(dot(in_row_x.xyz, in_normal), dot(in_row_y.xyz, in_normal), dot(in_row_z.xyz, in_normal)));
#endif
#ifdef MOVED
    v_world = (u_move * vec4(v_world, 1.0)).xyz;
    v_normal = mat3(u_move) * v_normal;
#endif
    v_uv = in_uv;
    v_light = in_light / u_light_size;
    v_depth = dot(v_world - u_eye, u_forward);
    v_colour = texelFetch(u_materials, ivec2(0, int(material)), 0);
    v_surface = texelFetch(u_materials, ivec2(1, int(material)), 0);
    v_glow = texelFetch(u_materials, ivec2(2, int(material)), 0);
#ifdef COPIES
    v_object = in_copy > 0u ? in_copy - 1u : in_ids.y;
#else
    v_object = in_ids.y;
#endif
    v_material = material;
#ifdef PAINTED
    v_paint = vec4(pow(in_paint.rgb, vec3(1.1)), in_paint.a);
#endif
    gl_Position = u_clip * vec4(v_world - u_eye, 1.0);
    // Where two things lie in one plane the smaller is seen, a cloth on its table, and no streaks of both: some millionths of the distance apart.
    gl_Position.z *= 1.0 + float(in_ids.x >> 24) * APART;
#ifdef SPREAD_DEPTH
    gl_Position.z = 2.0 * gl_Position.z - gl_Position.w;
#endif
}
