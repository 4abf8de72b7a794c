ALTER TABLE "firm" ADD COLUMN "facts" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
-- What is said of a firm counts for its people: what is remembered of whoever is signed in holds no longer.
CREATE TRIGGER firm_moved AFTER UPDATE OF facts ON firm FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
