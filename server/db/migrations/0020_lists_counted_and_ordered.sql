DROP INDEX "unit_state_metering";--> statement-breakpoint
CREATE INDEX "unit_slug_taken" ON "unit" USING btree ("own_slug") WHERE "unit"."struck_at" is null and "unit"."own_slug" <> '' and "unit"."slug" <> "unit"."own_slug";--> statement-breakpoint
CREATE INDEX "unit_state_standing" ON "unit_state" USING btree ("in_service","lane","wait_rank");--> statement-breakpoint
CREATE INDEX "unit_state_metering" ON "unit_state" USING btree (("calibration" ->> 'due'),"number") WHERE "unit_state"."metering";