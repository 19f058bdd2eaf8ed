-- A kit with its owner: what each test of it showed before it was handed over, and the set that was kept as its birth certificate.
-- job_id below 0: of a removed job. value in SI (a list of them for each panel), or an answer, or the reason why it wasn't done.
CREATE TABLE proof (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    "check" TEXT NOT NULL,
    value TEXT,
    answer TEXT,
    skipped TEXT,
    typed TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL
) STRICT;
CREATE INDEX proof_of_job ON proof (job_id, option);
CREATE TABLE birth (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    rows TEXT NOT NULL
) STRICT;
CREATE INDEX birth_of_job ON birth (job_id, option);
-- What was done of a kit's upkeep, or put off until a day with a reason.
CREATE TABLE upkeep (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    task TEXT NOT NULL,
    at TEXT NOT NULL,
    put_off TEXT,
    reason TEXT NOT NULL,
    who TEXT NOT NULL
) STRICT;
CREATE INDEX upkeep_of_job ON upkeep (job_id, option);
