"""Editors of steps."""
