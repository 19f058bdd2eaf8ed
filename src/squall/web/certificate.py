"""A certificate made on this machine, so that the phone's words go sealed over the air; and under which names it answers.

Nobody vouches for it but its fingerprint, which the laptop shows and the phone shows too.
"""

import contextlib
import socket
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from hashlib import sha256
from ipaddress import ip_address
from pathlib import Path
from typing import Any

from squall.core.errors import BadFile
from squall.words import later

NAME, KEY = "certificate.pem", "certificate-key.pem"
# Phones take none that lasts longer; a new one is made so long before it ends. [days]
LASTS_DAYS, BEFORE_DAYS = 397, 30
_HERE = ("localhost", "127.0.0.1", "::1")


@dataclass(frozen=True)
class Certificate:
    """Its files, and its fingerprint in pairs as browsers show it."""

    path: Path
    key: Path
    fingerprint: str


def names_here(host: str, more: tuple[str, ...] = ()) -> tuple[str, ...]:
    """Names and addresses under which this machine is reached, those for others first.

    Parameters
    ----------
    host : str
        The address that Squall answers at; ``0.0.0.0`` or ``::`` for all of them.
    more : tuple[str, ...]
        Names that somebody gave it besides.
    """
    found = list(more)
    if host not in ("0.0.0.0", "::"):
        found.append(host)
    else:
        found += _addresses()
    name = socket.gethostname()
    return tuple(dict.fromkeys([*found, name, f"{name}.local", *_HERE]))


def _addresses() -> list[str]:
    """Addresses of this machine in its networks; asking for a way out sends nothing."""
    found: list[str] = []
    with contextlib.suppress(OSError), socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asks:
        asks.connect(("192.0.2.1", 9))
        found.append(asks.getsockname()[0])
    with contextlib.suppress(OSError):
        found += [str(row[4][0]) for row in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)]
    return [address for address in dict.fromkeys(found) if not ip_address(address).is_loopback]


def certificate_in(folder: Path, names: tuple[str, ...], now: datetime | None = None) -> Certificate:
    """The certificate of a data folder; made anew where there is none, it ends soon, or a name is not in it.

    Parameters
    ----------
    folder : Path
        Where it lies.
    names : tuple[str, ...]
        Names and addresses that it is to be good for.
    now : datetime, optional
        Taken as the present.

    Raises
    ------
    BadFile
        If what lies there is no certificate.
    """
    from cryptography import x509

    at, path, key = now or datetime.now(UTC), folder / NAME, folder / KEY
    if path.exists() and key.exists():
        try:
            made = x509.load_pem_x509_certificate(path.read_bytes())
        except ValueError as error:
            raise BadFile(later("{path} is damaged; take it away, and a new one is made.", path=path)) from error
        if made.not_valid_after_utc - at > timedelta(days=BEFORE_DAYS) and set(names) <= _names_of(made):
            return Certificate(path, key, _fingerprint(made))
    return Certificate(path, key, _fingerprint(_make(path, key, names, at)))


def _names_of(made: Any) -> set[str]:
    from cryptography import x509

    held = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return {*held.get_values_for_type(x509.DNSName), *map(str, held.get_values_for_type(x509.IPAddress))}


def _make(path: Path, key: Path, names: tuple[str, ...], at: datetime) -> Any:
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes, serialization
    from cryptography.hazmat.primitives.asymmetric import ec
    from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

    secret = ec.generate_private_key(ec.SECP256R1())
    me = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Squall on this machine")])
    made = (
        x509.CertificateBuilder()
        .subject_name(me)
        .issuer_name(me)
        .public_key(secret.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(at - timedelta(days=1))
        .not_valid_after(at + timedelta(days=LASTS_DAYS - 1))
        .add_extension(x509.SubjectAlternativeName([_general(name) for name in names]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .sign(secret, hashes.SHA256())
    )
    path.parent.mkdir(parents=True, exist_ok=True)
    key.touch(mode=0o600)
    key.chmod(0o600)
    key.write_bytes(
        secret.private_bytes(
            serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
        )
    )
    path.write_bytes(made.public_bytes(serialization.Encoding.PEM))
    return made


def _general(name: str) -> Any:
    from cryptography import x509

    try:
        return x509.IPAddress(ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _fingerprint(made: Any) -> str:
    from cryptography.hazmat.primitives.serialization import Encoding

    digest = sha256(made.public_bytes(Encoding.DER)).hexdigest().upper()
    return ":".join(digest[n : n + 2] for n in range(0, len(digest), 2))
