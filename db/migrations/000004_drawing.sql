-- Lines drawn by hand are named things of a job; the office keeps code books beside templates and layouts.
ALTER TABLE definitions DROP CONSTRAINT definitions_part_check;
ALTER TABLE definitions ADD CONSTRAINT definitions_part_check CHECK (part IN ('setups', 'lines', 'sets', 'surfaces', 'contours', 'volumes', 'handover'));
ALTER TABLE office DROP CONSTRAINT office_kind_check;
ALTER TABLE office ADD CONSTRAINT office_kind_check CHECK (kind IN ('template', 'layout', 'book'));
