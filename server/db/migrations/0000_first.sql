CREATE TYPE "public"."frame_part" AS ENUM('header', 'banner', 'footer');--> statement-breakpoint
CREATE TABLE "block" (
	"id" text PRIMARY KEY NOT NULL,
	"page_id" text,
	"block_id" text,
	"frame" "frame_part",
	"kind" text NOT NULL,
	"title" text DEFAULT '' NOT NULL,
	"summary" text DEFAULT '' NOT NULL,
	"body" jsonb DEFAULT '{}'::jsonb NOT NULL,
	"one_of" boolean DEFAULT false NOT NULL,
	"position" double precision DEFAULT 0 NOT NULL,
	CONSTRAINT "block_place" CHECK (num_nonnulls("block"."page_id", "block"."block_id", "block"."frame") = 1),
	CONSTRAINT "block_not_in_itself" CHECK ("block"."block_id" <> "block"."id")
);
--> statement-breakpoint
CREATE TABLE "edition" (
	"number" integer PRIMARY KEY NOT NULL,
	"published_at" timestamp with time zone DEFAULT now() NOT NULL,
	"published_by" text NOT NULL,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "membership" (
	"id" serial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"level" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"granted_by" text NOT NULL,
	CONSTRAINT "membership_span" CHECK ("membership"."until" is null or "membership"."until" > "membership"."since")
);
--> statement-breakpoint
CREATE TABLE "menu" (
	"id" text PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"when_refused" text
);
--> statement-breakpoint
CREATE TABLE "menu_item" (
	"id" text PRIMARY KEY NOT NULL,
	"menu_id" text NOT NULL,
	"label" text NOT NULL,
	"to_kind" text,
	"to_id" text,
	"url" text,
	"under" text,
	"follow" boolean DEFAULT true NOT NULL,
	"when_refused" text,
	"position" double precision DEFAULT 0 NOT NULL,
	CONSTRAINT "menu_item_target" CHECK ("menu_item"."url" is null or "menu_item"."to_kind" is null),
	CONSTRAINT "menu_item_pair" CHECK (("menu_item"."to_kind" is null) = ("menu_item"."to_id" is null))
);
--> statement-breakpoint
CREATE TABLE "one_time_link" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"purpose" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "page" (
	"id" text PRIMARY KEY NOT NULL,
	"path" text NOT NULL,
	"parent_id" text,
	"title" text NOT NULL,
	"summary" text DEFAULT '' NOT NULL,
	"position" double precision DEFAULT 0 NOT NULL,
	CONSTRAINT "page_not_own_parent" CHECK ("page"."parent_id" <> "page"."id")
);
--> statement-breakpoint
CREATE TABLE "person" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"password_hash" text,
	"suspended_at" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "role_grant" (
	"person_id" text NOT NULL,
	"role" text NOT NULL,
	"granted_by" text NOT NULL,
	"granted_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "role_grant_person_id_role_pk" PRIMARY KEY("person_id","role")
);
--> statement-breakpoint
CREATE TABLE "rule_entry" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"position" double precision NOT NULL,
	"body" jsonb,
	"edition_from" integer NOT NULL,
	"edition_to" integer,
	"revision" integer DEFAULT 1 NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "rule_entry_version" UNIQUE("kind","key","edition_from"),
	CONSTRAINT "rule_entry_span" CHECK ("rule_entry"."edition_to" is null or "rule_entry"."edition_to" > "rule_entry"."edition_from")
);
--> statement-breakpoint
CREATE TABLE "session" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site_state" (
	"id" integer PRIMARY KEY DEFAULT 1 NOT NULL,
	"name" text NOT NULL,
	"timezone" text NOT NULL,
	"currency" text NOT NULL,
	"locale" text DEFAULT 'en' NOT NULL,
	"live_edition" integer DEFAULT 0 NOT NULL,
	"content_version" bigint DEFAULT 0 NOT NULL,
	CONSTRAINT "site_state_single" CHECK ("site_state"."id" = 1)
);
--> statement-breakpoint
CREATE TABLE "trace" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" text,
	"who" text NOT NULL,
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"detail" jsonb DEFAULT '{}'::jsonb NOT NULL
);
--> statement-breakpoint
ALTER TABLE "block" ADD CONSTRAINT "block_page_id_page_id_fk" FOREIGN KEY ("page_id") REFERENCES "public"."page"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "block" ADD CONSTRAINT "block_block_id_block_id_fk" FOREIGN KEY ("block_id") REFERENCES "public"."block"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "menu_item" ADD CONSTRAINT "menu_item_menu_id_menu_id_fk" FOREIGN KEY ("menu_id") REFERENCES "public"."menu"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "menu_item" ADD CONSTRAINT "menu_item_under_menu_item_id_fk" FOREIGN KEY ("under") REFERENCES "public"."menu_item"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "page" ADD CONSTRAINT "page_parent_id_page_id_fk" FOREIGN KEY ("parent_id") REFERENCES "public"."page"("id") ON DELETE restrict ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "role_grant" ADD CONSTRAINT "role_grant_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "session" ADD CONSTRAINT "session_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "block_page" ON "block" USING btree ("page_id");--> statement-breakpoint
CREATE INDEX "block_block" ON "block" USING btree ("block_id");--> statement-breakpoint
CREATE INDEX "membership_person" ON "membership" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "menu_item_menu" ON "menu_item" USING btree ("menu_id");--> statement-breakpoint
CREATE UNIQUE INDEX "page_path" ON "page" USING btree ("path");--> statement-breakpoint
CREATE INDEX "page_parent" ON "page" USING btree ("parent_id");--> statement-breakpoint
CREATE UNIQUE INDEX "person_email" ON "person" USING btree (lower("email"));--> statement-breakpoint
CREATE INDEX "role_grant_role" ON "role_grant" USING btree ("role");--> statement-breakpoint
CREATE INDEX "rule_entry_from" ON "rule_entry" USING btree ("edition_from");--> statement-breakpoint
CREATE INDEX "session_person" ON "session" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "trace_at" ON "trace" USING btree ("at");