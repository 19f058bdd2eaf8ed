-- How each job stood when it was last worked out: for searching, never for showing as a fact. mark: version and revision.
CREATE TABLE standing (
    job_id INTEGER PRIMARY KEY REFERENCES job (id) ON DELETE CASCADE,
    mark TEXT NOT NULL,
    grade TEXT NOT NULL,
    missing TEXT NOT NULL
) STRICT;
