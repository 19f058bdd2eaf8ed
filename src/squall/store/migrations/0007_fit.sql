-- Steps of fitting that are done, of one kit of a job. job_id below 0: of a removed job, by its number there.
CREATE TABLE fit_tick (
    job_id INTEGER NOT NULL,
    option TEXT NOT NULL,
    step TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    note TEXT NOT NULL,
    PRIMARY KEY (job_id, option, step)
) STRICT;
