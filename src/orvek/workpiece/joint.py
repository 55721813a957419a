"""Where two barrels meet: how far one of them is to be turned so that the pattern runs on over the joint."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray


def carried_over(one: NDArray[np.uint8], other: NDArray[np.uint8]) -> tuple[float, float]:
    """By how much to turn the second barrel about its axis, and how well the two lips then agree.

    Args:
        one: (rows, 3) colours round the first barrel's lip, row 0 at azimuth 0.
        other: (rows, 3) colours round the second one's, as it is not turned.

    Returns:
        Degrees by which the second one is turned, in [0, 360), and the correlation of the two rings there, −1 to 1:
        0 where one of them is of one colour, so that any turn is as good. Textbook (circular cross-correlation).
    """
    rows = one.shape[0]
    first, second = (ring.astype(float) - ring.astype(float).mean(axis=0) for ring in (one, other))
    norm = float(np.sqrt((first**2).sum() * (second**2).sum()))
    if norm < 1e-9:
        return 0.0, 0.0
    spectra = np.fft.rfft(second, axis=0) * np.conj(np.fft.rfft(first, axis=0))
    agreement = np.fft.irfft(spectra, n=rows, axis=0).sum(axis=1)
    best = int(np.argmax(agreement))
    # Turned by t a barrel shows at azimuth a what it has at a + t.
    return best / rows * 360.0, float(agreement[best]) / norm
