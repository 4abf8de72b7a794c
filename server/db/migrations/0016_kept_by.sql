ALTER TABLE "stock_reserved" ADD COLUMN "keeper" text;--> statement-breakpoint
CREATE INDEX "stock_reserved_keeper" ON "stock_reserved" USING btree ("keeper","product");