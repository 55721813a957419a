"""Deeds with the pieces on the shelf: each takes a shop and gives the shop that follows."""

from datetime import datetime

from orvek.documents.deeds.tuples import fresh_name
from orvek.documents.job.blank import Blank
from orvek.documents.job.job import Job
from orvek.documents.shelf.piece import Piece, new_code
from orvek.documents.shelf.shop import Shop
from orvek.documents.steps import PhotoStep
from orvek.errors import NothingToDoError, OutOfBoundsError

LEAST_MM = 2.0  # what is shorter is a sliver, not a piece


def put_piece(shop: Shop, piece: Piece) -> Shop:
    """Put a piece on the shelf, in the place of the one with its code; its name is made fresh where it is taken."""
    others = [one for one in shop.pieces if one.code != piece.code]
    piece = piece.with_(name=fresh_name(piece.name, [one.name for one in others]))
    if len(others) == len(shop.pieces):
        return shop.with_(pieces=(piece, *shop.pieces))
    return shop.with_(pieces=tuple(piece if one.code == piece.code else one for one in shop.pieces))


def photographed(piece: Piece, step: PhotoStep, album: str) -> Piece:
    """A piece with the photos of an album, of the size that was measured beside them."""
    sized = {name: getattr(step, name) for name in ("form", "length_mm", "width_mm", "depth_mm")}
    return piece.with_(album=album, **sized)


def take_piece_off(shop: Shop, code: str) -> Shop:
    """Take a piece off the shelf.

    Raises:
        NothingToDoError: there is no piece of this code.
    """
    _piece(shop, code)
    return shop.with_(pieces=tuple(one for one in shop.pieces if one.code != code))


def count_piece(shop: Shop, code: str, amount: float, at: datetime) -> Shop:
    """A stock count: so many, or so many grams, are there at a moment, whatever was booked before it."""
    piece = _piece(shop, code)
    counted = {"grams": amount} if piece.grams is not None else {"count": round(amount)}
    return put_piece(shop, piece.with_(**counted, counted_at=at))


def cut_off(shop: Shop, code: str, at_mm: float, kerf_mm: float, albums: tuple[str, str] = ("", "")) -> Shop:
    """Saw a piece across at a place from its left end: two pieces, each knowing where on it it was.

    Of several that are alike one is sawn. What is shorter than a sliver is lost. `albums` has the photos of both.

    Raises:
        OutOfBoundsError: the place does not lie on it.
        NothingToDoError: there is no such piece, or none of it left.
    """
    piece = _piece(shop, code)
    if not 0 < at_mm < piece.length_mm:
        raise OutOfBoundsError("The cut", f"{at_mm:.1f} mm", f"between 0 and {piece.length_mm:.1f} mm")
    if piece.count < 1:
        raise NothingToDoError("Sawing it", "a piece of it that is left")
    parts = []
    for (low, high), side, album in zip(halves_mm(piece, at_mm, kerf_mm), ("left", "right"), albums, strict=True):
        if high - low >= LEAST_MM:
            parts.append(_part(piece, low, high, f"{piece.name[:70]}, {side}", album))
    shop = put_piece(shop, piece.with_(count=piece.count - 1)) if piece.count > 1 else take_piece_off(shop, code)
    for part in parts:
        shop = put_piece(shop, part)
    return shop


def saw_into(shop: Shop, code: str, parts: tuple[Piece, ...]) -> Shop:
    """Saw one piece into others, whatever is left of it lost; of several that are alike one is sawn.

    Raises:
        NothingToDoError: there is no such piece, none of it left, or nothing to saw it into.
    """
    piece = _piece(shop, code)
    if piece.count < 1 or not parts:
        raise NothingToDoError("Sawing it", "a piece of it that is left, and a bar to saw")
    shop = put_piece(shop, piece.with_(count=piece.count - 1)) if piece.count > 1 else take_piece_off(shop, code)
    for part in reversed(parts):
        shop = put_piece(shop, part)
    return shop


def begin_with(job: Job, piece: Piece, step: PhotoStep) -> Job:
    """A job whose blank begins with a piece from the shelf as photos or its look show it; the pen is kept.

    Raises:
        NothingToDoError: it is no bar.
    """
    if not piece.is_solid or piece.kind == "orphan barrel":
        raise NothingToDoError("Beginning a blank with it", "a bar, a leftover or a board")
    blank = Blank(steps=(step,), piece=piece.code, saw_kerf_mm=job.blank.saw_kerf_mm, end_waste_mm=0)
    return job.with_(batch=job.batch.with_(name=piece.name, pens_wanted=1), blank=blank)


def _piece(shop: Shop, code: str) -> Piece:
    found = next((one for one in shop.pieces if one.code == code), None)
    if found is None:
        raise NothingToDoError("That", f"a piece {code[:12]} on the shelf")
    return found


def halves_mm(piece: Piece, at_mm: float, kerf_mm: float) -> tuple[tuple[float, float], tuple[float, float]]:
    """From where to where the two pieces of a cut lie on it."""
    return (0.0, at_mm - kerf_mm / 2), (at_mm + kerf_mm / 2, piece.length_mm)


def _part(piece: Piece, low: float, high: float, name: str, album: str) -> Piece:
    look = piece.look.with_(from_mm=piece.look.from_mm + low) if piece.look is not None else None
    return piece.with_(
        name=name,
        code=new_code(),
        kind="leftover" if piece.kind in {"bar", "leftover"} else piece.kind,
        count=1,
        length_mm=round(high - low, 2),
        parent=piece.code,
        from_mm=round(low, 2),
        look=look,
        album=album,
        born="",
    )
