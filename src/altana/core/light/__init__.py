"""The sun, and the way light values become picture values."""
