"""Cameras and walks for other tools, in open formats."""
