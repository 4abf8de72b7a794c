CREATE TABLE "fetched" (
	"day" date NOT NULL,
	"who" text NOT NULL,
	"download" text NOT NULL,
	CONSTRAINT "fetched_day_who_download_pk" PRIMARY KEY("day","who","download")
);
--> statement-breakpoint
CREATE TABLE "file" (
	"name" text PRIMARY KEY NOT NULL,
	"size" bigint NOT NULL,
	"words" text,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"named_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "upload" (
	"id" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"name" text NOT NULL,
	"size" bigint NOT NULL,
	"received" bigint DEFAULT 0 NOT NULL,
	"writer" text,
	"writer_until" timestamp with time zone,
	"touched_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "upload" ADD CONSTRAINT "upload_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "file_unread" ON "file" USING btree ("made_at") WHERE "file"."words" is null;--> statement-breakpoint
CREATE INDEX "upload_person" ON "upload" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "upload_touched" ON "upload" USING btree ("touched_at");