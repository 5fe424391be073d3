"""The Hand over desk: the shot list, its making, and what was made."""
