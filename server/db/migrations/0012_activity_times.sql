-- What is the same within a moment is one row: a page that is opened three thousand times a second is not three thousand.
ALTER TABLE activity ADD COLUMN times integer NOT NULL DEFAULT 1;
