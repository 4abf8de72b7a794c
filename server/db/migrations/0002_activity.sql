CREATE TABLE "activity" (
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"person_id" text,
	"tier" text NOT NULL,
	"subject_kind" text,
	"subject_id" text,
	"gate" text,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL
) PARTITION BY RANGE ("at");
--> statement-breakpoint
CREATE INDEX "activity_at" ON "activity" ("at");
--> statement-breakpoint
CREATE INDEX "activity_person" ON "activity" ("person_id", "at") WHERE "person_id" IS NOT NULL;
--> statement-breakpoint
CREATE INDEX "activity_kind" ON "activity" ("kind", "at");
--> statement-breakpoint
CREATE TABLE "activity_other" PARTITION OF "activity" DEFAULT;
