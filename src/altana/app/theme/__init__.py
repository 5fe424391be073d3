"""Colours, type and the style sheet, all from one table of tokens."""
