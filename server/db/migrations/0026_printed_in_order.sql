DROP INDEX "unit_state_printed";--> statement-breakpoint
CREATE INDEX "unit_state_printed" ON "unit_state" USING btree ("printed_key","number") WHERE "unit_state"."printed_key" <> '';