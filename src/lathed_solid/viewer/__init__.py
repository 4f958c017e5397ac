"""The solid drawn by the kernel into a context that somebody else owns; no toolkit."""
