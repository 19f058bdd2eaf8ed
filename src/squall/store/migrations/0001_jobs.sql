-- Jobs, and every state that each has had. The newest revision that is not undone is the job.
CREATE TABLE job (
    id INTEGER PRIMARY KEY,
    revision INTEGER NOT NULL,
    created_at TEXT NOT NULL,
    changed_at TEXT NOT NULL,
    document TEXT NOT NULL
) STRICT;

CREATE TABLE revision (
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    parent INTEGER,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    what TEXT NOT NULL,
    path TEXT,
    document TEXT NOT NULL,
    PRIMARY KEY (job_id, number)
) STRICT;

CREATE TABLE removed_job (
    id INTEGER PRIMARY KEY,
    removed_at TEXT NOT NULL,
    document TEXT NOT NULL
) STRICT;
