"""Sketches: 2D entities, constraints, the solver, diagnosis, editing, regions. No interface, no kernel."""
