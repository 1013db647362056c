-- What a person adds to the drawing is a part of the job.
ALTER TABLE definitions DROP CONSTRAINT definitions_part_check;
ALTER TABLE definitions ADD CONSTRAINT definitions_part_check
  CHECK (part IN ('setups', 'lines', 'sets', 'surfaces', 'contours', 'volumes', 'differences', 'accepted', 'added',
                  'handover', 'states'));
