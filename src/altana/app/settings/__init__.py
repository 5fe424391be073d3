"""The settings beside the Frame."""
