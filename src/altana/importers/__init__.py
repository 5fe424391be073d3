"""Building models in: one module a format, each turning a file into plain arrays and a tree."""
