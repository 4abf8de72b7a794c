CREATE EXTENSION IF NOT EXISTS pg_trgm;--> statement-breakpoint
CREATE TABLE "application" (
	"id" serial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"target" text NOT NULL,
	"answers" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"words" text DEFAULT '' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"decided_by" text,
	"decided_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "application_form" (
	"target" text PRIMARY KEY NOT NULL,
	"open" boolean DEFAULT true NOT NULL,
	"intro" text DEFAULT '' NOT NULL,
	"questions" jsonb DEFAULT '[]'::jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "bulk_change" (
	"id" serial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by_id" text,
	"by" text NOT NULL,
	"what" jsonb NOT NULL,
	"undo" jsonb NOT NULL,
	"people" integer NOT NULL,
	"undone_at" timestamp with time zone,
	"undone_by" text
);
--> statement-breakpoint
CREATE TABLE "firm" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "firm_level" (
	"id" serial PRIMARY KEY NOT NULL,
	"firm_id" text NOT NULL,
	"level" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"granted_by" text NOT NULL,
	CONSTRAINT "firm_level_span" CHECK ("firm_level"."until" is null or "firm_level"."until" >= "firm_level"."since")
);
--> statement-breakpoint
CREATE TABLE "firm_member" (
	"person_id" text PRIMARY KEY NOT NULL,
	"firm_id" text NOT NULL,
	"owner" boolean DEFAULT false NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "firm_role" (
	"firm_id" text NOT NULL,
	"role" text NOT NULL,
	"granted_by" text NOT NULL,
	CONSTRAINT "firm_role_firm_id_role_pk" PRIMARY KEY("firm_id","role")
);
--> statement-breakpoint
CREATE TABLE "mail_kept" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"sender" text NOT NULL,
	"recipient" text NOT NULL,
	"subject" text NOT NULL,
	"plain" text NOT NULL,
	"html" text DEFAULT '' NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "mail_out" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"text" text NOT NULL,
	"recipient" text NOT NULL,
	"values" jsonb NOT NULL,
	"state" text DEFAULT 'queued' NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"problem" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"sent_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "mail_text" (
	"key" text PRIMARY KEY NOT NULL,
	"subject" text NOT NULL,
	"plain" text NOT NULL,
	"html" text NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "payment_notice" (
	"id" text PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"kind" text NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "person_note" (
	"id" serial PRIMARY KEY NOT NULL,
	"person_id" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"by" text NOT NULL,
	"text" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "product" (
	"id" text PRIMARY KEY NOT NULL,
	"title" text NOT NULL,
	"picture" text DEFAULT 'plain' NOT NULL,
	"price" integer NOT NULL,
	"stock" integer NOT NULL,
	"cost" integer NOT NULL,
	"made_by" text,
	"assigned_to" text,
	CONSTRAINT "product_amounts" CHECK ("product"."price" >= 0 and "product"."cost" >= 0 and "product"."stock" >= 0)
);
--> statement-breakpoint
CREATE TABLE "purchase" (
	"reference" text PRIMARY KEY NOT NULL,
	"person_id" text,
	"level" text NOT NULL,
	"sort" text NOT NULL,
	"amount" integer NOT NULL,
	"credit" integer DEFAULT 0 NOT NULL,
	"state" text DEFAULT 'pending' NOT NULL,
	"membership_id" integer,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"settled_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "setting" (
	"group" text PRIMARY KEY NOT NULL,
	"body" jsonb NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff_rule" (
	"id" serial PRIMARY KEY NOT NULL,
	"role" text NOT NULL,
	"body" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "throttle" (
	"key" text PRIMARY KEY NOT NULL,
	"tries" integer NOT NULL,
	"until" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "membership" DROP CONSTRAINT "membership_span";--> statement-breakpoint
ALTER TABLE "block" ADD COLUMN "made_by" text;--> statement-breakpoint
ALTER TABLE "block" ADD COLUMN "assigned_to" text;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "source" text DEFAULT 'staff' NOT NULL;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "paid_from" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "paid_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "paid_amount" integer;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "renews" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "renew_as" text;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "ended_by" text;--> statement-breakpoint
ALTER TABLE "one_time_link" ADD COLUMN "person_id" text;--> statement-breakpoint
ALTER TABLE "one_time_link" ADD COLUMN "data" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "page" ADD COLUMN "made_by" text;--> statement-breakpoint
ALTER TABLE "page" ADD COLUMN "assigned_to" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "confirmed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "approved_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "declined_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "facts" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "card_answer" text DEFAULT 'approve' NOT NULL;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "find_text" text GENERATED ALWAYS AS (lower(name || ' ' || email)) STORED;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "seen_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "agent" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "session" ADD COLUMN "network" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "application" ADD CONSTRAINT "application_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "firm_level" ADD CONSTRAINT "firm_level_firm_id_firm_id_fk" FOREIGN KEY ("firm_id") REFERENCES "public"."firm"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "firm_member" ADD CONSTRAINT "firm_member_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "firm_member" ADD CONSTRAINT "firm_member_firm_id_firm_id_fk" FOREIGN KEY ("firm_id") REFERENCES "public"."firm"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "firm_role" ADD CONSTRAINT "firm_role_firm_id_firm_id_fk" FOREIGN KEY ("firm_id") REFERENCES "public"."firm"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "person_note" ADD CONSTRAINT "person_note_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase" ADD CONSTRAINT "purchase_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "purchase" ADD CONSTRAINT "purchase_membership_id_membership_id_fk" FOREIGN KEY ("membership_id") REFERENCES "public"."membership"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "application_waiting" ON "application" USING btree ("person_id","target") WHERE "application"."state" = 'waiting';--> statement-breakpoint
CREATE INDEX "application_state" ON "application" USING btree ("state","created_at");--> statement-breakpoint
CREATE INDEX "firm_level_firm" ON "firm_level" USING btree ("firm_id");--> statement-breakpoint
CREATE INDEX "firm_member_firm" ON "firm_member" USING btree ("firm_id");--> statement-breakpoint
CREATE INDEX "mail_kept_received" ON "mail_kept" USING btree ("received_at");--> statement-breakpoint
CREATE INDEX "mail_out_queued" ON "mail_out" USING btree ("created_at") WHERE "mail_out"."state" = 'queued';--> statement-breakpoint
CREATE INDEX "person_note_person" ON "person_note" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "purchase_person" ON "purchase" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "purchase_level" ON "purchase" USING btree ("level") WHERE "purchase"."state" = 'pending';--> statement-breakpoint
CREATE INDEX "staff_rule_role" ON "staff_rule" USING btree ("role");--> statement-breakpoint
ALTER TABLE "one_time_link" ADD CONSTRAINT "one_time_link_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "membership_level" ON "membership" USING btree ("level","person_id");--> statement-breakpoint
CREATE INDEX "membership_renewal" ON "membership" USING btree ("paid_until") WHERE "membership"."renews";--> statement-breakpoint
CREATE INDEX "person_name" ON "person" USING btree (lower("name"),"id");--> statement-breakpoint
CREATE INDEX "person_facts" ON "person" USING gin ("facts" jsonb_path_ops);--> statement-breakpoint
CREATE INDEX "person_find" ON "person" USING gin ("find_text" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "person_waiting" ON "person" USING btree ("created_at") WHERE "person"."approved_at" is null and "person"."declined_at" is null;--> statement-breakpoint
ALTER TABLE "membership" ADD CONSTRAINT "membership_span" CHECK ("membership"."until" is null or "membership"."until" >= "membership"."since");
--> statement-breakpoint
UPDATE "person" SET "confirmed_at" = "created_at", "approved_at" = "created_at";
