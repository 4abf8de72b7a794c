CREATE TABLE "code_batch" (
	"id" serial PRIMARY KEY NOT NULL,
	"offer" text NOT NULL,
	"note" text NOT NULL,
	"count" integer NOT NULL,
	"most" integer NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"made_by" text NOT NULL,
	"request" text NOT NULL,
	CONSTRAINT "code_batch_request_unique" UNIQUE("request")
);
--> statement-breakpoint
CREATE TABLE "code_use" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"offer" text NOT NULL,
	"word" text NOT NULL,
	"code_id" bigint,
	"person_id" text,
	"guest" text,
	"taken_at" timestamp with time zone NOT NULL,
	"until" timestamp with time zone,
	"used_at" timestamp with time zone,
	"request" text,
	CONSTRAINT "code_use_request_unique" UNIQUE("request"),
	CONSTRAINT "code_use_ends" CHECK (("code_use"."used_at" is null) = ("code_use"."until" is not null))
);
--> statement-breakpoint
CREATE TABLE "single_code" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"batch" integer NOT NULL,
	"offer" text NOT NULL,
	"code" text NOT NULL,
	"folded" text NOT NULL,
	"person_id" text,
	"given_at" timestamp with time zone,
	"stopped_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "stock_move" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"product" text NOT NULL,
	"before" integer NOT NULL,
	"after" integer NOT NULL,
	"person_id" text,
	"who" text NOT NULL,
	"how" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "stock_reserved" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"product" text NOT NULL,
	"pieces" integer NOT NULL,
	"person_id" text,
	"firm_id" text,
	"note" text DEFAULT '' NOT NULL,
	"until" timestamp with time zone,
	"made_at" timestamp with time zone NOT NULL,
	"made_by" text NOT NULL,
	"request" text NOT NULL,
	CONSTRAINT "stock_reserved_request_unique" UNIQUE("request"),
	CONSTRAINT "stock_reserved_pieces" CHECK ("stock_reserved"."pieces" > 0),
	CONSTRAINT "stock_reserved_whom" CHECK ("stock_reserved"."person_id" is null or "stock_reserved"."firm_id" is null)
);
--> statement-breakpoint
ALTER TABLE "code_use" ADD CONSTRAINT "code_use_code_id_single_code_id_fk" FOREIGN KEY ("code_id") REFERENCES "public"."single_code"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "code_use" ADD CONSTRAINT "code_use_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "single_code" ADD CONSTRAINT "single_code_batch_code_batch_id_fk" FOREIGN KEY ("batch") REFERENCES "public"."code_batch"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "single_code" ADD CONSTRAINT "single_code_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_reserved" ADD CONSTRAINT "stock_reserved_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_reserved" ADD CONSTRAINT "stock_reserved_firm_id_firm_id_fk" FOREIGN KEY ("firm_id") REFERENCES "public"."firm"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "code_batch_offer" ON "code_batch" USING btree ("offer");--> statement-breakpoint
CREATE INDEX "code_use_offer" ON "code_use" USING btree ("offer");--> statement-breakpoint
CREATE INDEX "code_use_code" ON "code_use" USING btree ("code_id");--> statement-breakpoint
CREATE UNIQUE INDEX "code_use_person" ON "code_use" USING btree ("person_id","offer") WHERE "code_use"."used_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "code_use_guest" ON "code_use" USING btree ("guest","offer") WHERE "code_use"."used_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "single_code_folded" ON "single_code" USING btree ("folded");--> statement-breakpoint
CREATE INDEX "single_code_free" ON "single_code" USING btree ("offer","id") WHERE "single_code"."given_at" is null and "single_code"."stopped_at" is null;--> statement-breakpoint
CREATE INDEX "single_code_batch" ON "single_code" USING btree ("batch","id");--> statement-breakpoint
CREATE UNIQUE INDEX "single_code_person" ON "single_code" USING btree ("offer","person_id") WHERE "single_code"."stopped_at" is null;--> statement-breakpoint
CREATE INDEX "stock_move_product" ON "stock_move" USING btree ("product","id");--> statement-breakpoint
CREATE INDEX "stock_reserved_product" ON "stock_reserved" USING btree ("product");--> statement-breakpoint
CREATE TRIGGER code_use_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON code_use FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
