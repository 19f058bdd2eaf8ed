"""The commands that look after a data folder: ``squall backup``, ``restore``, ``doctor``."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Annotated

import typer

from squall.cli_parts import DataOption
from squall.core.errors import SquallError


@contextmanager
def _database(data: Path | None) -> Iterator[Path]:
    """Where the database lies; an error of ours is said and ends the command with 2."""
    from squall.web.settings import Settings, default_data

    try:
        yield Settings(data if data is not None else default_data()).database
    except SquallError as error:
        typer.echo(f"squall: {error}", err=True)
        raise typer.Exit(2) from error


def backup(
    to: Annotated[Path | None, typer.Argument(help="File to write; default a dated one in the data folder.")] = None,
    data: DataOption = None,
) -> None:
    """Copy the database with the photos in it, even while Squall runs."""
    from squall.store.folder.copies import backup_name, whole_copy

    with _database(data) as path:
        target = whole_copy(path, to if to is not None else backup_name(path, "by-hand"))
    typer.echo(f"copied to {target}")


def restore(
    copy: Annotated[Path, typer.Argument(help="A copy that backup made, or a daily one.")], data: DataOption = None
) -> None:
    """Put a copy back in the place of the database, while Squall doesn't run; what stood there is kept aside."""
    from squall.store.folder.copies import restore as put_back
    from squall.store.folder.database import migrations

    with _database(data) as path:
        aside = put_back(path, copy, migrations()[-1][0])
    typer.echo(f"put back from {copy}" + (f"; what stood there is at {aside}" if aside is not None else ""))


def doctor(data: DataOption = None) -> None:
    """Say what is wrong with a data folder; ends with 1 if something is."""
    from squall.store.folder.copies import copies_of
    from squall.store.folder.copies import doctor as look
    from squall.store.folder.database import migrations

    with _database(data) as path:
        wrong = look(path, migrations()[-1][0])
    for line in wrong or ["nothing is wrong"]:
        typer.echo(line)
    typer.echo(f"{len(copies_of(path))} copies in {path.parent / 'backups'}")
    if wrong:
        raise typer.Exit(1)
