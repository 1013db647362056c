-- The order of a job's intakes is called what it is: a place is a place of the work.
ALTER TABLE intakes RENAME COLUMN place TO sequence;
