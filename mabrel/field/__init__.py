"""Calculations on the pixel grid: distance, inflate, blur, normals, noise."""

from mabrel.field.blur import blur_margin, blur_support, gaussian_blur, softened
from mabrel.field.distance import signed_distance
from mabrel.field.inflate import inflate
from mabrel.field.noise import value_noise
from mabrel.field.normals import normals

__all__ = [
    "blur_margin",
    "blur_support",
    "gaussian_blur",
    "inflate",
    "normals",
    "signed_distance",
    "softened",
    "value_noise",
]
