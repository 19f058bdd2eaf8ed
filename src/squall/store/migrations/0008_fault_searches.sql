-- Searches for what is wrong with a kit: how each began, what was seen, how it ended. job_id below 0: of a removed job.
CREATE TABLE fault_search (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    begun_at TEXT NOT NULL,
    who TEXT NOT NULL,
    story TEXT NOT NULL,
    sky TEXT NOT NULL,
    light TEXT NOT NULL,
    air TEXT NOT NULL,
    ended_at TEXT,
    found TEXT,
    note TEXT NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX fault_search_of_job ON fault_search (job_id, option);
-- What one check showed: the value in SI (a list of them for each panel) or the answer; neither of both when it was skipped.
CREATE TABLE fault_seen (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    search_id INTEGER NOT NULL REFERENCES fault_search (id) ON DELETE CASCADE,
    "check" TEXT NOT NULL,
    value TEXT,
    answer TEXT,
    typed TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL
) STRICT;
CREATE INDEX fault_seen_of_search ON fault_seen (search_id);
