"""Rows of the shot list, made: stills, panoramas and film frames, each kind in a room of its own."""
