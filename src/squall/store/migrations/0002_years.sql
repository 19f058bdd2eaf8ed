-- The last run of each job's years, and weather files by their content.
CREATE TABLE years_run (
    job_id INTEGER PRIMARY KEY REFERENCES job (id) ON DELETE CASCADE,
    digest TEXT NOT NULL,
    made_at TEXT NOT NULL,
    words TEXT NOT NULL,
    report TEXT NOT NULL
) STRICT;

CREATE TABLE weather (
    job_id INTEGER PRIMARY KEY REFERENCES job (id) ON DELETE CASCADE,
    name TEXT NOT NULL,
    mark TEXT NOT NULL,
    taken_at TEXT NOT NULL,
    hours TEXT NOT NULL
) STRICT;

-- What this person has in the van.
CREATE TABLE van (
    part_id TEXT PRIMARY KEY,
    since TEXT NOT NULL
) STRICT;
