"""Calipers and scales on a serial line, and simulated ones that ship with the product."""

from lathed_solid.devices.lines import DeviceError, DeviceReading, parse_line
from lathed_solid.devices.simulated import SimulatedDevice

__all__ = ["DeviceError", "DeviceReading", "SimulatedDevice", "parse_line"]
