"""Final pictures by path tracing: the same requests as the quick renderer, answered with light that is
followed to its end.

Mitsuba 3 follows the light, Open Image Denoise takes the grain out.  Both are loaded only in a process of
their own.
"""
