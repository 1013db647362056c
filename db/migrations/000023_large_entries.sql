-- A page of the ledger leaves large changes behind: it needs their size, their words and what stands for them without reading them.
ALTER TABLE ledger
  ADD COLUMN size  integer GENERATED ALWAYS AS (octet_length(change::text)) STORED,
  ADD COLUMN brief jsonb;
