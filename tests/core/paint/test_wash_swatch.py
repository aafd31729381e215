"""A wash of known dilution on the swatch sheet: how strong a tube's washes are."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.paint.test_rack import truly
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.tubes.pigments import Curves
from truesitter.core.paint.tubes.rack import OwnTube, Rack, own_strength
from truesitter.core.paint.tubes.swatches import Swatches
from truesitter.core.refusal import Refusal
from truesitter.devices.meter import made_up_paint


@pytest.mark.parametrize("pigment", ["yellow-ochre", "perm-crimson", "ultramarine-blue", "burnt-umber"])
@pytest.mark.parametrize("tube", ["jar", "pan"])
def test_a_wash_of_known_dilution_says_how_strong_the_tube_is(pigment: str, tube: str) -> None:
    """Invented paints of unlike strength: other dilutions are then predicted within 0.15 value step."""
    paint = made_up_paint(tube, pigment)
    seen = truly(tube, pigment, "masstone", "tint", "over_black", "over_white", "wash")
    read = OwnTube("own", "Own", pigment, Swatches(**seen))
    usual, washed = Rack((read,)), Rack((read,)).for_washes()
    assert own_strength(read) == pytest.approx(paint.strength, rel=0.3)
    thinning = MEDIA["watercolour"].thinning
    nearer = []
    for water in (4, 10, 25):
        film = thinning.dry(Dilution(1, water))
        true = film_value(paint.curves, film * paint.strength)
        nearer.append(abs(film_value(washed.tube("own"), film) - true))
        assert nearer[-1] < 0.15
        assert nearer[-1] <= abs(film_value(usual.tube("own"), film) - true) + 0.02
    assert washed.for_washes() == washed
    k, s = (washed.curves(("own",))[i] / usual.curves(("own",))[i] for i in (0, 1))
    np.testing.assert_allclose(k, own_strength(read))
    np.testing.assert_allclose(s, own_strength(read))
    plain = OwnTube("own", "Own", pigment, Swatches(seen["masstone"]))
    assert own_strength(plain) == 1


def film_value(curves: Curves, mm: float) -> float:
    ground = WHITE_PAPER.internal()
    seen = leave_surface(film_reflectance(curves.absorption, curves.scattering, mm, ground))
    return float(lab_value(reflectance_to_lab(seen)))


@pytest.mark.parametrize(("lightness", "way"), [(99.0, "light"), (8.0, "dark")])
def test_a_wash_no_stroke_of_the_tube_gives_is_refused(lightness: float, way: str) -> None:
    masstone = (58.0, 18.0, 45.0)
    with pytest.raises(Refusal, match=f"too {way} for one stroke"):
        own_strength(OwnTube("own", "Own", "yellow-ochre", Swatches(masstone, wash=(lightness, 0.0, 0.0))))
