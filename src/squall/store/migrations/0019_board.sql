-- How each job stood when it was last worked out, as the board tells it. It is worked out again from the jobs, so nothing is carried over.
-- mark: version, revision, what was done of its upkeep, its birth certificate, the parts, and the month it was worked out in.
DROP TABLE standing;
CREATE TABLE standing (
    job_id INTEGER PRIMARY KEY REFERENCES job (id) ON DELETE CASCADE,
    mark TEXT NOT NULL,
    told TEXT NOT NULL
) STRICT;
