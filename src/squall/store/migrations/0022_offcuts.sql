-- What is left of rolls and lies in the van: of what it is, by the cut list's key and in its words, and how long. In SI.
CREATE TABLE offcut (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    key TEXT NOT NULL,
    name TEXT NOT NULL,
    metres REAL NOT NULL,
    since TEXT NOT NULL,
    who TEXT NOT NULL
) STRICT;
