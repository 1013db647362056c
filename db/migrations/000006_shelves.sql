-- Jobs are put away, and removed with a time to think it over.
ALTER TABLE jobs ADD COLUMN archived timestamptz;
ALTER TABLE jobs ADD COLUMN removed timestamptz;
