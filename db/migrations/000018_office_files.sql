-- Files that belong to what the office keeps: the geoid's grid of a template.
CREATE TABLE office_files (
  kind        text NOT NULL,
  office_name text NOT NULL,
  name        text NOT NULL,
  bytes       bytea NOT NULL,
  PRIMARY KEY (kind, office_name, name),
  FOREIGN KEY (kind, office_name) REFERENCES office (kind, name) ON DELETE CASCADE
);
