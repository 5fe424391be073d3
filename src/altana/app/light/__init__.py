"""The project's light, beside every desk."""
