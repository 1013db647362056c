-- Lines by hand, corrections of surfaces and chosen points of sets refer to points by identity (core/src/points/refs.ts), no longer by
-- number: in what a job is now, in its ledger, and in what the office keeps for next time, where no point is known.

-- The numbers that a list names, in its order: an array of them, or text such as `12, 40-52, "A-7"`.
CREATE FUNCTION pg_temp.numbers_of(list jsonb) RETURNS text[] LANGUAGE sql AS $$
  SELECT CASE jsonb_typeof(list)
    WHEN 'array' THEN ARRAY(SELECT jsonb_array_elements_text(list))
    ELSE ARRAY(
      SELECT coalesce(replace(m[1], '""', '"'), n::text, trim(m[2]))
        FROM regexp_matches(list #>> '{}', '"((?:[^"]|"")+)"|([^",]+)', 'g') WITH ORDINALITY AS items(m, at)
        LEFT JOIN LATERAL regexp_match(trim(m[2]), '^(\d{1,15})\s*-\s*(\d{1,15})$') AS ends ON true
        LEFT JOIN LATERAL generate_series(ends[1]::bigint, ends[2]::bigint, CASE WHEN ends[1]::bigint <= ends[2]::bigint THEN 1 ELSE -1 END)
          WITH ORDINALITY AS range(n, k) ON ends IS NOT NULL AND abs(ends[1]::bigint - ends[2]::bigint) < 1000000
       WHERE m[1] IS NOT NULL OR trim(m[2]) <> ''
       ORDER BY at, k)
  END
$$;

-- The reference to the point that has a number now; to the number where nobody has it.
CREATE FUNCTION pg_temp.ref_of(job bigint, wanted text) RETURNS text LANGUAGE sql AS $$
  SELECT coalesce(
    (SELECT coalesce(i.key || ':' || p.row, '*made:' || p.id) || E'\t' || coalesce(p.came_as, p.number)
       FROM points p LEFT JOIN intakes i ON i.id = p.intake_id
      WHERE p.job_id = job AND p.number = wanted AND NOT p.deleted AND NOT p.gave_way AND i.withdrawn IS NOT TRUE
      ORDER BY p.id DESC LIMIT 1),
    '*number:' || wanted)
$$;

CREATE FUNCTION pg_temp.refs_of(job bigint, list jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT coalesce(jsonb_agg(pg_temp.ref_of(job, number) ORDER BY at), '[]')
    FROM unnest(pg_temp.numbers_of(list)) WITH ORDINALITY AS named(number, at)
$$;

-- Corners of several sides, triangles or pieces.
CREATE FUNCTION pg_temp.corners_of(job bigint, list jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT coalesce(jsonb_agg(pg_temp.refs_of(job, corners) ORDER BY at), '[]')
    FROM jsonb_array_elements(list) WITH ORDINALITY AS items(corners, at)
$$;

CREATE FUNCTION pg_temp.line_of(job bigint, line jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT line || jsonb_build_object('points', pg_temp.refs_of(job, line->'points'))
    || CASE WHEN line ? 'cues'
            THEN jsonb_build_object('cues', (SELECT coalesce(jsonb_object_agg(pg_temp.ref_of(job, number), words), '{}')
                                               FROM jsonb_each(line->'cues') AS cues(number, words)))
            ELSE '{}' END
$$;

CREATE FUNCTION pg_temp.surface_of(job bigint, surface jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT surface
    || CASE WHEN surface ? 'swap' THEN jsonb_build_object('swap', pg_temp.corners_of(job, surface->'swap')) ELSE '{}' END
    || CASE WHEN surface ? 'drop' THEN jsonb_build_object('drop', pg_temp.corners_of(job, surface->'drop')) ELSE '{}' END
    || CASE WHEN surface->'breaklines' ? 'except'
            THEN jsonb_build_object('breaklines', surface->'breaklines' || jsonb_build_object('except', (
              SELECT coalesce(jsonb_agg(CASE WHEN item ? 'pieces' THEN jsonb_build_object('pieces', pg_temp.corners_of(job, item->'pieces'))
                                             ELSE item END ORDER BY at), '[]')
                FROM jsonb_array_elements(surface#>'{breaklines,except}') WITH ORDINALITY AS items(item, at))))
            ELSE '{}' END
$$;

-- Exact numbers were points that somebody chose; numbers as text are a condition, and stay one.
CREATE FUNCTION pg_temp.rule_of(job bigint, rule jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
BEGIN
  RETURN CASE
    WHEN jsonb_typeof(rule->'numbers') = 'array' THEN jsonb_build_object('points', pg_temp.refs_of(job, rule->'numbers'))
    WHEN rule ? 'all' THEN jsonb_build_object('all', (SELECT coalesce(jsonb_agg(pg_temp.rule_of(job, r) ORDER BY at), '[]')
                                                        FROM jsonb_array_elements(rule->'all') WITH ORDINALITY AS items(r, at)))
    WHEN rule ? 'any' THEN jsonb_build_object('any', (SELECT coalesce(jsonb_agg(pg_temp.rule_of(job, r) ORDER BY at), '[]')
                                                        FROM jsonb_array_elements(rule->'any') WITH ORDINALITY AS items(r, at)))
    WHEN rule ? 'not' THEN jsonb_build_object('not', pg_temp.rule_of(job, rule->'not'))
    ELSE rule
  END;
END $$;

CREATE FUNCTION pg_temp.thing_of(job bigint, part text, thing jsonb) RETURNS jsonb LANGUAGE sql AS $$
  SELECT CASE
    WHEN thing IS NULL OR jsonb_typeof(thing) <> 'object' THEN thing
    WHEN part = 'lines' THEN pg_temp.line_of(job, thing)
    WHEN part = 'surfaces' THEN pg_temp.surface_of(job, thing)
    WHEN part = 'sets' THEN thing || jsonb_build_object('rule', pg_temp.rule_of(job, thing->'rule'))
    ELSE thing
  END
$$;

CREATE FUNCTION pg_temp.change_of(job bigint, change jsonb) RETURNS jsonb LANGUAGE plpgsql AS $$
BEGIN
  RETURN CASE change->>'type'
    WHEN 'named' THEN change || jsonb_build_object(
      'old', pg_temp.thing_of(job, change->>'part', change->'old'),
      'new', pg_temp.thing_of(job, change->>'part', change->'new'))
    WHEN 'several' THEN change || jsonb_build_object('changes', (
      SELECT coalesce(jsonb_agg(pg_temp.change_of(job, c) ORDER BY at), '[]')
        FROM jsonb_array_elements(change->'changes') WITH ORDINALITY AS items(c, at)))
    ELSE change
  END;
END $$;

UPDATE definitions SET body = pg_temp.thing_of(job_id, part, body)
 WHERE part = 'lines'
    OR part = 'surfaces' AND (body ? 'swap' OR body ? 'drop' OR body->'breaklines' ? 'except')
    OR part = 'sets' AND body::text LIKE '%"numbers": [%';

UPDATE ledger SET change = pg_temp.change_of(job_id, change)
 WHERE change::text LIKE '%"part": "lines"%' OR change::text LIKE '%"part": "surfaces"%' OR change::text LIKE '%"part": "sets"%';

UPDATE office SET body = body
    || CASE WHEN body ? 'surfaces'
            THEN jsonb_build_object('surfaces', (SELECT coalesce(jsonb_agg(pg_temp.surface_of(0, s) ORDER BY at), '[]')
                                                   FROM jsonb_array_elements(body->'surfaces') WITH ORDINALITY AS items(s, at)))
            ELSE '{}' END
    || CASE WHEN body ? 'sets'
            THEN jsonb_build_object('sets', (SELECT coalesce(jsonb_agg(pg_temp.thing_of(0, 'sets', s) ORDER BY at), '[]')
                                               FROM jsonb_array_elements(body->'sets') WITH ORDINALITY AS items(s, at)))
            ELSE '{}' END
 WHERE kind = 'template';
