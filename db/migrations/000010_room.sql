-- A change of many points finds room beside them, so that their indexes stay as they are.
ALTER TABLE points SET (fillfactor = 60);
