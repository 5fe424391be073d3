"""The window that holds the desks: top and bottom bar, commands, files, search, notices."""
