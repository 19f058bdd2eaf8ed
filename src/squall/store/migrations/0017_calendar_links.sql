-- Addresses under which a calendar reads what is due, of one job or of all: a code opens that one file and nothing else.
CREATE TABLE feed (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    code_hash TEXT NOT NULL UNIQUE,
    job_id INTEGER,
    note TEXT NOT NULL,
    made_at TEXT NOT NULL
) STRICT;
