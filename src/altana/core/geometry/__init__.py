"""Functions on arrays of points, triangles, rays and planes."""
