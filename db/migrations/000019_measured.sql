-- What the field says of how a point was measured, by its names: null where it says nothing.
ALTER TABLE points ADD COLUMN measured jsonb;
