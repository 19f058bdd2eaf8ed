-- What several processes on one data folder must know of each other: tries at the door, price lists that were looked at and not
-- yet taken. The key of changes stands among the settings.
CREATE TABLE door_try (
    address TEXT NOT NULL,
    at REAL NOT NULL
) STRICT;

CREATE INDEX door_try_at ON door_try (at);

CREATE TABLE waiting_list (
    number INTEGER PRIMARY KEY AUTOINCREMENT,
    mark TEXT NOT NULL UNIQUE,
    family TEXT NOT NULL,
    name TEXT NOT NULL,
    data BLOB NOT NULL
) STRICT;
