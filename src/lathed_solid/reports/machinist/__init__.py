"""The machinist's sheet: part zero, stock, settings in order, holes, stations, tools, what cannot be cut as drawn."""
