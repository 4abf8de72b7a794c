CREATE TABLE "notice_due" (
	"id" text PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"kind" text NOT NULL,
	"tries" integer DEFAULT 0 NOT NULL,
	"next_try_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
DROP INDEX "mail_out_queued";--> statement-breakpoint
ALTER TABLE "mail_out" ADD COLUMN "urgent" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "mail_out" ADD COLUMN "next_try_at" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "mail_out" ADD COLUMN "expires_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "membership" ADD COLUMN "anchor_day" smallint;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "price" integer;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "period" text;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "by_itself" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "expires_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "granted_from" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "granted_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "notice_due" ADD CONSTRAINT "notice_due_reference_purchase_reference_fk" FOREIGN KEY ("reference") REFERENCES "public"."purchase"("reference") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "notice_due_next" ON "notice_due" USING btree ("next_try_at");--> statement-breakpoint
CREATE INDEX "mail_out_due" ON "mail_out" USING btree ("urgent" DESC NULLS LAST,"next_try_at") WHERE "mail_out"."state" = 'queued';--> statement-breakpoint
-- What was begun before keeps the price it was begun at; its length was not kept. Of several pending ones only the newest stays.
UPDATE "purchase" SET "by_itself" = ("sort" = 'renewal' and "membership_id" is not null) WHERE "state" = 'pending';--> statement-breakpoint
UPDATE "purchase" SET "price" = "amount" + "credit", "expires_at" = "created_at" + interval '1 hour' WHERE "state" = 'pending' and not "by_itself";--> statement-breakpoint
UPDATE "purchase" old SET "state" = 'replaced' WHERE old."state" = 'pending' and not old."by_itself" and exists (
	select 1 from "purchase" newer where newer."person_id" = old."person_id" and newer."state" = 'pending' and not newer."by_itself" and (newer."created_at", newer."reference") > (old."created_at", old."reference"));--> statement-breakpoint
CREATE UNIQUE INDEX "purchase_one_pending" ON "purchase" USING btree ("person_id") WHERE "purchase"."state" = 'pending' and not "purchase"."by_itself";