-- Lessons that were finished: by whom, what was looked at, what was named, what it was. The first try of a lesson counts.
CREATE TABLE lesson (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    at TEXT NOT NULL,
    learner TEXT NOT NULL,
    kit TEXT NOT NULL,
    level TEXT NOT NULL,
    number INTEGER NOT NULL,
    acts TEXT NOT NULL,
    named TEXT NOT NULL,
    fault TEXT NOT NULL,
    minutes REAL NOT NULL,
    looks INTEGER NOT NULL,
    unsafe INTEGER NOT NULL,
    UNIQUE (learner, kit, level, number)
) STRICT;
