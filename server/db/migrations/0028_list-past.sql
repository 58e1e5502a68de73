CREATE TABLE "list_past" (
	"n" bigserial PRIMARY KEY NOT NULL,
	"list" text NOT NULL,
	"token" uuid NOT NULL,
	"units" uuid[]
);
--> statement-breakpoint
INSERT INTO "list_past" ("list", "token", "units") SELECT 'addresses', "addresses", '{}'::uuid[] FROM "list_token" UNION ALL SELECT 'updates', "updates", '{}'::uuid[] FROM "list_token";--> statement-breakpoint
-- Gives a list another token, once in a transaction and at its end, and tells which units changed: whoever waits for the one row of the
-- tokens then holds nothing that is waited for, and what is told stands in the order of what was committed.
CREATE OR REPLACE FUNCTION "list_changed"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  list text := tg_argv[0];
  -- What this transaction has told: its own id, the row of what it tells, how many changes.
  told text[] := string_to_array(current_setting('fresh_coat.' || list, true), ' ');
  own text := pg_current_xact_id()::text;
  one uuid;
  given uuid;
  at bigint;
  changes int;
BEGIN
  IF tg_table_name = 'unit' THEN one := new.id;
  ELSIF tg_op = 'DELETE' THEN one := old.unit_id;
  ELSE one := new.unit_id;
  END IF;
  IF told[1] IS DISTINCT FROM own THEN
    EXECUTE format('UPDATE %I.list_token SET %I = gen_random_uuid() RETURNING %2$I', tg_table_schema, list) INTO given;
    EXECUTE format('INSERT INTO %I.list_past (list, token, units) VALUES ($1, $2, ARRAY[$3]) RETURNING n', tg_table_schema)
      INTO at USING list, given, one;
    EXECUTE format('DELETE FROM %I.list_past WHERE list = $1 AND n < $2 - 200', tg_table_schema) USING list, at;
    changes := 1;
  ELSE
    at := told[2]::bigint;
    changes := told[3]::int + 1;
    IF changes <= 101 THEN
      EXECUTE format('UPDATE %I.list_past SET units = CASE WHEN $3 <= 100 THEN units || $2 END WHERE n = $1', tg_table_schema)
        USING at, one, changes;
    END IF;
  END IF;
  IF changes <= 101 THEN PERFORM set_config('fresh_coat.' || list, concat_ws(' ', own, at, changes), true); END IF;
  RETURN NULL;
END $$;
