"""The geometry kernel: the only package that imports OCP. Import its modules by name; importing OCP takes a
second or two, so nothing is imported here."""
