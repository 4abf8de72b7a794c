CREATE TABLE "feed_address" (
	"person_id" text PRIMARY KEY NOT NULL,
	"nonce" text NOT NULL,
	"token_hash" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	CONSTRAINT "feed_address_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
ALTER TABLE "feed_address" ADD CONSTRAINT "feed_address_person_id_person_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."person"("id") ON DELETE cascade ON UPDATE no action;