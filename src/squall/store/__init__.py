"""Jobs kept in SQLite by plain SQL: schema, revisions, undo, backup."""
