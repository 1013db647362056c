/** What databases of earlier versions held. */

/** A job as the code of a version left it: one delivery of two points, one edit of the second, a set and a surface. */
export function filled(version: number): string {
  const sequence = version >= 7 ? ", sequence" : version >= 2 ? ", place" : "";
  const info = {
    id: "day1",
    file: "day1.csv",
    format: "delimited",
    clash: "stop",
    kind: "measured",
    rows: 2,
    points: 2,
  };
  const more = { refused: [], clashes: [], notes: [], setups: 0, beyond: 0 };
  const taken = { type: "intake", intake: "day1", file: "day1.csv", action: "take", replaced: [] };
  const edit = { type: "points", edits: [{ id: 2, field: "elevation", old: 11, new: 12.5 }] };
  return `
    INSERT INTO jobs (name, unit, settings, book, version, next_point) VALUES ('Old plot', 'm',
      '{"order": "EN", "tolerance": {"arc": 0.02, "chord": 0.01, "coincident": 0.001, "crossing": 0.02}}',
      '{"SPOT": {"name": "spot level"}}', 2, 3);
    INSERT INTO intakes (job_id, key, file, info, bytes, sha256, author${sequence})
      VALUES (1, 'day1', 'day1.csv', '${JSON.stringify({ ...info, ...more })}', 30, 'x', 'Ada'${sequence && ", 1"});
    INSERT INTO intake_parts VALUES (1, 0, convert_to('1,0,0,10,SPOT' || chr(10) || '2,10,0,11,SPOT', 'UTF8'));
    INSERT INTO points (job_id, id, intake_id, row, number, easting, northing, elevation, description, note, kind)
      VALUES (1, 1, 1, 1, '1', 0, 0, 10, 'SPOT', '', 'measured'), (1, 2, 1, 2, '2', 10, 0, 12.5, 'SPOT', '', 'measured');
    INSERT INTO definitions VALUES (1, 'sets', 'all', 0, '{"name": "all", "rule": {"codes": ["*"]}}'),
      (1, 'surfaces', 'ground', 0, '{"name": "ground"}');
    INSERT INTO ledger (job_id, seq, author, kind, change) VALUES
      (1, 1, 'Ada', 'change', '${JSON.stringify(version >= 2 ? { ...taken, id: 1 } : taken)}'),
      (1, 2, 'Ben', 'change', '${JSON.stringify(edit)}');`;
}
