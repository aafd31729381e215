"""Fit K and S of every pigment and write core/data/pigment_curves.csv.

The swatches of pigments.csv are typical values from memory, to be replaced by a
painter's own; the fit's residuals are printed and written to the last two columns.
"""

from __future__ import annotations

import csv
from pathlib import Path

from truesitter.core.colour.spectrum import WAVELENGTHS
from truesitter.core.paint.tubes.fit import Fit, fit_pigment, fit_titanium_white, fit_white
from truesitter.core.paint.tubes.pigments import pigment_library

TARGET = Path(__file__).parents[1] / "src/truesitter/core/data/pigment_curves.csv"


def main() -> None:
    library = pigment_library()
    titanium = fit_titanium_white(library["titanium-white"].masstone)
    with TARGET.open("w", newline="") as file:
        writer = csv.writer(file)
        writer.writerow(["key", "wavelength_nm", "k_per_mm", "s_per_mm", "masstone_delta_e", "tint_delta_e"])
        for key, pigment in library.items():
            if key == "titanium-white":
                fit = Fit(titanium, 0.0, 0.0)
            elif pigment.tint is None:
                fit = Fit(fit_white(pigment.masstone, pigment.opacity, titanium), 0.0, 0.0)
            else:
                fit = fit_pigment(pigment.masstone, pigment.tint, pigment.opacity, titanium)
            print(f"{key:24s} masstone ΔE {fit.masstone_error:.3f}  tint ΔE {fit.tint_error:.3f}")
            curves = zip(WAVELENGTHS, fit.curves.absorption, fit.curves.scattering, strict=True)
            for nm, k, s in curves:
                writer.writerow(
                    [key, int(nm), f"{k:.6g}", f"{s:.6g}",
                     f"{fit.masstone_error:.3f}", f"{fit.tint_error:.3f}"]
                )  # fmt: skip


if __name__ == "__main__":
    main()
