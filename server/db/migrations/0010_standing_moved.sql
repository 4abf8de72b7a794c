-- Says that sessions, people or what they hold moved, once the transaction is through: what server processes
-- remember of whoever is signed in holds no longer. Many of one transaction are one word.
CREATE FUNCTION standing_moved() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('bravik_standing', '');
  RETURN NULL;
END $$;
--> statement-breakpoint
CREATE TRIGGER session_moved AFTER DELETE OR TRUNCATE OR UPDATE OF token_hash, person_id, expires_at ON session FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER person_moved AFTER DELETE OR TRUNCATE OR UPDATE ON person FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER membership_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON membership FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER role_grant_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON role_grant FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER firm_member_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON firm_member FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER firm_level_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON firm_level FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER firm_role_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON firm_role FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
