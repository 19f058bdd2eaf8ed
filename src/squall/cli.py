"""The command: ``squall serve``, ``demo``, ``sum``, ``parts``, ``export``, ``sheet``, ``import``, ``backup``, ``restore``,
``doctor``, ``bench``, ``passphrase``.
"""

from __future__ import annotations

import gc
import json
import os
import socket
import sys
import threading
import webbrowser
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from io import TextIOWrapper
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from squall import __version__, cli_data, cli_parts
from squall.core.errors import BadQuantity, SquallError

if TYPE_CHECKING:
    from squall.web.settings import Settings

app = typer.Typer(
    help="Squall: from water to test sheet for small DC pumps.", no_args_is_help=True, add_completion=False
)
app.add_typer(cli_parts.app, name="parts")
for _one in (cli_data.backup, cli_data.restore, cli_data.doctor):
    app.command()(_one)
DataOption = Annotated[
    Path | None, typer.Option("--data", help="Data folder; default SQUALL_DATA, else your own data folder.")
]
HostOption = Annotated[str, typer.Option(help="Address to answer at; other than this machine needs a passphrase.")]
PortOption = Annotated[int, typer.Option(min=1, max=65535)]
NameOption = Annotated[
    list[str] | None, typer.Option("--name", help="A name by which others reach this machine; may be given again.")
]
PlainOption = Annotated[
    bool,
    typer.Option("--plain-http", help="Not sealed: whoever listens on the network reads the passphrase and all else."),
]
WorkersOption = Annotated[
    int, typer.Option(min=1, max=16, help="Processes that answer; two or more for many people at once.")
]
YardOption = Annotated[bool, typer.Option("--yard", help="Twelve kits with two years of visits, instead of five jobs.")]
LOOPBACK = ("127.0.0.1", "localhost", "::1")


@dataclass(frozen=True)
class Door:
    """Where Squall answers, by which names besides its own, whether unsealed, and in how many processes."""

    host: str
    port: int
    names: tuple[str, ...] = ()
    plain: bool = False
    workers: int = 1


@app.callback()
def _any_console() -> None:
    """A console without UTF-8 gets question marks, not a fault."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, TextIOWrapper):
            stream.reconfigure(errors="replace")


def _fail(error: SquallError) -> typer.Exit:
    typer.echo(f"squall: {error}", err=True)
    return typer.Exit(2)


def _data(given: Path | None) -> Path:
    from squall.web.settings import default_data

    return given if given is not None else default_data()


def _settings(data: Path, door: Door, *, demo: bool) -> Settings:
    """Who may come, by which names, sealed or not."""
    from squall.web.certificate import certificate_in, names_here
    from squall.web.passphrases import read_hash
    from squall.web.settings import Settings

    if door.host in LOOPBACK:
        return Settings(data, demo=demo)
    names = names_here(door.host, door.names)
    settings = Settings(
        data, hosts=tuple(f"[{name}]" if ":" in name else name for name in names), need_passphrase=True, demo=demo
    )
    if read_hash(settings.passphrase_file) is None:
        raise BadQuantity("Other machines may only come in with a passphrase; set one with: squall passphrase")
    reached = [name for name in names if name not in (*LOOPBACK, socket.gethostname()) and not name.endswith(".local")]
    scheme = "http" if door.plain else "https"
    addresses = tuple(f"{scheme}://{name}:{door.port}/" for name in reached[:4] or [socket.gethostname()])
    made = "" if door.plain else certificate_in(data, names).fingerprint
    return replace(settings, sealed=not door.plain, addresses=addresses, fingerprint=made)


def _tell_the_way(settings: Settings) -> None:
    """Address, code and fingerprint for the phone, in the window."""
    for address in settings.addresses:
        typer.echo(f"for the phone: {address}")
    if settings.addresses and "utf" in (sys.stdout.encoding or "").lower() and sys.stdout.isatty():
        import segno

        segno.make(settings.addresses[0], micro=False).terminal(compact=True)
    if settings.sealed:
        typer.echo(
            f"the phone asks once whether to trust this certificate; its SHA-256 fingerprint is\n{settings.fingerprint}"
        )
    elif settings.addresses:
        typer.echo(
            "NOT SEALED: whoever listens on this network reads the passphrase and all else. Only on a cable, or a network of your own."
        )


def _run(data: Path, door: Door, *, demo: str) -> None:
    # Nothing that is loaded here is ever let go: looking through it for waste only costs the start.
    gc.disable()
    import uvicorn

    from squall.store.folder.copies import said_to_serve
    from squall.store.folder.database import prepare
    from squall.web.app import create_app, warm
    from squall.web.certificate import KEY, NAME
    from squall.web.patience import PatientProtocol

    try:
        with _place_for(door):
            settings = _settings(data, door, demo=bool(demo))
            prepare(settings.database)
            application = create_app(settings) if door.workers == 1 else None
    except SquallError as error:
        raise _fail(error) from error
    except OSError as error:
        raise _fail(BadQuantity(f"{data} can't be written: {error.strerror}")) from error
    if demo:
        from squall.demo import fill, fill_yard
        from squall.store.folder.database import connect

        conn = connect(settings.database)
        if demo == "yard":
            fill_yard(conn, datetime.now(UTC).date())
        else:
            fill(conn)
        conn.close()
    host, port, outside = door.host, door.port, door.host not in LOOPBACK
    address = f"{'https' if settings.sealed else 'http'}://{'127.0.0.1' if host in (*LOOPBACK, '0.0.0.0', '::') else host}:{port}/"
    typer.echo(f"Squall {__version__} at {address}   data: {data}   stop with Ctrl+C")
    _tell_the_way(settings)
    if not outside and os.environ.get("NO_BROWSER") != "1":
        threading.Timer(1.5, webbrowser.open, args=(address,)).start()
    # A header that says who is asked for is nobody's word: no proxy stands before Squall.
    how: dict[str, Any] = {
        "host": host, "port": port, "log_level": "warning", "http": PatientProtocol, "proxy_headers": False, "server_header": False,
        "timeout_graceful_shutdown": 5, "ssl_certfile": str(data / NAME) if settings.sealed else None, "ssl_keyfile": str(data / KEY) if settings.sealed else None,
    }  # fmt: skip
    with said_to_serve(settings.database, port):
        if application is None:
            _run_several(settings, door.workers, how)
        else:
            warm(application)
            gc.freeze()
            gc.enable()
            uvicorn.run(application, **how)


def _run_several(settings: Settings, workers: int, how: dict[str, Any]) -> None:
    """Several processes that answer, and one for long work; they end together."""
    import uvicorn

    from squall.web.app import look_after
    from squall.web.frame.desk import open_desk
    from squall.web.workers import told

    desk = open_desk()
    try:
        told(settings, desk.address)
        threading.Thread(target=look_after, args=(settings.database,), daemon=True).start()
        # A process that is only busy is not hung: one is given up after a minute without a word, not after five seconds.
        uvicorn.run(
            "squall.web.workers:application",
            factory=True,
            workers=workers,
            loop="squall.web.workers:event_loop",
            timeout_worker_healthcheck=60,
            **how,
        )
    finally:
        desk.shutdown()


@contextmanager
def _place_for(door: Door) -> Iterator[None]:
    """The port, held while Squall gets ready, so that a busy one is said before an address is.

    Raises
    ------
    BadQuantity
        If somebody else has it, or there is no such address here.
    """
    family = socket.AF_INET6 if ":" in door.host else socket.AF_INET
    with socket.socket(family, socket.SOCK_STREAM) as held:
        held.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            held.bind((door.host, door.port))
        except OSError as error:
            raise BadQuantity(
                f"Squall can't answer at {door.host}, port {door.port}: {error.strerror}. Is it running already? Another port: --port {door.port % 65535 + 1}"
            ) from error
        yield


@app.command()
def serve(
    data: DataOption = None,
    host: HostOption = "127.0.0.1",
    port: PortOption = 8017,
    name: NameOption = None,
    plain_http: PlainOption = False,
    workers: WorkersOption = 1,
) -> None:
    """Open Squall on your own data."""
    _run(_data(data), Door(host, port, tuple(name or ()), plain_http, workers), demo="")


@app.command()
def demo(
    data: DataOption = None,
    host: HostOption = "127.0.0.1",
    port: PortOption = 8017,
    name: NameOption = None,
    plain_http: PlainOption = False,
    workers: WorkersOption = 1,
    yard: YardOption = False,
) -> None:
    """Open Squall on invented jobs, in a folder apart from your own data."""
    _run(
        data if data is not None else _data(None) / ("yard" if yard else "demo"),
        Door(host, port, tuple(name or ()), plain_http, workers),
        demo="yard" if yard else "jobs",
    )


@app.command("sum")
def work_out(name: Annotated[str, typer.Argument(help="Such as pipe-loss; a wrong name lists all.")]) -> None:
    """Work out one sum: JSON in on standard input, JSON out."""
    from squall.sums import run

    try:
        answer = run(name, json.load(sys.stdin.buffer))
    except ValueError:
        raise _fail(BadQuantity("the input is not whole JSON")) from None
    except SquallError as error:
        raise _fail(error) from error
    typer.echo(json.dumps(answer.model_dump(), ensure_ascii=False, indent=1).encode())


@app.command("export")
def export_job(
    job_id: Annotated[int, typer.Argument(help="Number of the job, as in its address.")], data: DataOption = None
) -> None:
    """Print a job as JSON."""
    from squall.formats.job_json import export
    from squall.store.folder.database import connect, prepare
    from squall.store.jobs import one_job, whole
    from squall.web.settings import Settings

    path = Settings(_data(data)).database
    try:
        prepare(path)
        conn = connect(path)
        typer.echo(export(whole(conn, one_job(conn, job_id))).encode(), nl=False)
        conn.close()
    except SquallError as error:
        raise _fail(error) from error


@app.command("sheet")
def print_sheet(
    job_id: Annotated[int, typer.Argument(help="Number of the job, as in its address.")],
    pdf: Annotated[bool, typer.Option("--pdf", help="As a PDF file: the only form so far.")] = True,
    kind: Annotated[
        str, typer.Option(help="test, job, build, fault, labels, quote, handover, cards or booklet.")
    ] = "test",
    units: Annotated[str, typer.Option(help="metric or us.")] = "metric",
    out: Annotated[Path | None, typer.Option(help="File to write; else one named after the job, here.")] = None,
    data: DataOption = None,
) -> None:
    """Write a paper of a job as a PDF file: the test sheet, the whole job, the build sheet, the booklet and the others."""
    from squall.catalogue.held import hold
    from squall.store.folder.database import connect, prepare
    from squall.store.jobs import one_job
    from squall.store.shelf import all_parts
    from squall.web.frame.pages import file_name
    from squall.web.papers.beside import beside_of
    from squall.web.papers.content import PAPERS
    from squall.web.papers.pdf import paper_pdf
    from squall.web.settings import Settings
    from squall.words import Voice, speaking

    path = Settings(_data(data)).database
    try:
        if kind not in PAPERS or units not in ("metric", "us"):
            raise BadQuantity(f"--kind is {', '.join(PAPERS)}; --units is metric or us.")
        prepare(path)
        conn = connect(path)
        hold(all_parts(conn))
        with speaking(Voice("us" if units == "us" else "metric")):
            stored = one_job(conn, job_id)
            target = out or Path(file_name(f"{stored.job.name} {kind}", "pdf"))
            target.write_bytes(paper_pdf(stored, kind, beside_of(conn, stored, kind)))
        conn.close()
    except SquallError as error:
        raise _fail(error) from error
    except OSError as error:
        raise _fail(BadQuantity(f"the sheet can't be written: {error.strerror}")) from error
    typer.echo(str(target))


@app.command("import")
def import_job(
    file: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="An exported job.")], data: DataOption = None
) -> None:
    """Take in an exported job."""
    from squall.catalogue.held import hold
    from squall.formats.job_json import read
    from squall.store.folder.database import connect, prepare
    from squall.store.jobs import add_job
    from squall.store.shelf import all_parts
    from squall.web.settings import Settings

    path = Settings(_data(data)).database
    try:
        prepare(path)
        conn = connect(path)
        parts = all_parts(conn)
        hold(parts)
        job = read(file.read_bytes(), parts)
        stored = add_job(conn, job, "command", "job imported")
        conn.close()
    except SquallError as error:
        raise _fail(error) from error
    typer.echo(f"imported as job {stored.id}: {stored.job.name}")


@app.command()
def bench(
    cases: Annotated[int, typer.Option(min=1, max=100_000, help="How many kits with a hidden fault.")] = 100,
    seed: Annotated[int, typer.Option(help="The same number, the same kits.")] = 1,
    chart: Annotated[bool, typer.Option(help="Down a printed chart's fixed order too, for comparison.")] = True,
) -> None:
    """How well Fault finds hidden faults on simulated kits: right, checks, minutes, unsafe steps, how sure it was."""
    from squall.standins.report import report

    for line in report(cases, seed, chart=chart):
        typer.echo(line)


@app.command()
def passphrase(data: DataOption = None) -> None:
    """Set the passphrase that other machines must give."""
    from squall.web.passphrases import keep_passphrase
    from squall.web.settings import Settings

    typed = typer.prompt("Passphrase", hide_input=True, confirmation_prompt=True)
    try:
        keep_passphrase(Settings(_data(data)).passphrase_file, typed)
    except SquallError as error:
        raise _fail(error) from error
    typer.echo("Kept; whoever was in must give the new one. Now: squall serve --host 0.0.0.0")


if __name__ == "__main__":
    app()
