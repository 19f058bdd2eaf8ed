-- Who gave the passphrase, by the hash of a token: what stands here opens no door.
-- made_for tells of which passphrase: with a new one all that stand here are over.
CREATE TABLE session (
    token_hash TEXT PRIMARY KEY,
    made_for TEXT NOT NULL,
    ends_at INTEGER NOT NULL
) STRICT, WITHOUT ROWID;
