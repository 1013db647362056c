-- Files that are made of a job by the queue, and kept with it.
CREATE TABLE made_files (
  id     bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  job_id bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  name   text NOT NULL,                      -- the request's, so that one sent twice is made once
  wanted jsonb NOT NULL,
  file   text NOT NULL,
  author text NOT NULL,
  asked  timestamptz NOT NULL DEFAULT now(),
  state  text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'making', 'made', 'failed')),
  seen   timestamptz,                        -- when its maker was last heard of
  doing  text NOT NULL DEFAULT '',
  share  real NOT NULL DEFAULT 0,
  seq    integer,                            -- the entry of the ledger after which the job was what it is made of
  made   timestamptz,
  why    text,                               -- it could not be made
  bytes  bytea,
  UNIQUE (job_id, name)
);
