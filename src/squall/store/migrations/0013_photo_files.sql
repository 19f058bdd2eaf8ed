-- A photo's two pictures are files beside the database, by the digest of what is in them. `picture` and `small` are filled only
-- in a copy that goes out of the house whole; what opens such a copy lays them out as files again.
ALTER TABLE photo ADD COLUMN picture_file TEXT;
ALTER TABLE photo ADD COLUMN small_file TEXT;
