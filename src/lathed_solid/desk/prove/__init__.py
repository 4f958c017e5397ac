"""The Prove desk: verdicts and mass."""
