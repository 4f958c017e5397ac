"""The Read desk: so far, the caliper log."""
