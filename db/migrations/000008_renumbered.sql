-- The number that a renumbered point came with: what the field wrote of it goes on meaning it. Until now it is told by the first edit only.
ALTER TABLE points ADD COLUMN came_as text;

WITH edits AS (
  SELECT DISTINCT ON (l.job_id, (e->>'id')::int) l.job_id, (e->>'id')::int AS id, e->>'old' AS first
    FROM ledger l
   CROSS JOIN LATERAL jsonb_array_elements(CASE WHEN l.change->>'type' = 'several' THEN l.change->'changes' ELSE jsonb_build_array(l.change) END) c
   CROSS JOIN LATERAL jsonb_array_elements(CASE WHEN c->>'type' = 'points' THEN c->'edits' ELSE '[]'::jsonb END) e
   WHERE e->>'field' = 'number'
   ORDER BY l.job_id, (e->>'id')::int, l.seq
)
UPDATE points p SET came_as = edits.first FROM edits
 WHERE p.job_id = edits.job_id AND p.id = edits.id AND p.number <> edits.first;
