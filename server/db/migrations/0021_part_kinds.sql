-- Each kind of part is a right of its own: whoever could work on several by one sentence keeps a sentence for each.
INSERT INTO "staff_rule" ("role", "body")
	SELECT "staff_rule"."role", jsonb_set("staff_rule"."body", '{kind}', to_jsonb("apart"."now"))
	FROM "staff_rule" JOIN (VALUES
		('blocks-group', 'blocks-panels'), ('blocks-group', 'blocks-shared'),
		('blocks-panel', 'blocks-list'), ('blocks-panel', 'blocks-goods'), ('blocks-panel', 'blocks-code'),
		('blocks-panel', 'blocks-files'), ('blocks-panel', 'blocks-search'), ('blocks-panel', 'blocks-sign-in'),
		('blocks-panel', 'blocks-sign-up'), ('blocks-panel', 'blocks-menu'), ('blocks-panel', 'blocks-account')
	) AS "apart" ("was", "now") ON "staff_rule"."body" ->> 'kind' = "apart"."was"
	ORDER BY "staff_rule"."id";
