CREATE EXTENSION IF NOT EXISTS btree_gin;--> statement-breakpoint
CREATE TABLE "search_key" (
	"key" bigint PRIMARY KEY NOT NULL,
	"found" text NOT NULL,
	"shows" text NOT NULL,
	"need" text NOT NULL,
	"within" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "search_text" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"version_id" bigint NOT NULL,
	"kind" text NOT NULL,
	"thing" text NOT NULL,
	"need" text NOT NULL,
	"within" text NOT NULL,
	"key" bigint NOT NULL,
	"title" text NOT NULL,
	"words" text NOT NULL,
	"found" "tsvector" NOT NULL
);
--> statement-breakpoint
CREATE TABLE "search_word" (
	"word" text PRIMARY KEY NOT NULL
);
--> statement-breakpoint
ALTER TABLE "search_text" ADD CONSTRAINT "search_text_version_id_version_id_fk" FOREIGN KEY ("version_id") REFERENCES "public"."version"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "search_text_found" ON "search_text" USING gin ("key","found");--> statement-breakpoint
CREATE INDEX "search_text_version" ON "search_text" USING btree ("version_id");--> statement-breakpoint
CREATE INDEX "search_text_key" ON "search_text" USING btree ("key");--> statement-breakpoint
CREATE INDEX "search_word_like" ON "search_word" USING gin ("word" gin_trgm_ops);