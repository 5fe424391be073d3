"""The window.  Nothing outside this package knows that there is one."""
