CREATE TABLE "draft_step" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"back" jsonb NOT NULL
);
--> statement-breakpoint
CREATE INDEX "draft_step_of" ON "draft_step" USING btree ("person_id","id");