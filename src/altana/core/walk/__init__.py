"""Walkthroughs: the route through a building, its timing, and the camera of every film frame."""
