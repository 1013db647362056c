-- A job remembers the request that made it, so that one sent twice makes one job.
ALTER TABLE jobs ADD COLUMN request text UNIQUE;
