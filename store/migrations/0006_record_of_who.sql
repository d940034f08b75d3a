ALTER TYPE "public"."event_kind" ADD VALUE 'problem-closed';--> statement-breakpoint
CREATE TABLE "audit" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"kind" text NOT NULL,
	"person_id" uuid,
	"about" text DEFAULT '' NOT NULL,
	"address" text
);
--> statement-breakpoint
CREATE TABLE "bench_stamps" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "imported_records" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"record" jsonb NOT NULL,
	"imported_by" uuid NOT NULL,
	"imported_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "known_devices" (
	"token_hash" text NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "known_devices_token_hash_person_id_pk" PRIMARY KEY("token_hash","person_id")
);
--> statement-breakpoint
CREATE TABLE "shop_settings" (
	"key" text PRIMARY KEY NOT NULL,
	"value" jsonb NOT NULL,
	"updated_by" uuid NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sign_in_tries" (
	"key" text PRIMARY KEY NOT NULL,
	"fails" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp with time zone,
	"last_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "bench_events" ADD COLUMN "sent_by" uuid;--> statement-breakpoint
ALTER TABLE "bench_events" ADD COLUMN "about" uuid;--> statement-breakpoint
ALTER TABLE "sessions" ADD COLUMN "stamp_id" uuid;--> statement-breakpoint
ALTER TABLE "signatures" ADD COLUMN "concession" text;--> statement-breakpoint
ALTER TABLE "audit" ADD CONSTRAINT "audit_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_stamps" ADD CONSTRAINT "bench_stamps_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imported_records" ADD CONSTRAINT "imported_records_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "imported_records" ADD CONSTRAINT "imported_records_imported_by_people_id_fk" FOREIGN KEY ("imported_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "known_devices" ADD CONSTRAINT "known_devices_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shop_settings" ADD CONSTRAINT "shop_settings_updated_by_people_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "audit_at" ON "audit" USING btree ("at");--> statement-breakpoint
CREATE INDEX "imported_records_job" ON "imported_records" USING btree ("job_id");--> statement-breakpoint
ALTER TABLE "bench_events" ADD CONSTRAINT "bench_events_sent_by_people_id_fk" FOREIGN KEY ("sent_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_stamp_id_bench_stamps_id_fk" FOREIGN KEY ("stamp_id") REFERENCES "public"."bench_stamps"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" DROP COLUMN "failed_attempts";--> statement-breakpoint
ALTER TABLE "people" DROP COLUMN "locked_until";--> statement-breakpoint
CREATE TRIGGER audit_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "audit" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER imported_records_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "imported_records" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
CREATE TRIGGER bench_stamps_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "bench_stamps" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();--> statement-breakpoint
-- a plan at the bench is never taken away, whoever asks
CREATE FUNCTION refuse_issued_delete() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
	IF OLD.state = 'issued' THEN
		RAISE EXCEPTION 'revision % is issued and frozen', OLD.revision USING ERRCODE = 'restrict_violation';
	END IF;
	RETURN OLD;
END $$;
--> statement-breakpoint
CREATE TRIGGER plan_revisions_kept BEFORE DELETE ON "plan_revisions" FOR EACH ROW EXECUTE FUNCTION refuse_issued_delete();
