"""Messages as text in a database: kept by their parts, so that whoever reads them later reads in their own language."""

import json
from typing import Any

from squall.core.reason import Between, Quantity, Reason, Spoken, Told
from squall.words.message import Message


def kept(said: Spoken) -> str:
    """A message as text to be stored; plain words stay as they are.

    Examples
    --------
    >>> str(revived(kept(Message("lift set to {typed}", {"typed": "25 ft"}))))
    'lift set to 25 ft'
    >>> revived(kept("job made"))
    'job made'
    """
    return said if isinstance(said, str) else json.dumps(_plain(said), ensure_ascii=False)


def revived(text: str) -> Spoken:
    """What :func:`kept` stored; text of an older Squall comes back as it is."""
    if not text.startswith('{"'):
        return text
    try:
        found = _told(json.loads(text))
    except (ValueError, KeyError, TypeError):
        return text
    return found if isinstance(found, str | Told) else text


def _plain(value: Any) -> Any:
    if isinstance(value, Message):
        return {"text": value.text, "many": value.many, "values": {k: _plain(v) for k, v in value.values.items()}}
    if isinstance(value, Reason):
        return {"code": value.code, "values": {k: _plain(v) for k, v in value.values.items()}}
    if isinstance(value, Quantity):
        return {"value": value.value, "kind": value.kind}
    if isinstance(value, Between):
        return {"low": value.low, "high": value.high, "kind": value.kind}
    return value if value is None or isinstance(value, str | int | float) else str(value)


def _told(plain: Any) -> Any:
    if not isinstance(plain, dict):
        return plain
    if "text" in plain:
        return Message(plain["text"], {k: _told(v) for k, v in plain["values"].items()}, plain["many"])
    if "code" in plain:
        return Reason(plain["code"], **{k: _told(v) for k, v in plain["values"].items()})
    if "low" in plain:
        return Between(plain["low"], plain["high"], plain["kind"])
    return Quantity(plain["value"], plain["kind"])
