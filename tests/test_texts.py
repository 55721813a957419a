"""The reviewer's list of sentences: what is a text, what is none, and where it stands."""

from __future__ import annotations

import runpy
from pathlib import Path

import pytest

_SCRIPT = Path(__file__).parents[1] / "script" / "texts"
TEXTS = runpy.run_path(str(_SCRIPT))


@pytest.mark.parametrize(
    ("source", "found"),
    [
        ('"""What it is for."""\n\nlabel("Nothing to undo")', [(3, "Nothing to undo")]),
        ('label("Pour"); label("&Undo"); label("poured")', [(1, "Pour"), (1, "&Undo")]),
        ('if way == "light test":\n    say("light test")', [(2, "light test")]),
        ('way: Literal["by shape"] = "by shape"', [(1, "by shape")]),
        ('field.setStyleSheet(f"color: {ink}"); css = f"font-size: {size}px; color: red;"', []),
        ('f"{count} × {bar.name}, {write(bar.length_mm, units)} mm"', []),
        ('f"{count} bars of {resin.name}"', [(1, "{count} bars of {resin.name}")]),
    ],
)
def test_what_is_a_text(source: str, found: list[tuple[int, str]]) -> None:
    assert list(TEXTS["texts_of"](source)) == found


def test_it_prints_file_and_line(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    (tmp_path / "a.py").write_text('\nlabel("Pour it slowly")\n')
    (tmp_path / "b.json").write_text('[{"key": "slow pour", "caution": "Wear gloves."}]')
    assert TEXTS["main"]([str(tmp_path)]) == 0
    assert capsys.readouterr().out == f"{tmp_path}/a.py:2: 'Pour it slowly'\n{tmp_path}/b.json: 'Wear gloves.'\n"
