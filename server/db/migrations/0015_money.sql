CREATE TABLE "money_back" (
	"id" serial PRIMARY KEY NOT NULL,
	"reference" text NOT NULL,
	"of" text NOT NULL,
	"order_id" text,
	"notice" text,
	"at" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"by_id" text,
	"why" text DEFAULT '' NOT NULL,
	"body" jsonb,
	"gross" bigint NOT NULL,
	"tax" bigint DEFAULT 0 NOT NULL,
	"done_at" timestamp with time zone,
	"request" text NOT NULL,
	CONSTRAINT "money_back_request_unique" UNIQUE("request"),
	CONSTRAINT "money_back_of" CHECK (("money_back"."of" = 'goods') = ("money_back"."body" is not null and "money_back"."order_id" is not null)),
	CONSTRAINT "money_back_sum" CHECK ("money_back"."gross" >= 0)
);
--> statement-breakpoint
INSERT INTO "money_back" ("id", "reference", "of", "order_id", "at", "by", "by_id", "why", "body", "gross", "tax", "done_at", "request")
	SELECT r.id, o.reference, 'goods', r.order_id, r.at, r.by, r.by_id, r.why, r.body, r.gross, r.tax, r.done_at, r.request
	FROM "order_refund" r JOIN "shop_order" o ON o.id = r.order_id;--> statement-breakpoint
SELECT setval(pg_get_serial_sequence('money_back', 'id'), (SELECT max(id) FROM "money_back"));--> statement-breakpoint
ALTER TABLE "invoice" DROP CONSTRAINT "invoice_refund_id_order_refund_id_fk";--> statement-breakpoint
DROP TABLE "order_refund";--> statement-breakpoint
ALTER TABLE "payment_notice" ADD COLUMN "number" serial NOT NULL;--> statement-breakpoint
ALTER TABLE "payment_notice" ADD COLUMN "amount" bigint;--> statement-breakpoint
ALTER TABLE "payment_notice" ADD COLUMN "became" text;--> statement-breakpoint
ALTER TABLE "payment_notice" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "payment_notice" ADD COLUMN "seen_by" text;--> statement-breakpoint
ALTER TABLE "person" ADD COLUMN "proven_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "number" serial NOT NULL;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "worth" bigint;--> statement-breakpoint
ALTER TABLE "purchase" ADD COLUMN "credits" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "money_back" ADD CONSTRAINT "money_back_order_id_shop_order_id_fk" FOREIGN KEY ("order_id") REFERENCES "public"."shop_order"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "money_back" ADD CONSTRAINT "money_back_notice_payment_notice_id_fk" FOREIGN KEY ("notice") REFERENCES "public"."payment_notice"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "money_back_order" ON "money_back" USING btree ("order_id");--> statement-breakpoint
CREATE UNIQUE INDEX "money_back_once" ON "money_back" USING btree ("reference") WHERE "money_back"."of" = 'level';--> statement-breakpoint
CREATE UNIQUE INDEX "money_back_notice" ON "money_back" USING btree ("notice");--> statement-breakpoint
ALTER TABLE "invoice" ADD CONSTRAINT "invoice_refund_id_money_back_id_fk" FOREIGN KEY ("refund_id") REFERENCES "public"."money_back"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "payment_notice_reference" ON "payment_notice" USING btree ("reference","kind");--> statement-breakpoint
CREATE INDEX "payment_notice_unseen" ON "payment_notice" USING btree ("number") WHERE "payment_notice"."seen_at" is null and "payment_notice"."became" in ('besides', 'unasked');--> statement-breakpoint
ALTER TABLE "payment_notice" ADD CONSTRAINT "payment_notice_number_unique" UNIQUE("number");--> statement-breakpoint
ALTER TABLE "purchase" ADD CONSTRAINT "purchase_number_unique" UNIQUE("number");--> statement-breakpoint
-- What is kept of money so far, as the ledger has it: the first payment of each order and purchase that is paid settled it.
UPDATE "payment_notice" SET "became" = CASE "kind" WHEN 'declined' THEN 'declined' WHEN 'refunded' THEN 'back' ELSE 'nothing' END;--> statement-breakpoint
UPDATE "payment_notice" n SET "became" = 'settled', "amount" = o.gross FROM "shop_order" o
	WHERE o.reference = n.reference AND o.paid_at IS NOT NULL
	AND n.id = (SELECT f.id FROM "payment_notice" f WHERE f.reference = n.reference AND f.kind = 'paid' ORDER BY f.received_at, f.id LIMIT 1);--> statement-breakpoint
UPDATE "payment_notice" n SET "became" = 'settled', "amount" = p.amount FROM "purchase" p
	WHERE p.reference = n.reference AND p.state IN ('paid', 'refunded')
	AND n.id = (SELECT f.id FROM "payment_notice" f WHERE f.reference = n.reference AND f.kind = 'paid' ORDER BY f.received_at, f.id LIMIT 1);--> statement-breakpoint
INSERT INTO "payment_notice" ("id", "reference", "kind", "amount", "became", "received_at")
	SELECT 'kept-' || o.reference, o.reference, 'paid', o.gross, 'settled', o.paid_at FROM "shop_order" o
	WHERE o.paid_at IS NOT NULL AND NOT EXISTS (SELECT FROM "payment_notice" n WHERE n.reference = o.reference AND n.became = 'settled');--> statement-breakpoint
INSERT INTO "payment_notice" ("id", "reference", "kind", "amount", "became", "received_at")
	SELECT 'kept-' || p.reference, p.reference, 'paid', p.amount, 'settled', coalesce(p.settled_at, p.created_at) FROM "purchase" p
	WHERE p.state IN ('paid', 'refunded') AND NOT EXISTS (SELECT FROM "order_line" l WHERE l.purchase = p.reference)
	AND NOT EXISTS (SELECT FROM "payment_notice" n WHERE n.reference = p.reference AND n.became = 'settled');--> statement-breakpoint
INSERT INTO "money_back" ("reference", "of", "at", "by", "gross", "done_at", "request")
	SELECT p.reference, 'level', coalesce(p.settled_at, p.created_at), 'payment provider', p.amount, coalesce(p.settled_at, p.created_at), 'level ' || p.number
	FROM "purchase" p WHERE p.state = 'refunded' AND NOT EXISTS (SELECT FROM "order_line" l WHERE l.purchase = p.reference);--> statement-breakpoint
UPDATE "purchase" SET "worth" = least(amount + credit, coalesce(price, amount + credit)) WHERE "granted_from" IS NOT NULL;--> statement-breakpoint
-- What opens an order, and what a payment is called at the provider, stand where only staff look no more.
UPDATE "trace" t SET "subject" = 'purchase ' || p.number FROM "purchase" p WHERE t.subject = 'purchase ' || p.reference;--> statement-breakpoint
UPDATE "purchase" p SET "reference" = 'order ' || o.number || ' line ' || (l.position + 1) FROM "order_line" l JOIN "shop_order" o ON o.id = l.order_id
	WHERE l.purchase = p.reference;--> statement-breakpoint
UPDATE "order_line" l SET "purchase" = 'order ' || o.number || ' line ' || (l.position + 1) FROM "shop_order" o WHERE o.id = l.order_id AND l.purchase IS NOT NULL;--> statement-breakpoint
UPDATE "activity" SET "detail" = detail - 'reference' WHERE "kind" = 'purchase' AND detail ? 'reference';--> statement-breakpoint
-- An address is proven where a link mailed to it was followed, and staff have not put another in its place since.
UPDATE "person" p SET "proven_at" = (
	SELECT max(t.at) FROM "trace" t WHERE t.subject = 'person ' || p.id AND t.action IN ('person.confirm', 'person.reset-password', 'person.change-address')
	AND NOT EXISTS (SELECT FROM "trace" later WHERE later.subject = t.subject AND later.action = 'person.change' AND later.detail -> 'fields' ? 'email' AND later.at > t.at));
