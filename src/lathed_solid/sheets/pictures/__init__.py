"""Sheets as pictures, scanned or photographed: straightened, their ruled lines found, their lettering read.

Only the reading processes come here. OpenCV and the lettering's models are packages of the extra ``lettering``: without
them a picture is shown as it is, and what was not read is said.
"""
