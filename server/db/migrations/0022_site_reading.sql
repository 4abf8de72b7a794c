CREATE TABLE "site_reading" (
	"id" text PRIMARY KEY NOT NULL,
	"address" text NOT NULL,
	"state" text DEFAULT 'asked' NOT NULL,
	"found_by" text,
	"why" text,
	"person_id" text NOT NULL,
	"who" text NOT NULL,
	"asked_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"holder" text,
	"held_until" timestamp with time zone,
	CONSTRAINT "site_reading_ended" CHECK (("site_reading"."ended_at" is null) = ("site_reading"."state" in ('asked', 'reading')))
);
--> statement-breakpoint
CREATE TABLE "site_reading_item" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"reading" text NOT NULL,
	"sort" text NOT NULL,
	"address" text NOT NULL,
	"outcome" jsonb,
	CONSTRAINT "site_reading_item_once" UNIQUE("reading","sort","address")
);
--> statement-breakpoint
ALTER TABLE "site_reading_item" ADD CONSTRAINT "site_reading_item_reading_site_reading_id_fk" FOREIGN KEY ("reading") REFERENCES "public"."site_reading"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "site_reading_open" ON "site_reading" USING btree ((true)) WHERE "site_reading"."state" in ('asked', 'reading');--> statement-breakpoint
CREATE INDEX "site_reading_item_next" ON "site_reading_item" USING btree ("reading","id");