"""The Frame and the drawings."""
