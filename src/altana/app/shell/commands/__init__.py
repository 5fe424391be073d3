"""What can be done in the window: one module a menu, each a list of commands."""
