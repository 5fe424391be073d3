"""The camera: where it stands, what its lens does, what its frame shows.  See docs/camera.md."""
