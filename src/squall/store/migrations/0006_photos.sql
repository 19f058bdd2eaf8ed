-- Photos and notes on a job, on a part of its drawing or on a reading. job_id below 0: of a removed job, by its number there.
CREATE TABLE photo (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    part TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    note TEXT NOT NULL,
    picture BLOB,
    small BLOB
) STRICT;

CREATE INDEX photo_of_job ON photo (job_id, id);
