"""The numeric core: no interface, no graphics card, no files, no processes."""
