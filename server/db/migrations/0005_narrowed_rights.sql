-- Fields used to narrow changing alone; now they narrow looking, adding and publishing too. What a sentence allowed whole
-- stays whole: it becomes two sentences.
INSERT INTO "staff_rule" ("role", "body")
	SELECT "role", jsonb_set("body" - 'fields', '{actions}', ("body" -> 'actions') - 'change') FROM "staff_rule"
	WHERE "body" ? 'fields' AND "body" -> 'actions' ? 'change' AND jsonb_array_length("body" -> 'actions') > 1;--> statement-breakpoint
UPDATE "staff_rule" SET "body" = CASE WHEN "body" -> 'actions' ? 'change' THEN jsonb_set("body", '{actions}', '["change"]') ELSE "body" - 'fields' END
	WHERE "body" ? 'fields';--> statement-breakpoint
-- Facts people are asked for are published under a right of their own from now on; whoever could change them keeps it.
UPDATE "staff_rule" SET "body" = jsonb_set("body", '{actions}', ("body" -> 'actions') || '["publish"]')
	WHERE "body" ->> 'kind' = 'settings-sign-up' AND "body" -> 'actions' ? 'change' AND NOT "body" -> 'actions' ? 'publish';
