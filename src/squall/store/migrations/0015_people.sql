-- Persons with a passphrase of their own, and links by which somebody may look on for a while. A session tells whose it is
-- and what it may: everything, or only look.
CREATE TABLE person (
    name TEXT PRIMARY KEY,
    salt TEXT NOT NULL,
    hash TEXT NOT NULL,
    made_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

CREATE TABLE guest (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    code_hash TEXT NOT NULL UNIQUE,
    note TEXT NOT NULL,
    ends_at INTEGER NOT NULL
) STRICT;

ALTER TABLE session ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE session ADD COLUMN may TEXT NOT NULL DEFAULT 'all';
