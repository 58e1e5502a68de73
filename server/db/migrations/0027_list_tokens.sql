CREATE TABLE "list_token" (
	"id" integer PRIMARY KEY NOT NULL,
	"addresses" uuid NOT NULL,
	"updates" uuid NOT NULL
);
--> statement-breakpoint
INSERT INTO "list_token" VALUES (1, gen_random_uuid(), gen_random_uuid());--> statement-breakpoint
-- Gives a list another token, once in a transaction and at its end: whoever waits for the one row then holds nothing that is waited for.
CREATE FUNCTION "list_changed"() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  told text := 'fresh_coat.' || tg_argv[0];
  own text := pg_current_xact_id()::text;
BEGIN
  IF current_setting(told, true) IS DISTINCT FROM own THEN
    PERFORM set_config(told, own, true);
    EXECUTE format('UPDATE %I.list_token SET %I = gen_random_uuid()', tg_table_schema, tg_argv[0]);
  END IF;
  RETURN NULL;
END $$;--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "addresses_of_unit" AFTER UPDATE ON "unit" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN ((old.number, old.name, old.place, old.slug, old.struck_at)
    IS DISTINCT FROM (new.number, new.name, new.place, new.slug, new.struck_at))
  EXECUTE FUNCTION "list_changed"('addresses');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "addresses_made" AFTER INSERT ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (new.mac <> '' OR new.address <> '') EXECUTE FUNCTION "list_changed"('addresses');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "addresses_changed" AFTER UPDATE ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN ((old.number, old.mac, old.address, old.lane = 'ended') IS DISTINCT FROM (new.number, new.mac, new.address, new.lane = 'ended'))
  EXECUTE FUNCTION "list_changed"('addresses');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "addresses_gone" AFTER DELETE ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (old.mac <> '' OR old.address <> '') EXECUTE FUNCTION "list_changed"('addresses');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_made" AFTER INSERT ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (new.firmware_name <> '') EXECUTE FUNCTION "list_changed"('updates');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_changed" AFTER UPDATE ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN ((old.number, old.in_service, old.firmware_name, old.installed, old.bridge)
    IS DISTINCT FROM (new.number, new.in_service, new.firmware_name, new.installed, new.bridge))
  EXECUTE FUNCTION "list_changed"('updates');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_gone" AFTER DELETE ON "unit_state" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (old.firmware_name <> '') EXECUTE FUNCTION "list_changed"('updates');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_first_heard" AFTER INSERT ON "live_unit" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (new.fw IS NOT NULL) EXECUTE FUNCTION "list_changed"('updates');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_heard" AFTER UPDATE ON "live_unit" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (old.fw IS DISTINCT FROM new.fw) EXECUTE FUNCTION "list_changed"('updates');--> statement-breakpoint
CREATE CONSTRAINT TRIGGER "updates_unheard" AFTER DELETE ON "live_unit" DEFERRABLE INITIALLY DEFERRED FOR EACH ROW
  WHEN (old.fw IS NOT NULL) EXECUTE FUNCTION "list_changed"('updates');
