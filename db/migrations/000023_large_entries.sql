-- A page of the ledger leaves large changes behind: it needs their size without reading them, and their words beside it.
ALTER TABLE ledger
  ADD COLUMN size  integer GENERATED ALWAYS AS (octet_length(change::text)) STORED,
  ADD COLUMN words text;
