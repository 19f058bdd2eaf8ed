"""The passphrase: which one is good enough, and how it is kept."""

import base64
import binascii
import hashlib
import hmac
import json
import re
import secrets
import threading
from functools import cache
from importlib.resources import files
from pathlib import Path

from squall.core.errors import BadFile, BadQuantity
from squall.words import later

LEAST_LETTERS, LEAST_DIFFERENT = 12, 5
# How many are hashed at once: each takes 16 MB.
_AT_ONCE = threading.BoundedSemaphore(2)
# What is tried where there is nobody, so that it takes as long: no passphrase fits it.
NOBODY = {"salt": "AAAAAAAAAAAAAAAAAAAAAA==", "hash": ""}
_ROWS = ("abcdefghijklmnopqrstuvwxyz", "1234567890", "qwertyuiop", "asdfghjkl", "zxcvbnm", "azertyuiop", "qwertzuiop")


@cache
def common() -> frozenset[str]:
    """Passphrases that are guessed first, as letters and digits alone; from memory."""
    text = (files("squall.web") / "common_passphrases.txt").read_text("utf8")
    return frozenset(_bare(line) for line in text.splitlines() if line and not line.startswith("#"))


def _bare(passphrase: str) -> str:
    return re.sub(r"[^a-z0-9]", "", passphrase.lower())


def check(passphrase: str) -> None:
    """Refuse a passphrase that somebody else would think of.

    Raises
    ------
    BadQuantity
        If it is shorter than twelve letters, of fewer than five different ones, a row of the keyboard, a piece said again
        and again, or a common one.
    """
    if len(passphrase) < LEAST_LETTERS:
        raise BadQuantity(later("The passphrase is too short; twelve letters or more are wanted."))
    bare = _bare(passphrase)
    again = any(len(bare) > n and bare == (bare[:n] * len(bare))[: len(bare)] for n in range(1, 5))
    rows = [row + row for row in _ROWS] + [(row + row)[::-1] for row in _ROWS]
    plain = re.sub(r"\d+$", "", bare)
    if (
        len(set(passphrase)) < LEAST_DIFFERENT or again or bare in common() or plain in common()
        or any(len(bare) >= LEAST_DIFFERENT and bare in row for row in rows)
    ):  # fmt: skip
        raise BadQuantity(later("That passphrase is one that is guessed first; four words of your own are better."))


def _scrypt(passphrase: str, salt: bytes) -> bytes:
    with _AT_ONCE:
        return hashlib.scrypt(passphrase.encode(), salt=salt, n=2**14, r=8, p=1)


def hash_passphrase(passphrase: str) -> dict[str, str]:
    """Salt and scrypt hash of a passphrase, as kept in the data folder.

    Raises
    ------
    BadQuantity
        As :func:`check`.
    """
    check(passphrase)
    salt = secrets.token_bytes(16)
    return {"salt": base64.b64encode(salt).decode(), "hash": base64.b64encode(_scrypt(passphrase, salt)).decode()}


def fits(passphrase: str, kept: dict[str, str]) -> bool:
    """Whether a passphrase is the one that was kept."""
    found = _scrypt(passphrase, base64.b64decode(kept["salt"]))
    return hmac.compare_digest(found, base64.b64decode(kept["hash"]))


def keep_passphrase(path: Path, passphrase: str) -> None:
    """Write the hash of a passphrase, readable by its owner only.

    Raises
    ------
    BadQuantity
        As :func:`check`.
    BadFile
        If it can't be written; the one before stays.
    """
    kept = json.dumps(hash_passphrase(passphrase))
    fresh = path.with_suffix(".new")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        fresh.touch(mode=0o600)
        fresh.write_text(kept, "utf8")
        fresh.chmod(0o600)
        fresh.replace(path)
    except OSError as error:
        raise BadFile(later("{path} can't be written: {why}.", path=path, why=error.strerror or str(error))) from error


def read_hash(path: Path) -> dict[str, str] | None:
    """The kept hash of a passphrase, or None.

    Raises
    ------
    BadFile
        If the file is damaged: then nobody comes in until the passphrase is set anew.
    """
    if not path.exists():
        return None
    try:
        kept = json.loads(path.read_text("utf8"))
        found = {name: str(kept[name]) for name in ("salt", "hash")}
        for text in found.values():
            base64.b64decode(text, validate=True)
    except (ValueError, KeyError, TypeError, binascii.Error) as error:
        raise BadFile(later("{path} is damaged; set the passphrase anew with: squall passphrase", path=path)) from error
    return found
