"""The drawing, drawn back from the proven solid: views chosen, dimensions arranged, written as PDF, DXF or SVG."""
