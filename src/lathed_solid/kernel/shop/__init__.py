"""What cutting a part asks of its solid: its holes, its stations, its inner corners. Found on the faces, not told."""
