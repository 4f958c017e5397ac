"""The sketch pane without its pane: the solved figure, the drawing tools, what there is to say."""
