"""Altana: eye-level cameras in building models, and the pictures and walks taken with them."""

__version__ = "0.1.0"
