CREATE TABLE "picture_size" (
	"name" text NOT NULL,
	"width" integer NOT NULL,
	"bytes" "bytea" NOT NULL,
	CONSTRAINT "picture_size_name_width_pk" PRIMARY KEY("name","width")
);
--> statement-breakpoint
ALTER TABLE "picture_size" ADD CONSTRAINT "picture_size_name_picture_name_fk" FOREIGN KEY ("name") REFERENCES "public"."picture"("name") ON DELETE cascade ON UPDATE no action;