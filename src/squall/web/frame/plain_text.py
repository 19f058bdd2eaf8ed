"""Templates in plain English: whatever a person reads in them is a message, with nothing to mark and nothing to forget.

Before a template is compiled it is cut, by HTML, into runs of text: what stands between two tags, or in an attribute that
is read out or shown. Each run with a word in it becomes one message, with its ``{{ … }}`` as values; a string constant
that a run shows (``{{ 'brushed' if … else 'brushless' }}``) becomes one too. The compiled template asks for each message
in the language of the voice. :func:`messages_of` lists them for the catalogue.
"""

import re
from collections.abc import Iterator
from typing import Any

from jinja2 import Environment, nodes
from jinja2.compiler import CodeGenerator, Frame
from markupsafe import Markup, escape

from squall.words.message import pieces_of, translated

# Attributes that a person sees or hears.
READ_ATTRIBUTES = ("title", "aria-label", "placeholder", "alt")
# Arguments of macros that are words: positions and names.
WORDS_OF_MACROS: dict[str, tuple[int | str, ...]] = {
    "act": (4, "label", "confirm", "aria"), "new_row": (4, "label"), "because": (1, 2, "title", "words"), "field": (3, "label"),
    "f": (1, "label"), "why": (), "figures": (),
}  # fmt: skip
_JINJA = r"\{#.*?#\}|\{%.*?%\}|\{\{.*?\}\}"
_TAG = rf"""</?[a-zA-Z!](?:{_JINJA}|"(?:{_JINJA}|[^"])*"|'(?:{_JINJA}|[^'])*'|[^<>"'{{])*>"""
_TOKEN = re.compile(rf"(?P<comment>\{{#.*?#\}})|(?P<block>\{{%.*?%\}})|(?P<value>\{{\{{.*?\}}\}})|(?P<tag>{_TAG})|(?P<text>[^<{{]+|[<{{])", re.S)  # fmt: skip
_ATTRIBUTE = re.compile(rf'(?P<name>{"|".join(READ_ATTRIBUTES)})="(?P<value>(?:{_JINJA}|[^"])*)"', re.S)
_INLINE = re.compile(r"</?(?:b|i|em|strong)>")
_WORD = re.compile(r"[^\W\d_]{2,}")
_RAW = re.compile(r"<(?:script|style)\b.*?</(?:script|style)>", re.S)
_NAME = re.compile(r"[A-Za-z_]\w*")
SAY, SHOW = "_t", "_w"
_SPECIAL = re.compile("[&<>'\"]").search


def say_text(text: str, **values: Any) -> Markup:
    """A message of a template with its values in place, each escaped unless it is markup."""
    said = translated(text)
    if not values and "{" not in said:
        return Markup(said)
    pieces = pieces_of(said)
    if pieces is None or any(kind for _, _, kind in pieces):
        return Markup(said).format(**{name: "" if value is None else value for name, value in values.items()})
    # Joined, not added up: markup that is added to a text escapes it.
    return Markup(
        "".join(part for before, name, _ in pieces for part in (before, "" if name is None else _seen(values[name])))
    )


def _seen(value: Any) -> str:
    return "" if value is None else escaped(value)


def escaped(value: Any) -> str:
    """A value as it may stand in HTML; what holds nothing to escape is given back as it is, as nearly all of a page does."""
    if type(value) is str:
        return value if _SPECIAL(value) is None else escape(value)
    return value if type(value) is Markup else escape(value)


def show_word(text: str) -> str:
    """A constant that a template shows, in the language of the voice."""
    return translated(text)


class _Shorter(CodeGenerator):
    """Templates that escape by :func:`escaped`: a page shows two thousand values."""

    def _output_child_pre(self, node: nodes.Expr, frame: Frame, finalize: Any) -> None:
        if finalize.src is None and frame.eval_ctx.autoescape and not frame.eval_ctx.volatile:
            self.write("environment.escaped(")
        else:
            super()._output_child_pre(node, frame, finalize)


class PlainTextEnvironment(Environment):
    """Jinja, with every text of a template a message."""

    code_generator_class = _Shorter
    escaped = staticmethod(escaped)

    def __init__(self, **options: Any) -> None:
        super().__init__(**options)
        self.globals |= {SAY: say_text, SHOW: lambda value: value, "_": show_word}

    def _parse(self, source: str, name: str | None, filename: str | None) -> nodes.Template:
        tree = super()._parse(marked(source), name, filename)
        for call in tree.find_all(nodes.Call):
            _mark_words(call)
        for loop in tree.find_all(nodes.For):
            _mark_loop(loop)
        # An "if" without an "else" shows nothing; as an undefined value it would cost a caught error each time.
        for choice in tree.find_all(nodes.CondExpr):
            choice.expr2 = choice.expr2 or nodes.Const("")
        return tree


def marked(source: str) -> str:
    """A template with its texts turned into calls that say them."""
    pieces: list[str] = []
    run: list[tuple[str, str]] = []

    def close() -> None:
        pieces.extend(_message(part) for part in _balanced(run))
        run.clear()

    at = 0
    for raw in [*_RAW.finditer(source), None]:
        end = raw.start() if raw is not None else len(source)
        for found in _TOKEN.finditer(source, at, end):
            kind, text = found.lastgroup or "", found[0]
            if kind in ("text", "value") or (kind == "tag" and _INLINE.fullmatch(text)):
                run.append((kind, text))
                continue
            close()
            pieces.append(_with_attributes(text) if kind == "tag" else text)
        close()
        if raw is not None:
            pieces.append(raw[0])
            at = raw.end()
    return "".join(pieces)


def _balanced(run: list[tuple[str, str]]) -> Iterator[list[tuple[str, str]]]:
    """A run whole, or cut at its inline tags where one of them has no partner in it."""
    if not run:
        return
    depth, broken = 0, False
    for kind, text in run:
        depth += (-1 if text.startswith("</") else 1) if kind == "tag" else 0
        broken = broken or depth < 0
    if depth == 0 and not broken:
        yield run
        return
    part: list[tuple[str, str]] = []
    for kind, text in run:
        if kind == "tag":
            if part:
                yield part
            yield [(kind, text)]
            part = []
        else:
            part.append((kind, text))
    if part:
        yield part


def _with_attributes(tag: str) -> str:
    def put(found: re.Match[str]) -> str:
        tokens = [(t.lastgroup or "", t[0]) for t in _TOKEN.finditer(found["value"])]
        if any(kind in ("block", "tag") for kind, _ in tokens):
            return found[0]
        return f'{found["name"]}="{_message(tokens)}"'

    return _ATTRIBUTE.sub(put, tag)


def _message(run: list[tuple[str, str]]) -> str:
    """One run: as it is without a word in it, else one call that says it."""
    if not _WORD.search("".join(re.sub(r"&\w+;", "", text) for kind, text in run if kind == "text")):
        return "".join(_shown(text) if kind == "value" else text for kind, text in run)
    text = ""
    names: dict[str, str] = {}
    for kind, part in run:
        if kind == "value":
            inside = part[2:-2].strip("-+ \n")
            name = _name_of(inside, names)
            names[name] = inside
            text += "{" + name + "}"
        else:
            text += part.replace("{", "{{").replace("}", "}}")
    body = re.sub(r"\s+", " ", text.strip())
    head, tail = text[: len(text) - len(text.lstrip())], text[len(text.rstrip()) :]
    values = "".join(f", {name}=({inside})" for name, inside in names.items())
    quoted = body.replace("\\", "\\\\").replace('"', '\\"')
    return f'{head}{{{{ {SAY}("{quoted}"{values}) }}}}{tail}'


def _shown(value: str) -> str:
    inside = value[2:-2].strip("-+ \n")
    return f"{{{{ {SHOW}({inside}) }}}}" if re.search(r"['\"][^'\"]*[^\W\d_]{2,}", inside) else value


def _name_of(inside: str, taken: dict[str, str]) -> str:
    """A short name for an expression's value: its last plain word that isn't a string."""
    words = _NAME.findall(re.sub(r"'[^']*'|\"[^\"]*\"", "", inside))
    words = [
        w for w in words if w not in ("qty", "say", "m", "if", "else", "not", "and", "or", "in", "is", "none", "f")
    ]
    base = (words[-1] if words else "value").strip("_") or "value"
    name, number = base, 2
    while name in taken and taken[name] != inside:
        name, number = f"{base}{number}", number + 1
    return name


def _mark_words(call: nodes.Call) -> None:
    """Let string constants in the places where words stand be said."""
    target = call.node.name if isinstance(call.node, nodes.Name) else getattr(call.node, "attr", "")
    if target == SAY:
        for pair in call.kwargs:
            pair.value = _said(pair.value)
    elif target == SHOW:
        call.args = [_said(arg) for arg in call.args]
    elif target in WORDS_OF_MACROS:
        places = WORDS_OF_MACROS[target]
        call.args = [_said(arg) if number in places else arg for number, arg in enumerate(call.args)]
        for pair in call.kwargs:
            if pair.key in places:
                pair.value = _said(pair.value)


def _mark_loop(loop: nodes.For) -> None:
    """``{% for key, words in (('a', 'Add a crop'), …) %}``: what is called words is said."""
    if not (isinstance(loop.target, nodes.Tuple) and isinstance(loop.iter, nodes.Tuple)):
        return
    places = [n for n, name in enumerate(loop.target.items) if isinstance(name, nodes.Name) and name.name == "words"]
    for row in loop.iter.items:
        if isinstance(row, nodes.Tuple):
            row.items = [_said(item) if number in places else item for number, item in enumerate(row.items)]


def _said(node: nodes.Expr) -> nodes.Expr:
    """An expression with the constants that it may show being said."""
    if isinstance(node, nodes.Const) and isinstance(node.value, str) and _WORD.search(node.value):
        return nodes.Call(nodes.Name("_", "load"), [node], [], None, None, lineno=node.lineno)
    if isinstance(node, nodes.CondExpr):
        node.expr1 = _said(node.expr1)
        node.expr2 = _said(node.expr2) if node.expr2 is not None else None
    elif isinstance(node, nodes.Concat):
        node.nodes = [_said(part) for part in node.nodes]
    elif isinstance(node, nodes.Or | nodes.Add):
        node.left, node.right = _said(node.left), _said(node.right)
    return node


def messages_of(source: str) -> Iterator[tuple[int, str]]:
    """Every message of a template, with its line: for the catalogue."""
    tree = PlainTextEnvironment().parse(source)
    for call in tree.find_all(nodes.Call):
        name = call.node.name if isinstance(call.node, nodes.Name) else ""
        if name in (SAY, "_") and call.args and isinstance(call.args[0], nodes.Const):
            yield call.lineno, str(call.args[0].value)
