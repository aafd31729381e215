"""Write core/data/observer.csv: CIE 1931 2-degree observer and CIE D65, 400–700 nm by 10 nm.

The tables are those of CIE 15 as carried by the development dependency colour-science.
Run once; the result is checked in and compared with its source by a test.
"""

from __future__ import annotations

import csv
from pathlib import Path

import colour

TARGET = Path(__file__).parents[1] / "src/truesitter/core/data/observer.csv"


def main() -> None:
    shape = colour.SpectralShape(400, 700, 10)
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(shape)
    light = colour.SDS_ILLUMINANTS["D65"].copy().align(shape)
    with TARGET.open("w", newline="") as file:
        writer = csv.writer(file)
        writer.writerow(["wavelength_nm", "x_bar", "y_bar", "z_bar", "d65"])
        for nm in shape.wavelengths:
            writer.writerow([int(nm), *(f"{v:.6f}" for v in observer[nm]), f"{light[nm]:.4f}"])


if __name__ == "__main__":
    main()
