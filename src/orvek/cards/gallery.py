"""A gallery for showing: a folder with a page of HTML and a picture a pen; no server, no script, nothing from afar."""

from __future__ import annotations

import io
from collections.abc import Callable, Iterator, Sequence
from html import escape
from pathlib import Path

from msgspec import Struct

from orvek.cards.certificate import made_of
from orvek.documents import Artwork, Job
from orvek.documents.job.printing import picture_of
from orvek.errors import CannotReadError
from orvek.files import safe_name, write_atomically

_MOST_PX = 1600
_STYLE = (
    "body{margin:48px auto;max-width:960px;padding:0 24px;background:#f5f2eb;color:#23272c;font:16px/1.5 sans-serif}"
    "h1{font-size:28px}figure{margin:40px 0;border-top:1px solid #dad4c7;padding-top:16px}"
    "img{max-width:100%;display:block}figcaption{color:#6a6d70;margin-top:8px}b{color:#23272c}"
)


class Shown(Struct, frozen=True):
    """A pen as it is shown: its name, what it is made of, its pictures by the names of their files."""

    name: str
    line: str
    files: tuple[str, ...]


def write_gallery(
    folder: Path,
    title: str,
    jobs: Sequence[Job],
    picture: Callable[[Job], bytes | None],
    told: Callable[[float], None] = lambda _part: None,
) -> Path:
    """Write the page and its pictures into a folder; `picture` turns a job's pen as PNG. Returns the page.

    A photo of the finished pen stands before what was computed. Customers and prices are never shown.

    Raises:
        CannotWriteError: the folder cannot be written to.
    """
    shown = []
    for number, job in enumerate(jobs):
        told(number / max(1, len(jobs)))
        files = [_written(folder, job, place, *content) for place, content in enumerate(_pictures(job, picture))]
        shown.append(Shown(job.batch.name, f"{job.pen.name if job.pen else ''} · {made_of(job)}", tuple(files)))
    page = folder / "index.html"
    write_atomically(page, _page(title, shown).encode())
    return page


def _pictures(job: Job, picture: Callable[[Job], bytes | None]) -> Iterator[tuple[bytes, str]]:
    finished = [photo for photo in job.work.photos if photo.task in {"", "press"}]
    for photo in finished[:4]:
        content = _jpeg(photo.artwork)
        if content is not None:
            yield content, "jpg"
    made = picture(job)
    if made is not None:
        yield made, "png"


def _jpeg(artwork: Artwork) -> bytes | None:
    """A photo for a page: small enough, and without what a camera writes of when and where; None if unreadable."""
    try:
        found = picture_of(artwork, (_MOST_PX, _MOST_PX))
    except CannotReadError:
        return None
    found.thumbnail((_MOST_PX, _MOST_PX))
    out = io.BytesIO()
    found.save(out, "JPEG", quality=88)
    return out.getvalue()


def _written(folder: Path, job: Job, place: int, content: bytes, kind: str) -> str:
    name = f"{safe_name(job.batch.name)[:60]} {job.batch.id[:6]} {place + 1}.{kind}"
    write_atomically(folder / name, content)
    return name


def _page(title: str, shown: Sequence[Shown]) -> str:
    figures = "".join(_figure(one) for one in shown)
    head = f'<meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>{escape(title)}</title>'
    body = f"<body><h1>{escape(title)}</h1>{figures}</body>"
    return f"<!doctype html><html><head>{head}<style>{_STYLE}</style></head>{body}</html>"


def _figure(one: Shown) -> str:
    pictures = "".join(f'<img src="{escape(name)}" alt="{escape(one.name)}">' for name in one.files)
    return f"<figure>{pictures}<figcaption><b>{escape(one.name)}</b><br>{escape(one.line)}</figcaption></figure>"
