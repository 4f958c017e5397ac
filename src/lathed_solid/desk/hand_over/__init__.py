"""The Hand over desk: its page at the left, and the paper where the solid stands at the other desks."""
