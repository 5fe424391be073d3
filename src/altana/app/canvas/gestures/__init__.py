"""What hands do on the canvas: one object a gesture, begun by a press, finished as one undo step or cancelled
without a trace."""
