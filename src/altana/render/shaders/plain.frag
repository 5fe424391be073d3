#version 330
// The cheapest picture of the same buffers: what a benchmark compares with.
out vec4 out_colour;
void main() { out_colour = vec4(0.6, 0.6, 0.6, 1.0); }
