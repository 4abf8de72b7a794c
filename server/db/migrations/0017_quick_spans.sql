-- Spans and addresses are kept apart by a hash of their name: an index over the names themselves took ten
-- times as long to write, and going back over thousands of changes held the draft for that long. Two names of
-- one hash would be taken for one (once in some thousand million sites), never one for two.
SET CONSTRAINTS ALL IMMEDIATE;--> statement-breakpoint
ALTER TABLE "version" DROP CONSTRAINT "version_apart";--> statement-breakpoint
ALTER TABLE "version" DROP CONSTRAINT "version_address";--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_apart" EXCLUDE USING gist (hashtextextended("kind" || ' ' || "key", 0) WITH =, int4range("edition_from", "edition_to") WITH &&) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_address" EXCLUDE USING gist (hashtextextended("path", 0) WITH =, int4range("edition_from", "edition_to") WITH &&) WHERE ("path" IS NOT NULL) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
SET CONSTRAINTS ALL DEFERRED;
