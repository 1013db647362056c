-- What was read back from a file before it was kept, as its manifest says it.
ALTER TABLE made_files ADD COLUMN told jsonb;
