"""What a drawing needs of the solid: hidden lines as exact curves, cuts, centre lines, and where each callout shows."""
