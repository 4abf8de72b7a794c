CREATE TABLE "basket_line" (
	"person_id" text NOT NULL,
	"product" text NOT NULL,
	"quantity" integer NOT NULL,
	"seen" integer,
	"added_at" timestamp with time zone NOT NULL,
	CONSTRAINT "basket_line_person_id_product_pk" PRIMARY KEY("person_id","product"),
	CONSTRAINT "basket_line_quantity" CHECK ("basket_line"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "invoice" (
	"number" text PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"order_id" text NOT NULL,
	"refund_id" integer,
	"issued_at" timestamp with time zone NOT NULL,
	"body" jsonb NOT NULL,
	CONSTRAINT "invoice_refund_id_unique" UNIQUE("refund_id")
);
--> statement-breakpoint
CREATE TABLE "invoice_series" (
	"series" text PRIMARY KEY NOT NULL,
	"last" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "order_line" (
	"order_id" text NOT NULL,
	"position" integer NOT NULL,
	"product" text NOT NULL,
	"quantity" integer NOT NULL,
	"refunded_pieces" integer DEFAULT 0 NOT NULL,
	"net" bigint NOT NULL,
	"tax" bigint NOT NULL,
	"gross" bigint NOT NULL,
	"categories" text[] DEFAULT '{}' NOT NULL,
	"gives" jsonb,
	"purchase" text,
	"given_to" text,
	CONSTRAINT "order_line_order_id_position_pk" PRIMARY KEY("order_id","position"),
	CONSTRAINT "order_line_pieces" CHECK ("order_line"."quantity" > 0 and "order_line"."refunded_pieces" between 0 and "order_line"."quantity")
);
--> statement-breakpoint
CREATE TABLE "order_refund" (
	"id" serial PRIMARY KEY NOT NULL,
	"order_id" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"by_id" text,
	"why" text DEFAULT '' NOT NULL,
	"body" jsonb NOT NULL,
	"gross" bigint NOT NULL,
	"tax" bigint NOT NULL,
	"done_at" timestamp with time zone,
	"request" text NOT NULL,
	CONSTRAINT "order_refund_request_unique" UNIQUE("request")
);
--> statement-breakpoint
CREATE TABLE "shop_order" (
	"id" text PRIMARY KEY NOT NULL,
	"number" serial NOT NULL,
	"reference" text NOT NULL,
	"request" text NOT NULL,
	"person_id" text,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"country" text NOT NULL,
	"state" text DEFAULT 'placed' NOT NULL,
	"edition" integer NOT NULL,
	"net" bigint NOT NULL,
	"tax" bigint NOT NULL,
	"gross" bigint NOT NULL,
	"refunded" bigint DEFAULT 0 NOT NULL,
	"frozen" jsonb NOT NULL,
	"trouble" text,
	"placed_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"paid_at" timestamp with time zone,
	"sent_at" timestamp with time zone,
	CONSTRAINT "shop_order_number_unique" UNIQUE("number"),
	CONSTRAINT "shop_order_reference_unique" UNIQUE("reference"),
	CONSTRAINT "shop_order_request_unique" UNIQUE("request"),
	CONSTRAINT "shop_order_sums" CHECK ("shop_order"."net" + "shop_order"."tax" = "shop_order"."gross" and "shop_order"."gross" >= 0),
	CONSTRAINT "shop_order_refunded" CHECK ("shop_order"."refunded" between 0 and "shop_order"."gross")
);
--> statement-breakpoint
CREATE TABLE "till" (
	"holder" text PRIMARY KEY NOT NULL,
	"person_id" text,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"address" jsonb NOT NULL,
	"delivery" text,
	"note" text DEFAULT '' NOT NULL,
	"gift" text,
	"request" text NOT NULL,
	"touched_at" timestamp with time zone NOT NULL,
	CONSTRAINT "till_request_unique" UNIQUE("request")
);
--> statement-breakpoint
ALTER TABLE "notice_due" DROP CONSTRAINT "notice_due_reference_purchase_reference_fk";
--> statement-breakpoint
ALTER TABLE "notice_due" ADD COLUMN "amount" bigint;--> statement-breakpoint
ALTER TABLE "notice_due" ADD COLUMN "refund" integer;--> statement-breakpoint
ALTER TABLE "stock_reserved" ADD COLUMN "till" text;--> statement-breakpoint
ALTER TABLE "stock_reserved" ADD COLUMN "order_id" text;--> statement-breakpoint
ALTER TABLE "basket_line" ADD CONSTRAINT "basket_line_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_order_id_shop_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."shop_order"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_refund_id_order_refund_id_fk" FOREIGN KEY ("refund_id") REFERENCES "public"."order_refund"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "order_line" ADD CONSTRAINT "order_line_order_id_shop_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."shop_order"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "order_line" ADD CONSTRAINT "order_line_given_to_person_id_fk" FOREIGN KEY ("given_to") REFERENCES "public"."person"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "order_refund" ADD CONSTRAINT "order_refund_order_id_shop_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."shop_order"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shop_order" ADD CONSTRAINT "shop_order_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "till" ADD CONSTRAINT "till_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "basket_line_product" ON "basket_line" USING btree ("product");--> statement-breakpoint
CREATE INDEX "invoice_order" ON "invoice" USING btree ("order_id");--> statement-breakpoint
CREATE UNIQUE INDEX "invoice_once" ON "invoice" USING btree ("order_id") WHERE "invoice"."kind" = 'invoice';--> statement-breakpoint
CREATE INDEX "order_line_product" ON "order_line" USING btree ("product");--> statement-breakpoint
CREATE INDEX "order_line_given" ON "order_line" USING btree ("given_to");--> statement-breakpoint
CREATE INDEX "order_line_categories" ON "order_line" USING gin ("categories");--> statement-breakpoint
CREATE INDEX "order_refund_order" ON "order_refund" USING btree ("order_id");--> statement-breakpoint
CREATE INDEX "shop_order_person" ON "shop_order" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "shop_order_email" ON "shop_order" USING btree (lower("email"));--> statement-breakpoint
CREATE INDEX "shop_order_state" ON "shop_order" USING btree ("state","number");--> statement-breakpoint
CREATE INDEX "shop_order_expires" ON "shop_order" USING btree ("expires_at") WHERE "shop_order"."state" = 'placed';--> statement-breakpoint
CREATE INDEX "till_touched" ON "till" USING btree ("touched_at");--> statement-breakpoint
CREATE INDEX "till_person" ON "till" USING btree ("person_id");--> statement-breakpoint
CREATE INDEX "stock_reserved_till" ON "stock_reserved" USING btree ("till");--> statement-breakpoint
CREATE INDEX "stock_reserved_order" ON "stock_reserved" USING btree ("order_id");--> statement-breakpoint
CREATE TRIGGER basket_line_moved AFTER INSERT OR DELETE OR TRUNCATE OR UPDATE ON basket_line FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER shop_order_moved AFTER DELETE OR TRUNCATE OR UPDATE OF state, refunded, person_id ON shop_order FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
--> statement-breakpoint
CREATE TRIGGER order_line_moved AFTER DELETE OR TRUNCATE OR UPDATE OF refunded_pieces, given_to ON order_line FOR EACH STATEMENT EXECUTE FUNCTION standing_moved();
