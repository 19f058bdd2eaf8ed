-- Undo is each person's own: a change that lies under others' is taken back by a revision of its own, and done again by another.
ALTER TABLE revision ADD COLUMN undoes INTEGER;
ALTER TABLE revision ADD COLUMN redoes INTEGER;
