"""Larkwater ferry terminal: the made-up building that Altana is shown with."""
