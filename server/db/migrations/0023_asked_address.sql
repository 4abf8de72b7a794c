CREATE TABLE "asked_address" (
	"path" text NOT NULL,
	"carried" text NOT NULL,
	"count" integer NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	CONSTRAINT "asked_address_path_carried_pk" PRIMARY KEY("path","carried")
);
