"""The sketch pane: a drawn, constrained figure in Qt; what it knows comes from ``lathed_solid.sketch``."""
