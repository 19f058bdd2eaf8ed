"""The command ``squall parts``: a person's own parts listed, read from price lists, written to them."""

import json
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from sqlite3 import Connection
from typing import Annotated

import typer

from squall.core.errors import SquallError

app = typer.Typer(help="Parts of your own: list, import, export.", no_args_is_help=True)
DataOption = Annotated[
    Path | None, typer.Option("--data", help="Data folder; default SQUALL_DATA, else your own data folder.")
]
FamilyArgument = Annotated[str, typer.Argument(help="Such as pumps, panels, batteries; a wrong one lists all.")]


@contextmanager
def _shelf(data: Path | None) -> Iterator[Connection]:
    """The database, brought up to date; an error of ours is said and ends the command with 2."""
    from squall.store.folder.database import connect, prepare
    from squall.web.settings import Settings, default_data

    try:
        path = Settings(data if data is not None else default_data()).database
        prepare(path)
        conn = connect(path)
        try:
            yield conn
        finally:
            conn.close()
    except SquallError as error:
        typer.echo(f"squall: {error}", err=True)
        raise typer.Exit(2) from error


def _family(key: str) -> str:
    from squall.catalogue.families import FAMILIES

    if key not in FAMILIES:
        typer.echo(f"squall: there is no family {key!r}; there are: {', '.join(FAMILIES)}", err=True)
        raise typer.Exit(2)
    return key


@app.command("list")
def list_parts(
    family: FamilyArgument,
    as_json: Annotated[bool, typer.Option("--json", help="As JSON, every figure in its column's unit.")] = False,
    data: DataOption = None,
) -> None:
    """List the parts of a family: your own first, then the shipped ones."""
    from squall.catalogue.held import shipped_parts
    from squall.store.shelf import on_shelf

    key = _family(family)
    with _shelf(data) as conn:
        own = [part for part in on_shelf(conn).values() if part.family == key]
        found = [*((part, True) for part in own), *((part, False) for part in shipped_parts(key))]
        if as_json:
            rows = [
                {
                    "id": part.id,
                    "own": mine,
                    "figures": {k: w.value for k, w in part.figures.items()},
                    "note": part.note,
                }
                for part, mine in found
            ]
            typer.echo(json.dumps(rows, ensure_ascii=False, indent=1).encode())
            return
        for part, mine in found:
            price = part.figures.get("price")
            typer.echo(
                f"{part.id:<32} {'mine' if mine else 'shipped':<8} {price.typed if price else '-':>10}  {part.name}"
            )


@app.command("import")
def import_list(
    family: FamilyArgument,
    file: Annotated[Path, typer.Argument(exists=True, dir_okay=False, help="A price list, CSV; or parts as JSON.")],
    dry_run: Annotated[bool, typer.Option("--dry-run", help="Only tell what would be new, changed, wrong.")] = False,
    good_rows: Annotated[bool, typer.Option("--good-rows", help="Take the good rows though others are wrong.")] = False,
    data: DataOption = None,
) -> None:
    """Read a price list onto the shelf; with a wrong row in it nothing is written, unless --good-rows."""
    from squall.catalogue.reader import shipped
    from squall.formats.parts import files as part_files
    from squall.formats.parts import lists as part_lists
    from squall.store.shelf import on_shelf, put_parts, setting
    from squall.words import later_n

    key = _family(family)
    with _shelf(data) as conn:
        content, shelf = file.read_bytes(), on_shelf(conn)
        if content.lstrip()[:1] == b"{":
            found = part_files.read_json(content, shelf, shipped())
        else:
            found = part_lists.read(content, key, shelf, shipped(), setting(conn, "currency"))
        for row in found.rows:
            if row.status != "same":
                said = "; ".join(f"{column}: {sentence}" for column, sentence in row.problems)
                said = said or "; ".join(
                    f"{column}: {was or 'nothing'} -> {will or 'nothing'}" for column, was, will in row.changes
                )
                typer.echo(
                    f"row {row.line}: {row.status} {row.name}{': ' + said if said else ''}", err=row.status == "wrong"
                )
        if found.unknown:
            typer.echo(f"headings nobody knows, left out: {', '.join(found.unknown)}", err=True)
        parts = [row.part for row in found.of("new", "changed") if row.part is not None]
        wrong = found.of("wrong")
        take = bool(parts) and not dry_run and (good_rows or not wrong)
        if take:
            put_parts(
                conn,
                parts,
                later_n("a part read from {name}", "{n} parts read from {name}", len(parts), name=file.name),
            )
        counted = f"{len(found.of('new'))} new, {len(found.of('changed'))} changed, {len(found.of('same'))} as they stand, {len(wrong)} wrong"
        typer.echo(f"{counted}; {'written' if take else 'nothing written'}")
    if wrong:
        raise typer.Exit(1)


@app.command("export")
def export_list(
    family: FamilyArgument,
    blank: Annotated[bool, typer.Option("--blank", help="Only the headings, to be filled in.")] = False,
    data: DataOption = None,
) -> None:
    """Print your own parts of a family as CSV, units in the headings."""
    from squall.formats.parts import lists as part_lists
    from squall.store.shelf import on_shelf, setting

    key = _family(family)
    with _shelf(data) as conn:
        own = [] if blank else [part for part in on_shelf(conn).values() if part.family == key]
        typer.echo(part_lists.write(key, own, setting(conn, "currency")).encode(), nl=False)
