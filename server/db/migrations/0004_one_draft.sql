CREATE TABLE "planned_edition" (
	"id" serial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"chosen" jsonb,
	"planned_by" text NOT NULL,
	"planned_by_id" text,
	"state" text DEFAULT 'waiting' NOT NULL,
	"edition" integer,
	"problem" text,
	"decided_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "stock" (
	"product" text PRIMARY KEY NOT NULL,
	"pieces" integer DEFAULT 0 NOT NULL,
	"cost" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "stock_amounts" CHECK ("stock"."pieces" >= 0 and "stock"."cost" >= 0)
);
--> statement-breakpoint
CREATE TABLE "thing" (
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"made_by" text,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL,
	"assigned_to" text,
	CONSTRAINT "thing_kind_key_pk" PRIMARY KEY("kind","key")
);
--> statement-breakpoint
CREATE TABLE "version" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"position" double precision NOT NULL,
	"body" jsonb,
	"content" jsonb,
	"path" text GENERATED ALWAYS AS (body ->> 'path') STORED,
	"edition_from" integer NOT NULL,
	"edition_to" integer,
	"revision" integer DEFAULT 1 NOT NULL,
	"changed_by" text NOT NULL,
	"changed_by_id" text,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "version_of" UNIQUE("kind","key","edition_from"),
	CONSTRAINT "version_span" CHECK ("version"."edition_to" is null or "version"."edition_to" > "version"."edition_from")
);
--> statement-breakpoint
ALTER TABLE "block" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "menu" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "menu_item" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "page" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "product" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
ALTER TABLE "rule_entry" DISABLE ROW LEVEL SECURITY;--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gist;--> statement-breakpoint
-- The rules move as they are. What the draft changes ended, so far, only when it was published; from now on it ends where the draft begins.
INSERT INTO "version" ("kind", "key", "position", "body", "edition_from", "edition_to", "revision", "changed_by", "changed_at")
	SELECT "kind", "key", "position", "body", "edition_from", "edition_to", "revision", "changed_by", "changed_at" FROM "rule_entry" ORDER BY "id";--> statement-breakpoint
UPDATE "version" old SET "edition_to" = fresh."edition_from" FROM "version" fresh
	WHERE fresh."kind" = old."kind" AND fresh."key" = old."key" AND fresh."edition_from" > old."edition_from" AND old."edition_to" IS NULL
	AND NOT EXISTS (SELECT 1 FROM "version" between_them WHERE between_them."kind" = old."kind" AND between_them."key" = old."key"
		AND between_them."edition_from" > old."edition_from" AND between_them."edition_from" < fresh."edition_from");--> statement-breakpoint
-- What stands on the site stood in no edition: it is in all of them as it is now.
INSERT INTO "version" ("kind", "key", "position", "body", "content", "edition_from", "changed_by")
	SELECT 'page', "id", "position", jsonb_strip_nulls(jsonb_build_object('id', "id", 'title', "title", 'path', "path", 'parent', "parent_id")),
		jsonb_build_object('summary', "summary"), 1, 'Bravik' FROM "page" ORDER BY "position", "path";--> statement-breakpoint
INSERT INTO "version" ("kind", "key", "position", "body", "content", "edition_from", "changed_by")
	SELECT 'block', "id", "position", jsonb_strip_nulls(jsonb_build_object('id', "id", 'title', nullif("title", ''), 'kind', "kind", 'oneOf', nullif("one_of", false),
		'in', jsonb_build_object('page', "page_id", 'block', "block_id", 'frame', "frame"))),
		jsonb_build_object('summary', "summary", 'body', "body"), 1, 'Bravik' FROM "block" ORDER BY "position", "id";--> statement-breakpoint
INSERT INTO "version" ("kind", "key", "position", "body", "content", "edition_from", "changed_by")
	SELECT 'menu', "id", 0, jsonb_strip_nulls(jsonb_build_object('id', "id", 'title', "title", 'whenRefused', "when_refused")), '{}', 1, 'Bravik' FROM "menu" ORDER BY "id";--> statement-breakpoint
INSERT INTO "version" ("kind", "key", "position", "body", "content", "edition_from", "changed_by")
	SELECT 'menuItem', "id", "position", jsonb_strip_nulls(jsonb_build_object('id', "id", 'menu', "menu_id", 'label', "label", 'under', "under", 'whenRefused', "when_refused",
		'follow', nullif("follow", true), 'to', case when "url" is not null then jsonb_build_object('url', "url") when "to_kind" is not null then jsonb_build_object("to_kind", "to_id") end)),
		'{}', 1, 'Bravik' FROM "menu_item" ORDER BY "position", "id";--> statement-breakpoint
-- Products were on no site: without an address and a category they stay on none.
INSERT INTO "version" ("kind", "key", "position", "body", "content", "edition_from", "changed_by")
	SELECT 'product', "id", row_number() over (order by "title"), jsonb_build_object('id', "id", 'title', "title", 'price', "price"),
		jsonb_build_object('summary', '', 'picture', "picture"), 1, 'Bravik' FROM "product";--> statement-breakpoint
INSERT INTO "stock" ("product", "pieces", "cost") SELECT "id", "stock", "cost" FROM "product";--> statement-breakpoint
INSERT INTO "thing" ("kind", "key", "made_by", "assigned_to")
	SELECT 'page', "id", "made_by", "assigned_to" FROM "page" UNION ALL SELECT 'block', "id", "made_by", "assigned_to" FROM "block"
	UNION ALL SELECT 'product', "id", "made_by", "assigned_to" FROM "product"
	UNION ALL SELECT 'menu', "id", null, null FROM "menu" UNION ALL SELECT 'menuItem', "id", null, null FROM "menu_item";--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_apart" EXCLUDE USING gist ("kind" WITH =, "key" WITH =, int4range("edition_from", "edition_to") WITH &&) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
ALTER TABLE "version" ADD CONSTRAINT "version_address" EXCLUDE USING gist ("path" WITH =, int4range("edition_from", "edition_to") WITH &&) WHERE ("path" IS NOT NULL) DEFERRABLE INITIALLY DEFERRED;--> statement-breakpoint
-- Whoever could change content made it public by that; publishing is a right of its own from now on, and they keep it.
UPDATE "staff_rule" SET "body" = jsonb_set("body", '{actions}', ("body" -> 'actions') || '["publish"]')
	WHERE "body" ->> 'kind' IN ('pages', 'blocks-text', 'blocks-picture', 'blocks-call', 'blocks-group', 'blocks-panel', 'topics', 'menus', 'downloads', 'products', 'prices')
	AND NOT ("body" ? 'fields') AND ("body" -> 'actions') ?| array['add', 'change', 'withdraw'] AND NOT ("body" -> 'actions') ? 'publish';--> statement-breakpoint
DROP TABLE "block";--> statement-breakpoint
DROP TABLE "menu_item";--> statement-breakpoint
DROP TABLE "menu";--> statement-breakpoint
DROP TABLE "page";--> statement-breakpoint
DROP TABLE "product";--> statement-breakpoint
DROP TABLE "rule_entry";--> statement-breakpoint
ALTER TABLE "site_state" ADD COLUMN "draft_version" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "site_state" ADD COLUMN "settings_version" bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX "planned_edition_waiting" ON "planned_edition" USING btree ("at") WHERE "planned_edition"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "version_from" ON "version" USING btree ("edition_from");--> statement-breakpoint
CREATE INDEX "version_to" ON "version" USING btree ("edition_to");--> statement-breakpoint
CREATE INDEX "trace_subject" ON "trace" USING btree ("subject","id");--> statement-breakpoint
CREATE INDEX "trace_person" ON "trace" USING btree ("person_id","id");--> statement-breakpoint
ALTER TABLE "site_state" DROP COLUMN "content_version";--> statement-breakpoint
DROP TYPE "public"."frame_part";