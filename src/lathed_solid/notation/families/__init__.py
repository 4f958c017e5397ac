"""Families of notes: what each kind of item does to the clause that is being read."""
