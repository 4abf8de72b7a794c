CREATE TABLE "picture" (
	"name" text PRIMARY KEY NOT NULL,
	"size" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"named_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE INDEX "picture_made" ON "picture" USING btree ("made_by","made_at");