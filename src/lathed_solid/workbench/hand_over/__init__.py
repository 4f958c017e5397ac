"""The Hand over desk without a window: what is made of the part in hand, and what is written."""
