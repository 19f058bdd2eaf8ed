-- A person's own parts; shipped parts that the ranking leaves out; what was changed of them, to be undone; settings.
-- figures: {column: [as typed, in the column's unit], ...}.
CREATE TABLE shelf (
    part_id TEXT PRIMARY KEY,
    family TEXT NOT NULL,
    figures TEXT NOT NULL,
    note TEXT NOT NULL,
    changed_on TEXT NOT NULL
) STRICT;

CREATE TABLE hidden_part (part_id TEXT PRIMARY KEY) STRICT;

-- before, after: {part_id: row of shelf as an object, or null}.
CREATE TABLE shelf_change (
    number INTEGER PRIMARY KEY,
    at TEXT NOT NULL,
    words TEXT NOT NULL,
    before TEXT NOT NULL,
    after TEXT NOT NULL,
    undone INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;

-- Grows with every change of the parts, so that whoever holds them sees that they are old.
INSERT INTO setting (key, value) VALUES ('shelf-state', '0');

ALTER TABLE van ADD COLUMN count INTEGER NOT NULL DEFAULT 1;
