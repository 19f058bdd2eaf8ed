-- Files of a kit's logger, whole as they came (compressed), and what was read out of them. job_id below 0: of a removed job.
-- mapped: what its columns are, as JSON; NULL until somebody has said. told, thin: what it tells, and its lanes thinned to be drawn.
CREATE TABLE logger (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    name TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    raw BLOB NOT NULL,
    mapped TEXT,
    told TEXT
) STRICT;
CREATE INDEX logger_of_job ON logger (job_id, option);
