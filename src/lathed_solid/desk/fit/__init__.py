"""The Fit desk: its page beside the view, the card of its members, and dragging."""
