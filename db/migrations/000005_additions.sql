-- Points that the office makes are changes of the ledger; before, each was a delivery with one row of its own. A change carries the name that
-- its window gave it, so that one sent twice is stored once.

ALTER TABLE points ALTER COLUMN intake_id DROP NOT NULL;
ALTER TABLE ledger ADD COLUMN client text;
CREATE UNIQUE INDEX ledger_by_client ON ledger (job_id, client) WHERE client IS NOT NULL;
CREATE INDEX ledger_by_author ON ledger (job_id, author, seq);

-- A field of a point as it was made: what the first edit of it found, else what it is now.
CREATE FUNCTION pg_temp.as_made(job bigint, point integer, field text, present jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT coalesce((
    SELECT e->'old' FROM ledger l
      CROSS JOIN LATERAL jsonb_array_elements(CASE WHEN l.change->>'type' = 'several' THEN l.change->'changes' ELSE jsonb_build_array(l.change) END) c
      CROSS JOIN LATERAL jsonb_array_elements(CASE WHEN c->>'type' = 'points' THEN c->'edits' ELSE '[]'::jsonb END) e
     WHERE l.job_id = job AND (e->>'id')::int = point AND e->>'field' = field ORDER BY l.seq LIMIT 1), present)
$$;

DO $$
DECLARE
  made record;
  added jsonb;
BEGIN
  FOR made IN
    SELECT i.id AS intake, i.withdrawn, p.* FROM intakes i JOIN points p ON p.intake_id = i.id
     WHERE i.info->>'kind' = 'computed' AND (i.info->>'rows')::int = 1 AND i.info->>'format' = 'delimited' AND i.file LIKE 'point-%.csv'
       AND i.info->'layout'->'columns' = '["number", "easting", "northing", "elevation", "description"]'::jsonb
  LOOP
    added := jsonb_build_object(
      'id', jsonb_build_array(made.id),
      'number', jsonb_build_array(pg_temp.as_made(made.job_id, made.id, 'number', to_jsonb(made.number))),
      'easting', jsonb_build_array(pg_temp.as_made(made.job_id, made.id, 'easting', to_jsonb(made.easting))),
      'northing', jsonb_build_array(pg_temp.as_made(made.job_id, made.id, 'northing', to_jsonb(made.northing))),
      'elevation', jsonb_build_array(pg_temp.as_made(made.job_id, made.id, 'elevation', coalesce(to_jsonb(made.elevation), 'null'))),
      'description', jsonb_build_array(pg_temp.as_made(made.job_id, made.id, 'description', to_jsonb(made.description))));
    UPDATE ledger SET change = jsonb_build_object('type', CASE WHEN change->>'action' = 'take' THEN 'add' ELSE 'remove' END, 'points', added)
     WHERE job_id = made.job_id AND change->>'type' = 'intake' AND (change->>'id')::bigint = made.intake;
    IF made.withdrawn THEN DELETE FROM points WHERE job_id = made.job_id AND id = made.id;
    ELSE UPDATE points SET intake_id = NULL, row = 0 WHERE job_id = made.job_id AND id = made.id;
    END IF;
    DELETE FROM intakes WHERE id = made.intake;
  END LOOP;
END $$;
