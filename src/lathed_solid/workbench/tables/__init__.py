"""What the tables show, as data: rows, and columns that read them."""
