"""Files of Altana's own: projects, caches, and the rules for writing safely."""
