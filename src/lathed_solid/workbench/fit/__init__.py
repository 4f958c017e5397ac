"""The Fit desk without a window: its session, what waits for the kernel, what is picked, its rows."""
