DROP INDEX "membership_person";--> statement-breakpoint
CREATE INDEX "membership_person" ON "membership" USING btree ("person_id","level","since","until");