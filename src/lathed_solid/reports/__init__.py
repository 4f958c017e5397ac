"""What leaves a proof on paper: the inspection sheet and the table of verdicts."""
