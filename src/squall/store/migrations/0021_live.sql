-- Addresses to which a logger sends its lines, one kit each: a code that may write there and read nothing.
CREATE TABLE live_address (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    code_hash TEXT NOT NULL UNIQUE,
    job_id INTEGER NOT NULL,
    note TEXT NOT NULL,
    made_at TEXT NOT NULL
) STRICT;
-- What came, the last few thousand readings of each kit. In SI.
CREATE TABLE live (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    at TEXT NOT NULL,
    point TEXT NOT NULL,
    value REAL NOT NULL
) STRICT;
CREATE INDEX live_of_job ON live (job_id, option, id);
