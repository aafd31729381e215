"""Colour arithmetic: sRGB, XYZ, L*a*b*, Munsell value, CIEDE2000, reflectance spectra."""

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import (
    WHITE_XYZ,
    hex_to_srgb,
    lab_to_srgb,
    lab_to_xyz,
    linear_to_srgb,
    srgb_to_hex,
    srgb_to_lab,
    srgb_to_linear,
    xyz_to_lab,
)
from truesitter.core.colour.value import lstar_to_value, luminance_to_value, value_to_luminance

__all__ = [
    "WHITE_XYZ",
    "delta_e_2000",
    "hex_to_srgb",
    "lab_to_srgb",
    "lab_to_xyz",
    "linear_to_srgb",
    "lstar_to_value",
    "luminance_to_value",
    "srgb_to_hex",
    "srgb_to_lab",
    "srgb_to_linear",
    "value_to_luminance",
    "xyz_to_lab",
]
