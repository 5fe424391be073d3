"""Pictures: the one renderer behind the Frame, the thumbnails and every delivery."""
