-- The office's edits of the cues of a shot, beside its description.
ALTER TABLE points ADD COLUMN cues text NOT NULL DEFAULT '';
