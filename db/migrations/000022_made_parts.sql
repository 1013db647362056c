-- Made files leave in pieces, whatever their size: one value of all bytes was read as one text by the server. A maker that was
-- taken for gone writes another attempt's pieces no more.
CREATE TABLE made_file_parts (
  file_id bigint  NOT NULL REFERENCES made_files ON DELETE CASCADE,
  attempt integer NOT NULL,
  part    integer NOT NULL,
  bytes   bytea   NOT NULL,
  PRIMARY KEY (file_id, attempt, part)
);

ALTER TABLE made_files ADD COLUMN attempt integer NOT NULL DEFAULT 0;
ALTER TABLE made_files ADD COLUMN size bigint;

UPDATE made_files SET size = octet_length(bytes) WHERE bytes IS NOT NULL;
INSERT INTO made_file_parts (file_id, attempt, part, bytes)
  SELECT id, 0, n, substring(bytes FROM n * 1048576 + 1 FOR 1048576)
    FROM made_files CROSS JOIN LATERAL generate_series(0, (octet_length(bytes) - 1) / 1048576) AS n
   WHERE octet_length(bytes) > 0;
ALTER TABLE made_files DROP COLUMN bytes;
