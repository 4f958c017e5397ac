"""The window: the only package that imports PyQt6."""
