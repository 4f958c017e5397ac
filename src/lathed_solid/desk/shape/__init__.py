"""The Shape desk: the source of the chosen step at the left, the solid at the right."""
