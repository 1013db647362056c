-- Jobs, what was received (bytes and shots, never changed), the present points, and the ledger of every change.

CREATE TABLE jobs (
  id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  name       text NOT NULL,
  unit       text NOT NULL CHECK (unit IN ('m', 'ft', 'ftUS')),
  settings   jsonb NOT NULL,            -- date, order, tolerance
  book       jsonb NOT NULL,
  version    bigint NOT NULL DEFAULT 0, -- seq of the last ledger entry
  next_point integer NOT NULL DEFAULT 1,
  created    timestamptz NOT NULL DEFAULT now()
);

-- Sets, surfaces, contours, comparisons and handover files: named recipes, nothing derived.
CREATE TABLE definitions (
  job_id   bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  part     text NOT NULL CHECK (part IN ('sets', 'surfaces', 'contours', 'volumes', 'handover')),
  name     text NOT NULL,
  position integer NOT NULL,
  body     jsonb NOT NULL,
  PRIMARY KEY (job_id, part, name)
);

CREATE TABLE intakes (
  id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  job_id    bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  key       text NOT NULL,
  file      text NOT NULL,
  info      jsonb NOT NULL,
  bytes     bigint NOT NULL,
  sha256    text NOT NULL,
  author    text NOT NULL,
  taken     timestamptz NOT NULL DEFAULT now(),
  withdrawn boolean NOT NULL DEFAULT false,
  UNIQUE (job_id, key)
);

CREATE TABLE intake_parts (
  intake_id bigint NOT NULL REFERENCES intakes ON DELETE CASCADE,
  part      integer NOT NULL,
  bytes     bytea NOT NULL,
  PRIMARY KEY (intake_id, part)
);

CREATE TABLE shots (
  intake_id     bigint NOT NULL REFERENCES intakes ON DELETE CASCADE,
  row           integer NOT NULL,       -- physical line of the file
  number        text NOT NULL,          -- after the clash policy
  easting       double precision NOT NULL,
  northing      double precision NOT NULL,
  elevation     double precision,
  precision     double precision,
  target_height double precision,
  time          double precision,
  description   text NOT NULL,
  note          text NOT NULL,
  attributes    jsonb,
  PRIMARY KEY (intake_id, row)
);

CREATE FUNCTION refuse_update() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'what was received is never changed';
END $$;
CREATE TRIGGER shots_stay BEFORE UPDATE ON shots FOR EACH ROW EXECUTE FUNCTION refuse_update();
CREATE TRIGGER parts_stay BEFORE UPDATE ON intake_parts FOR EACH ROW EXECUTE FUNCTION refuse_update();

CREATE TABLE points (
  job_id        bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  id            integer NOT NULL,
  intake_id     bigint NOT NULL REFERENCES intakes ON DELETE CASCADE,
  row           integer NOT NULL,
  number        text NOT NULL,
  easting       double precision NOT NULL,
  northing      double precision NOT NULL,
  elevation     double precision,
  precision     double precision,
  target_height double precision,
  time          double precision,
  description   text NOT NULL,
  note          text NOT NULL,
  attributes    jsonb,
  kind          text NOT NULL,
  surface       text NOT NULL DEFAULT 'auto',
  deleted       boolean NOT NULL DEFAULT false,
  PRIMARY KEY (job_id, id)
);
CREATE INDEX points_by_number ON points (job_id, number);
CREATE INDEX points_by_intake ON points (intake_id);

CREATE TABLE ledger (
  job_id bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  seq    bigint NOT NULL,
  author text NOT NULL,
  at     timestamptz NOT NULL DEFAULT now(),
  kind   text NOT NULL CHECK (kind IN ('change', 'undo', 'redo')),
  target bigint,                        -- the change that an undo or redo is about
  undone boolean NOT NULL DEFAULT false,
  change jsonb NOT NULL,
  PRIMARY KEY (job_id, seq)
);
