"""What the window knows and does, without widgets: what is shown, the document, the scene, the children, what
is said."""
