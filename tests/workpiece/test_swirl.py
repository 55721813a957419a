"""The impression of a swirl: repeatable, and each colour in its share."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from orvek.workpiece.swirl import swirl_field, swirl_picture

BLACK, WHITE, RED = (0, 0, 0), (255, 255, 255), (255, 0, 0)


def test_the_same_seed_gives_the_same_pattern() -> None:
    one, two, other = (swirl_field(130, 20, 40, 200, seed) for seed in (4, 4, 5))
    assert np.array_equal(one.level, two.level)
    assert not np.array_equal(one.level, other.level)
    with pytest.raises(ValueError, match="read-only"):
        one.level[0, 0] = 1


@given(st.integers(0, 9999), st.floats(0.05, 0.95))
def test_each_colour_takes_its_share(seed: int, share: float) -> None:
    picture = swirl_picture(swirl_field(130, 20, 60, 300, seed), (BLACK, WHITE), (share, 1 - share))
    assert np.mean(picture[..., 0] < 128) == pytest.approx(share, abs=0.02)


def test_a_finer_grid_shows_the_same_pattern() -> None:
    coarse, fine = swirl_field(130, 20, 40, 200, 7).level, swirl_field(130, 20, 120, 600, 7).level
    sampled = fine[np.linspace(0, 119, 40).round().astype(int)][:, np.linspace(0, 599, 200).round().astype(int)]
    assert np.corrcoef(coarse.ravel(), sampled.ravel())[0, 1] > 0.995


def test_one_colour_none_and_three() -> None:
    field = swirl_field(50, 20, 20, 50, 1)
    assert swirl_picture(field, (), ()).shape == (20, 50, 3)
    assert swirl_picture(field, (RED,), (1,))[..., 1].max() < 20
    assert swirl_picture(field, (BLACK, WHITE, RED), (1, 1, 1)).shape == (20, 50, 3)
