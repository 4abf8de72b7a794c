ALTER TABLE "file" ADD COLUMN "checked_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "damage" text;--> statement-breakpoint
CREATE INDEX "file_damaged" ON "file" USING btree ("name") WHERE "file"."damage" is not null;