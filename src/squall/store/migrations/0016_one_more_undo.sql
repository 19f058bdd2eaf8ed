-- A removed job stays where it is, with all that is kept of it, and is only seen no more; those of before become such.
ALTER TABLE job ADD COLUMN removed_at TEXT;
CREATE TEMP TABLE come_along AS
    SELECT id AS was, (SELECT highest FROM counted WHERE what = 'job') + row_number() OVER (ORDER BY id) AS number, removed_at, document
    FROM removed_job;
INSERT INTO job (id, revision, created_at, changed_at, document, removed_at)
    SELECT number, 1, removed_at, removed_at, json_set(document, '$.visits', json('[]')), removed_at FROM come_along;
INSERT INTO revision (job_id, number, parent, at, who, what, document)
    SELECT number, 1, NULL, removed_at, '', 'job made', json_set(document, '$.visits', json('[]')) FROM come_along;
INSERT INTO visit (job_id, id, at, document)
    SELECT number, json_extract(v.value, '$.id'), json_extract(v.value, '$.at'), v.value
    FROM come_along, json_each(come_along.document, '$.visits') AS v;
UPDATE photo SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
UPDATE fit_tick SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
UPDATE fault_search SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
UPDATE proof SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
UPDATE birth SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
UPDATE upkeep SET job_id = (SELECT number FROM come_along WHERE was = -job_id) WHERE -job_id IN (SELECT was FROM come_along);
DROP TABLE come_along;
DROP TABLE removed_job;

-- The hours of weather files by the mark of what is in them, so that a revision can name those that a job had before.
CREATE TABLE weather_hours (
    mark TEXT PRIMARY KEY,
    hours TEXT NOT NULL
) STRICT;
INSERT OR IGNORE INTO weather_hours (mark, hours) SELECT mark, hours FROM weather;
ALTER TABLE weather DROP COLUMN hours;

-- Pictures inside a copy that goes out of the house, by their names; what opens it lays them out as files.
CREATE TABLE IF NOT EXISTS carried (
    name TEXT PRIMARY KEY,
    data BLOB NOT NULL
) STRICT;
