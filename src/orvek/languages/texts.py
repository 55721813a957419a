"""Which strings of a source are texts that people read, and how those of another language take their place.

A text stands in the sources as it is read in English: "Nothing to undo", f"{count} bars of {resin.name}". Its places
are named by what fills them, "{count} bars of {name}", and may come in another order in another language. A line that
ends in `# keys` has none, whatever its strings look like; one that ends in `# texts` has texts of one small word, too.

`translated(tree, lines, translate, keys)` asks `translate` for every text; `keys_of(tree)` are strings that are none.
"""

from __future__ import annotations

import ast
import re
from collections.abc import Callable, Container, Iterator, Sequence
from string import Formatter
from typing import Any, NamedTuple

# What these are given nobody reads: it is for other libraries and the system, names files, takes strings apart, or is
# written for developers.
_NOT_READ = frozenset({
    "cast", "TypeVar", "NewType", "getattr", "hasattr", "setattr", "import_module", "AssertionError",
    "ForeignKey", "execute", "executemany", "put_setting", "setting", "connect", "compile", "sub", "strftime",
    "strptime", "isoformat", "toString", "normalize", "getenv", "setdefault", "new_bool_var", "qr", "walk",
    "setStyleSheet", "setObjectName", "setFont", "QFont", "QKeySequence", "QSettings", "setStyle", "QColor",
    "HexColor", "TableStyle", "ParagraphStyle", "registerFont", "TTFont", "setCreator", "save", "convert",
    "draft", "new", "frombytes", "contour_generator", "solve_ivp", "Price", "Path", "joinpath", "with_name",
    "with_suffix", "glob", "rglob", "encode", "read_text", "split", "rsplit", "partition", "rpartition",
    "splitlines", "startswith", "endswith", "removeprefix", "removesuffix", "strip", "lstrip", "rstrip",
    "replace", "find", "index", "count", "fromkeys", "get", "pop", "debug", "info", "warning", "error",
    "exception", "critical", "guarded",
})  # fmt: skip
_NOT_READ_KEYWORDS = frozenset({"metavar", "prog", "choices", "default", "name", "key", "sep", "mode", "method"})
_STYLE = r"(font|color|background|border|padding|margin|text|min|max|width|height|image)[a-z-]*: ?[^;]*;"
_MARKUP = re.compile(rf"\s*(<|[A-Z]+:|%\(|Q[A-Z]|.*\b{_STYLE})", re.DOTALL)
_NO_TEXTS, _TEXTS = "# keys", "# texts"
# What these are given is read, a small word too.
_SHOWS = frozenset({"set_text", "add_action", "Label", "quiet_label", "heading", "setText", "QPushButton", "drawText"})
_STATEMENT = re.compile(
    r"\s*((create|drop|alter) (unique )?(table|index|trigger)|(select|insert|update|delete|substr)\b.*[?=*]|pragma)",
    re.DOTALL,
)
_ONE_WORD = re.compile(r"(&?[A-Z]|[A-Z]&)[a-zäöüß&’'-]+[.…:?!]?$")
_WORD = re.compile(r"[^\W\d_]{2,}")
_UNITS = frozenset(["mm", "ml", "kg", "mg", "min", "rpm", "psi", "kN", "kJ", "MPa", "°C", "°F", "µm", "in"])


def is_text(words: str) -> bool:
    """Whether a plain string can be one: several words, or one word that begins like a sentence."""
    may_be = " " in words or _ONE_WORD.match(words) is not None
    return may_be and has_words(words) and not _MARKUP.match(words) and not _STATEMENT.match(words)


def has_words(text: str) -> bool:
    """Whether there is more in it than units and symbols, which are the same everywhere."""
    return any(word not in _UNITS for word in _WORD.findall(text))


class Keys(NamedTuple):
    """Strings of a source that the program goes by, and so no texts wherever they stand.

    Attributes:
        compared: those that are compared, matched or looked up.
        shown: the values of fields and enumerations and the names of pages: kept as they are, and shown (`said`).
    """

    compared: frozenset[str]
    shown: frozenset[str]


def keys_of(tree: ast.AST) -> Keys:
    """The keys of a source."""
    compared, shown = set[str](), set[str]()
    for node in ast.walk(tree):
        match node:
            case ast.Compare():
                compared.update(_strings(node.left, *node.comparators))
            case ast.Dict():
                compared.update(_strings(*node.keys))
            case ast.Subscript():
                compared.update(_strings(node.slice))
                if isinstance(node.value, ast.Name) and node.value.id == "Literal":
                    shown.update(_strings(node.slice))
            case ast.MatchValue():
                compared.update(_strings(node.value))
            case ast.Call(func=ast.Attribute(attr="get" | "pop" | "startswith" | "endswith"), args=[first, *_]):
                compared.update(_strings(first))
            case ast.Assign(targets=[ast.Name(id=name)]) if name.endswith("PAGES"):
                shown.update(_strings(node.value))
            case ast.ClassDef() if _is_enumeration(node):
                shown.update(_strings(*(one.value for one in node.body if isinstance(one, ast.Assign))))
    return Keys(frozenset(compared), frozenset(key for key in shown if has_words(key)))


def _is_enumeration(node: ast.ClassDef) -> bool:
    return any(isinstance(base, ast.Name) and base.id == "StrEnum" for base in node.bases)


def _strings(*parts: ast.AST | None) -> Iterator[str]:
    """The strings among some expressions, those in tuples, lists and sets too."""
    for part in parts:
        if isinstance(part, ast.Constant) and isinstance(part.value, str):
            yield part.value
        elif isinstance(part, ast.Tuple | ast.Set | ast.List):
            yield from _strings(*part.elts)


def translated(
    tree: ast.Module, lines: Sequence[str], translate: Callable[[str], str], keys: Container[str]
) -> ast.Module:
    """The same program with what `translate` answers in the place of each text.

    An answer whose places are not those of the text is left aside: the text stays.

    Args:
        tree: of a source; it is changed.
        lines: that source, line by line.
        translate: asked for each text, some of them more than once.
        keys: strings that are no texts.
    """
    changed: ast.Module = _Translator(translate, keys, lines).visit(tree)
    return changed


class _Translator(ast.NodeTransformer):
    """Goes through a source, past whatever nobody reads."""

    def __init__(self, translate: Callable[[str], str], keys: Container[str], lines: Sequence[str]) -> None:
        self._translate, self._keys, self._lines = translate, keys, lines
        self._shown = False  # whether what is visited is given to what shows it

    def visit(self, node: ast.AST) -> Any:
        """Go on, but not into what stands on a line without texts."""
        is_simple = isinstance(node, ast.expr | ast.Assign | ast.Return | ast.Expr | ast.keyword)
        return node if is_simple and self._ends(node, _NO_TEXTS) else super().visit(node)

    def _ends(self, node: ast.AST, mark: str) -> bool:
        """Whether the line where a node begins has this mark."""
        return self._lines[getattr(node, "lineno", 1) - 1].endswith(mark)

    def visit_Constant(self, node: ast.Constant) -> ast.AST:
        if not isinstance(node.value, str):
            return node
        is_small = (self._shown or self._ends(node, _TEXTS)) and node.value.isalpha() and has_words(node.value)
        if not is_small and (node.value in self._keys or not is_text(node.value)):
            return node
        answer = self._translate(node.value)
        return ast.copy_location(ast.Constant(answer), node) if _same_places(node.value, answer) else node

    def visit_JoinedStr(self, node: ast.JoinedStr) -> ast.AST:
        node.values = [self.visit(one) if isinstance(one, ast.FormattedValue) else one for one in node.values]
        template, places = _template(node)
        plain = "".join(part for part, *_ in Formatter().parse(template))
        if not is_text(plain) or _MARKUP.match(template):
            return node
        answer = self._translate(template)
        if not _same_places(template, answer):
            return node
        values: list[ast.expr] = []
        for part, place, _, _ in Formatter().parse(answer):
            values += [ast.Constant(part)] if part else []
            values += [places[place]] if place else []
        return ast.fix_missing_locations(ast.copy_location(ast.JoinedStr(values), node))

    def visit_FormattedValue(self, node: ast.FormattedValue) -> ast.AST:
        node.value = self.visit(node.value)
        return node  # how a number is written is no text

    def visit_Call(self, node: ast.Call) -> ast.AST:
        called = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
        node.func = self.visit(node.func)
        before, self._shown = self._shown, called in _SHOWS
        if called not in _NOT_READ:
            node.args = [self.visit(one) for one in node.args]
            for keyword in node.keywords:
                if keyword.arg not in _NOT_READ_KEYWORDS:
                    keyword.value = self.visit(keyword.value)
        self._shown = before
        return node

    def visit_Compare(self, node: ast.Compare) -> ast.AST:
        """What is compared is a key."""
        return node

    def visit_Dict(self, node: ast.Dict) -> ast.AST:
        """Names are keys, what they name may be a text."""
        node.values = [self.visit(one) for one in node.values]
        return node

    def visit_MatchValue(self, node: ast.MatchValue) -> ast.AST:
        """And so is what is matched."""
        return node

    def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
        """And what is looked up; what it is looked up in may hold texts."""
        node.value = self.visit(node.value)
        return node

    def visit_Assign(self, node: ast.Assign) -> ast.AST:
        """What a module offers is a list of names."""
        is_offer = any(isinstance(one, ast.Name) and one.id == "__all__" for one in node.targets)
        return node if is_offer else self.generic_visit(node)

    def visit_AnnAssign(self, node: ast.AnnAssign) -> ast.AST:
        """An annotation is no text, the value may be one."""
        if node.value is not None:
            node.value = self.visit(node.value)
        return node

    def visit_ClassDef(self, node: ast.ClassDef) -> ast.AST:
        """The values of an enumeration are keys."""
        return node if _is_enumeration(node) else self.generic_visit(node)

    def visit_Expr(self, node: ast.Expr) -> ast.AST:
        """Docstrings stay."""
        return node if isinstance(node.value, ast.Constant) else self.generic_visit(node)


def _same_places(text: str, answer: str) -> bool:
    """Whether an answer has each place of the text just as often."""
    if text == answer or not ("{" in text or "{" in answer):
        return True
    try:
        there, wanted = (
            sorted(place for _, place, _, _ in Formatter().parse(one) if place is not None) for one in (answer, text)
        )
    except ValueError:
        return False
    return there == wanted


def _template(node: ast.JoinedStr) -> tuple[str, dict[str, ast.FormattedValue]]:
    """The text of an f-string, and what fills its places."""
    text, places = "", dict[str, ast.FormattedValue]()
    for value in node.values:
        if isinstance(value, ast.Constant):
            text += str(value.value).replace("{", "{{").replace("}", "}}")
        elif isinstance(value, ast.FormattedValue):
            name = usual = _place_name(value.value) or "value"
            number = 2
            while name in places:
                name, number = f"{usual}_{number}", number + 1
            places[name] = value
            text += f"{{{name}}}"
    return text, places


def _place_name(filling: ast.expr) -> str:
    """What a translator may call the place: the variable, the attribute, or what is written there."""
    match filling:
        case ast.Name(id=name):
            return name
        case ast.Attribute(attr="value" | "name" as attribute, value=owner):
            return _place_name(owner) if attribute == "value" else attribute
        case ast.Attribute(attr=name):
            return name
        case ast.Call(func=ast.Attribute(value=owner), args=[ast.Constant(), *_] | []):
            return _place_name(owner)
        case ast.Call(args=[first, *_]):
            return _place_name(first)
        case ast.Call(func=function):
            return _place_name(function)
        case ast.Subscript(value=inner) | ast.BinOp(right=ast.Constant(), left=inner):
            return _place_name(inner)
        case ast.BinOp(right=inner) | ast.UnaryOp(operand=inner) | ast.IfExp(body=ast.Constant(), test=inner):
            return _place_name(inner)
        case ast.IfExp(body=inner):
            return _place_name(inner)
    return ""
