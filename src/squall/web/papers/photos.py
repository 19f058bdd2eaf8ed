"""Photos and notes: taken in, shown, taken out, and out of the house as a folder with the job."""

import csv
import io
import zipfile
from sqlite3 import Connection
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request, Response, UploadFile
from pydantic import BaseModel

from squall.core.errors import SquallError
from squall.formats import history_json, job_json, log_list
from squall.formats.cells import csv_of, safe_cell
from squall.formats.pictures import MOST_BYTES, read_picture
from squall.job.kept.upkeep import DONE_WORDS
from squall.store.history import history, tables_of
from squall.store.jobs import one_job, whole
from squall.store.kit.handed import gather
from squall.store.log import latest_visits
from squall.store.photos import add_photo, picture, pictures_of, remove_photo
from squall.web.frame.edits import answer
from squall.web.frame.job_page import TAKEN_THERE, Notices
from squall.web.frame.pages import database, file_name, prefs_of, status_of
from squall.words import say

router = APIRouter()
# Of its states so many are told, the newest. [-]
MOST_STATES = 2000
Db = Annotated[Connection, Depends(database)]


class PhotoForm(BaseModel):
    """A photo or a note as it is sent: of which part, with what words, and whether its place stays."""

    file: UploadFile | None = None
    part: str = ""
    note: str = ""
    place: str = ""
    stage: str = "survey"


@router.post("/jobs/{job_id}/photos")
def keep_photo(job_id: int, request: Request, conn: Db, form: Annotated[PhotoForm, Form()]) -> Response:
    """Keep a photo, a note, or both."""
    try:
        data = form.file.file.read(MOST_BYTES + 1) if form.file is not None and form.file.filename else b""
        made = read_picture(data, keep_place=form.place == "yes") if data else None
        pictures = None if made is None else (made.whole, made.small)
        add_photo(conn, job_id, form.part, form.note, prefs_of(request).who, pictures)
    except SquallError as error:
        notices = Notices(errors={"photo": str(error)}, typed={"photo-note": form.note, "photo-part": form.part})
        if form.part.startswith(tuple(TAKEN_THERE)):  # taken where the form of photos isn't in sight
            notices = Notices(banner=str(error), banner_kind="bad")
        return answer(request, conn, one_job(conn, job_id), form.stage, notices, status_of(error))
    return answer(request, conn, one_job(conn, job_id), form.stage, Notices(banner=say("Kept with the job.")))


@router.post("/jobs/{job_id}/photos/remove")
def take_out(
    job_id: int, request: Request, conn: Db, photo: Annotated[int, Form()], stage: Annotated[str, Form()] = "survey"
) -> Response:
    """Take a photo or a note out."""
    remove_photo(conn, job_id, photo, prefs_of(request).who)
    return answer(request, conn, one_job(conn, job_id), stage, Notices(banner=say("Taken out.")))


@router.get("/jobs/{job_id}/photos/{photo_id}.jpg")
def show_photo(job_id: int, photo_id: int, conn: Db, small: bool = False) -> Response:
    """The picture itself."""
    made = picture(conn, job_id, photo_id, small=small)
    return Response(made, media_type="image/jpeg", headers={"cache-control": "private, max-age=86400"})


@router.get("/jobs/{job_id}/export.zip")
def export_folder(job_id: int, request: Request, conn: Db) -> Response:
    """The job handed over, as a folder: its file, photos and notes, the log, and all that was done to it and on it."""
    stored = one_job(conn, job_id)
    folder, notes = io.BytesIO(), io.StringIO()
    rows = csv.writer(notes)
    rows.writerow(["photo", "part", "at", "note"])
    with zipfile.ZipFile(folder, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr("job.squall.json", job_json.export(whole(conn, stored)))
        made.writestr(history_json.IN_FOLDER, history_json.export(gather(conn, stored)))
        for row, data in pictures_of(conn, job_id):
            name = f"photos/{row['id']:04d}.jpg" if data is not None else ""
            if data is not None:
                made.writestr(name, data)
            rows.writerow([name, safe_cell(row["part"]), row["at"], safe_cell(row["note"])])
        made.writestr("notes.csv", notes.getvalue())
        log = log_list.write(
            latest_visits(conn, job_id, 5000),
            prefs_of(request).units,
            {str(k): words for k, words in DONE_WORDS.items()},
        )
        made.writestr("log.csv", "\ufeff" + log)
        done = [[one.at, one.who, str(one.what)] for one in history(conn, stored, MOST_STATES)]
        for table, lines in {"history": [["at", "who", "what"], *done], **tables_of(conn, job_id)}.items():
            made.writestr(f"{table}.csv", csv_of(lines))
    name = file_name(stored.job.name, "zip")
    return Response(
        folder.getvalue(),
        media_type="application/zip",
        headers={"content-disposition": f'attachment; filename="{name}"'},
    )
