"""How one running application is set up, and what one request may ask of it."""

import os
import secrets
from dataclasses import dataclass, field
from pathlib import Path

from squall.store.folder.database import FILE_NAME

# Methods of a request that changes nothing.
SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


@dataclass(frozen=True)
class Settings:
    """Where the data lies and who may come.

    Attributes
    ----------
    data : Path
        Folder of the database.
    hosts : tuple[str, ...]
        Names under which the application answers.
    passphrase_file : Path or None
        Hash of the passphrase; needed to answer to other machines.
    demo : bool
        Whether this is the demo's own data.
    sealed : bool
        Whether all that goes over the air is sealed (TLS).
    addresses : tuple[str, ...]
        Where others reach it, as they type it.
    fingerprint : str
        Of the certificate; empty without one.
    several : bool
        Whether this is one process among several that answer.
    """

    data: Path
    hosts: tuple[str, ...] = ("localhost", "127.0.0.1", "[::1]")
    need_passphrase: bool = False
    demo: bool = False
    sealed: bool = False
    addresses: tuple[str, ...] = ()
    fingerprint: str = ""
    several: bool = False
    key: str = field(default_factory=lambda: secrets.token_urlsafe(24))

    @property
    def database(self) -> Path:
        """The SQLite file."""
        return self.data / FILE_NAME

    @property
    def passphrase_file(self) -> Path:
        """Hash of the passphrase."""
        return self.data / "passphrase.json"


def default_data() -> Path:
    """Data folder: ``SQUALL_DATA``, else the user's own data folder."""
    given = os.environ.get("SQUALL_DATA")
    if given:
        return Path(given)
    from platformdirs import user_data_path

    return user_data_path("squall", appauthor=False)
