-- A job's number is never used again: the highest that ever was is kept, also when that job is gone.
CREATE TABLE counted (
    what TEXT PRIMARY KEY,
    highest INTEGER NOT NULL
) STRICT;
INSERT INTO counted (what, highest)
    SELECT 'job', max(coalesce((SELECT max(id) FROM job), 0), coalesce((SELECT max(job_id) FROM revision), 0));
CREATE TRIGGER job_counted AFTER INSERT ON job BEGIN
    UPDATE counted SET highest = max(highest, NEW.id) WHERE what = 'job';
END;
