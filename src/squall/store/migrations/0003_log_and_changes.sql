-- Visits become rows of their own; a revision keeps what changed instead of the whole document.
CREATE TABLE visit (
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    id TEXT NOT NULL,
    at TEXT NOT NULL,
    document TEXT NOT NULL,
    PRIMARY KEY (job_id, id)
) STRICT;

INSERT INTO visit (job_id, id, at, document)
SELECT job.id, json_extract(v.value, '$.id'), json_extract(v.value, '$.at'), v.value
FROM job, json_each(job.document, '$.visits') AS v;

-- document: the whole job after this revision, or NULL where `change` tells it from the parent's.
-- change: {"document": [[path, before, after], ...], "visits": [[id, before, after], ...]}.
CREATE TABLE revision_of_changes (
    job_id INTEGER NOT NULL REFERENCES job (id) ON DELETE CASCADE,
    number INTEGER NOT NULL,
    parent INTEGER,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    what TEXT NOT NULL,
    path TEXT,
    document TEXT,
    change TEXT,
    PRIMARY KEY (job_id, number)
) STRICT;

INSERT INTO revision_of_changes (job_id, number, parent, at, who, what, path, document, change)
SELECT child.job_id, child.number, child.parent, child.at, child.who, child.what, child.path,
    json_set(child.document, '$.visits', json('[]')),
    (
        SELECT json_object('document', json('[]'), 'visits', json_group_array(json_array(id, json(before), json(after))))
        FROM (
            SELECT json_extract(a.value, '$.id') AS id, 'null' AS before, a.value AS after
            FROM json_each(child.document, '$.visits') AS a
            WHERE json_extract(a.value, '$.id') NOT IN (
                SELECT json_extract(b.value, '$.id')
                FROM revision AS old, json_each(old.document, '$.visits') AS b
                WHERE old.job_id = child.job_id AND old.number = child.parent
            )
            UNION ALL
            SELECT json_extract(b.value, '$.id'), b.value, 'null'
            FROM revision AS old, json_each(old.document, '$.visits') AS b
            WHERE old.job_id = child.job_id AND old.number = child.parent
              AND json_extract(b.value, '$.id') NOT IN (
                SELECT json_extract(a.value, '$.id') FROM json_each(child.document, '$.visits') AS a
            )
        )
        HAVING count(*) > 0
    )
FROM revision AS child;

DROP TABLE revision;
ALTER TABLE revision_of_changes RENAME TO revision;
CREATE INDEX revision_by_parent ON revision (job_id, parent);
UPDATE job SET document = json_set(document, '$.visits', json('[]')) WHERE json_array_length(document, '$.visits') > 0;
