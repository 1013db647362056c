-- What gives way to a point of another delivery is a fact of its own, no deletion by the office. It follows from the order of
-- the deliveries and their answers (points/giving-way.ts) and is worked out again at each turn of one.
ALTER TABLE points ADD COLUMN gave_way boolean NOT NULL DEFAULT false;

-- The job's version when a reading came or went last: of several readings of a delivery that is withdrawn, the one that
-- stood last is brought back.
ALTER TABLE intakes ADD COLUMN turned bigint NOT NULL DEFAULT 0;

-- A single entry taken back, or done again, whatever came after it: a deed of its own, which undo takes back.
ALTER TABLE ledger ADD COLUMN alone boolean NOT NULL DEFAULT false;

-- Shots that an earlier version lost: taken out with no entry of the ledger that did it, by another reading that took what
-- gave way for an edit. They are offered back.
CREATE TABLE lost_points (
  job_id bigint NOT NULL REFERENCES jobs ON DELETE CASCADE,
  id     integer NOT NULL,
  PRIMARY KEY (job_id, id)
);

-- Edits of deletions, the last of each point.
CREATE TEMP TABLE taken_out ON COMMIT DROP AS
  SELECT DISTINCT ON (job_id, id) job_id, id, is_out FROM (
    SELECT l.job_id, l.seq, (e->>'id')::integer AS id, (e->>'new')::boolean AS is_out
      FROM ledger l
      CROSS JOIN LATERAL (SELECT l.change AS c UNION ALL
                          SELECT jsonb_array_elements(l.change->'changes') WHERE jsonb_typeof(l.change->'changes') = 'array') AS one
      CROSS JOIN LATERAL jsonb_array_elements(CASE WHEN jsonb_typeof(one.c->'edits') = 'array' THEN one.c->'edits' ELSE '[]' END) AS e
     WHERE e->>'field' = 'deleted') AS edits
   ORDER BY job_id, id, seq DESC;

-- Points that stand for the same row of a file in readings of one delivery.
CREATE TEMP TABLE gone ON COMMIT DROP AS
  SELECT p.job_id, p.id, i.sequence, p.row, p.intake_id
    FROM points p LEFT JOIN intakes i ON i.id = p.intake_id
   WHERE p.deleted;

-- What another delivery replaced when it was taken in: from now on worked out.
UPDATE points p SET deleted = false, gave_way = true
  FROM (SELECT l.job_id, (r.value)::text::integer AS id
          FROM ledger l
          JOIN intakes i ON i.id = (l.change->>'id')::bigint AND NOT i.withdrawn
          CROSS JOIN LATERAL jsonb_array_elements(l.change->'replaced') AS r
         WHERE l.change->>'type' = 'intake' AND jsonb_typeof(l.change->'replaced') = 'array') AS replaced
 WHERE p.job_id = replaced.job_id AND p.id = replaced.id AND p.deleted
   AND NOT EXISTS (SELECT FROM taken_out o WHERE o.job_id = p.job_id AND o.id = p.id AND o.is_out);

-- The rest was lost where no edit took it out, in this reading or in an earlier one of the same delivery.
INSERT INTO lost_points (job_id, id)
  SELECT g.job_id, g.id FROM gone g JOIN points p ON p.job_id = g.job_id AND p.id = g.id
   WHERE p.deleted AND g.intake_id IS NOT NULL
     AND NOT EXISTS (SELECT FROM taken_out o WHERE o.job_id = g.job_id AND o.id = g.id AND o.is_out)
     AND NOT EXISTS (
       SELECT FROM intakes i JOIN points q ON q.intake_id = i.id AND q.row = g.row
         JOIN taken_out o ON o.job_id = q.job_id AND o.id = q.id AND o.is_out
        WHERE i.job_id = g.job_id AND i.sequence = g.sequence);

-- Whose number another has gives way to that still: nothing of it is missing now, and it is back when that leaves.
UPDATE points p SET deleted = false, gave_way = true
  FROM lost_points l
 WHERE p.job_id = l.job_id AND p.id = l.id
   AND EXISTS (SELECT FROM points q LEFT JOIN intakes i ON i.id = q.intake_id
                WHERE q.job_id = p.job_id AND q.number = p.number AND q.id <> p.id
                  AND NOT q.deleted AND NOT q.gave_way AND i.withdrawn IS NOT TRUE);
DELETE FROM lost_points l USING points p WHERE p.job_id = l.job_id AND p.id = l.id AND p.gave_way;
