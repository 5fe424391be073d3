"""The Walk desk: routes, films, their timing and checks."""
