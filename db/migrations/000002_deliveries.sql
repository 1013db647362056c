-- Deliveries of every format: what was read beside points, readings of the same bytes in another way, and what the office keeps.

-- The bytes and the layout give the shots again at any time; a second copy of them was never read.
DROP TABLE shots;

ALTER TABLE definitions DROP CONSTRAINT definitions_part_check;
ALTER TABLE definitions ADD CONSTRAINT definitions_part_check CHECK (part IN ('setups', 'sets', 'surfaces', 'contours', 'volumes', 'handover'));

ALTER TABLE intakes ADD COLUMN place bigint;          -- order among the job's intakes; a reading takes the place of the one it replaces
ALTER TABLE intakes ADD COLUMN bytes_of bigint REFERENCES intakes ON DELETE CASCADE;  -- the intake that holds the bytes, for a later reading of them
UPDATE intakes SET place = id;
ALTER TABLE intakes ALTER COLUMN place SET NOT NULL;
ALTER TABLE intakes DROP CONSTRAINT intakes_job_id_key_key;
CREATE UNIQUE INDEX intakes_standing ON intakes (job_id, key) WHERE NOT withdrawn;
UPDATE ledger l SET change = change || jsonb_build_object('id', i.id) FROM intakes i WHERE l.change->>'type' = 'intake' AND i.job_id = l.job_id AND i.key = l.change->>'intake';

-- Raw observations and reference geometry of an intake, packed (core/src/math/pack.ts), in pieces.
CREATE TABLE intake_extras (
  intake_id bigint NOT NULL REFERENCES intakes ON DELETE CASCADE,
  part      integer NOT NULL,
  bytes     bytea NOT NULL,
  PRIMARY KEY (intake_id, part)
);
CREATE TRIGGER extras_stay BEFORE UPDATE ON intake_extras FOR EACH ROW EXECUTE FUNCTION refuse_update();

ALTER TABLE points ADD COLUMN follows smallint NOT NULL DEFAULT 0;  -- bits: northing 1, easting 2, elevation 4 follow from raw observations

-- Looked up row by row, these two took twice as long as storing the million points themselves (21 of 32 s). Points are written
-- with their intake in one transaction that holds the job, and neither is ever deleted.
ALTER TABLE points DROP CONSTRAINT points_job_id_fkey;
ALTER TABLE points DROP CONSTRAINT points_intake_id_fkey;

-- Grids that a job's settings name.
CREATE TABLE job_files (
  job_id bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  name   text NOT NULL,
  bytes  bytea NOT NULL,
  PRIMARY KEY (job_id, name)
);

-- What the office keeps for next time: job templates and layouts of files, by name.
CREATE TABLE office (
  kind text NOT NULL CHECK (kind IN ('template', 'layout')),
  name text NOT NULL,
  body jsonb NOT NULL,
  PRIMARY KEY (kind, name)
);
