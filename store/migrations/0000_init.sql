CREATE TYPE "public"."event_kind" AS ENUM('started', 'step-done', 'step-problem', 'note', 'wait-started', 'paused', 'resumed', 'finished');--> statement-breakpoint
CREATE TYPE "public"."moment" AS ENUM('as-tacked', 'cold', 'unclamped');--> statement-breakpoint
CREATE TYPE "public"."piece_state" AS ENUM('waiting', 'in-hand', 'welded', 'handed-over');--> statement-breakpoint
CREATE TYPE "public"."plan_state" AS ENUM('draft', 'issued');--> statement-breakpoint
CREATE TYPE "public"."posture" AS ENUM('flat-on-bench', 'three-points', 'upright');--> statement-breakpoint
CREATE TYPE "public"."role" AS ENUM('planner', 'welder', 'inspector', 'admin');--> statement-breakpoint
CREATE TABLE "bench_events" (
	"seq" bigserial PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"piece_id" uuid NOT NULL,
	"plan_revision_id" uuid NOT NULL,
	"kind" "event_kind" NOT NULL,
	"step" text,
	"note" text,
	"happened_at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" uuid NOT NULL,
	CONSTRAINT "bench_events_clientId_unique" UNIQUE("client_id")
);
--> statement-breakpoint
CREATE TABLE "heat_numbers" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"heat" text NOT NULL,
	"material_id" text NOT NULL,
	"thickness_mm" double precision NOT NULL,
	"supplier" text,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	CONSTRAINT "heat_once" UNIQUE("heat","material_id","thickness_mm"),
	CONSTRAINT "heat_thickness" CHECK ("heat_numbers"."thickness_mm" > 0)
);
--> statement-breakpoint
CREATE TABLE "jobs" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"number" integer GENERATED ALWAYS AS IDENTITY (sequence name "jobs_number_seq" INCREMENT BY 1 MINVALUE 1 MAXVALUE 2147483647 START WITH 101 CACHE 1),
	"name" text NOT NULL,
	"customer" text,
	"due_date" date,
	"quantity" integer DEFAULT 1 NOT NULL,
	"notes" text,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" uuid NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "jobs_number_unique" UNIQUE("number"),
	CONSTRAINT "jobs_quantity" CHECK ("jobs"."quantity" between 1 and 500),
	CONSTRAINT "jobs_name_length" CHECK (char_length("jobs"."name") between 1 and 120)
);
--> statement-breakpoint
CREATE TABLE "measurements" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"client_id" uuid NOT NULL,
	"piece_id" uuid NOT NULL,
	"plan_revision_id" uuid NOT NULL,
	"feature" text NOT NULL,
	"method" text NOT NULL,
	"moment" "moment" NOT NULL,
	"posture" "posture" NOT NULL,
	"instrument" text NOT NULL,
	"metal_c" double precision,
	"readings" double precision[] NOT NULL,
	"value" double precision NOT NULL,
	"unit" text NOT NULL,
	"uncertainty90" double precision NOT NULL,
	"arithmetic" text NOT NULL,
	"measured_by" uuid NOT NULL,
	"measured_at" timestamp with time zone DEFAULT now() NOT NULL,
	"withdrawn_at" timestamp with time zone,
	"withdrawn_by" uuid,
	"withdrawn_why" text,
	CONSTRAINT "measurements_clientId_unique" UNIQUE("client_id"),
	CONSTRAINT "measurement_withdrawn" CHECK (("measurements"."withdrawn_at" is null) = ("measurements"."withdrawn_why" is null))
);
--> statement-breakpoint
CREATE TABLE "own_materials" (
	"id" text PRIMARY KEY NOT NULL,
	"material" jsonb NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"pin_hash" text NOT NULL,
	"roles" "role"[] NOT NULL,
	"units" text DEFAULT 'mm' NOT NULL,
	"failed_attempts" integer DEFAULT 0 NOT NULL,
	"locked_until" timestamp with time zone,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "people_name_unique" UNIQUE("name"),
	CONSTRAINT "people_name_length" CHECK (char_length("people"."name") between 1 and 80),
	CONSTRAINT "people_roles" CHECK (cardinality("people"."roles") > 0)
);
--> statement-breakpoint
CREATE TABLE "pieces" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"serial" text NOT NULL,
	"state" "piece_state" DEFAULT 'waiting' NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	CONSTRAINT "pieces_serial" UNIQUE("job_id","serial")
);
--> statement-breakpoint
CREATE TABLE "plan_revisions" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"revision" integer NOT NULL,
	"state" "plan_state" DEFAULT 'draft' NOT NULL,
	"document" jsonb NOT NULL,
	"document_version" integer NOT NULL,
	"family" text,
	"material" text NOT NULL,
	"thickness_mm" double precision NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_by" uuid NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"issued_by" uuid,
	"issued_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "plan_revision_number" UNIQUE("job_id","revision"),
	CONSTRAINT "plan_issued" CHECK (("plan_revisions"."state" = 'issued') = ("plan_revisions"."issued_at" is not null))
);
--> statement-breakpoint
CREATE TABLE "procedures" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"settings" jsonb NOT NULL,
	"note" text,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "procedures_name_unique" UNIQUE("name")
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"person_id" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shop_factors" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"material_group" text NOT NULL,
	"thickness_band" text NOT NULL,
	"technique" text NOT NULL,
	"method" text NOT NULL,
	"factors" jsonb NOT NULL,
	"measurement_ids" uuid[] NOT NULL,
	"from_piece_id" uuid,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "signatures" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"piece_id" uuid NOT NULL,
	"plan_revision_id" uuid NOT NULL,
	"statement" text NOT NULL,
	"accepted" boolean NOT NULL,
	"signed_by" uuid NOT NULL,
	"signed_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "signatures_pieceId_unique" UNIQUE("piece_id")
);
--> statement-breakpoint
ALTER TABLE "bench_events" ADD CONSTRAINT "bench_events_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_events" ADD CONSTRAINT "bench_events_plan_revision_id_plan_revisions_id_fk" FOREIGN KEY ("plan_revision_id") REFERENCES "public"."plan_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "bench_events" ADD CONSTRAINT "bench_events_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "heat_numbers" ADD CONSTRAINT "heat_numbers_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "jobs" ADD CONSTRAINT "jobs_updated_by_people_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurements" ADD CONSTRAINT "measurements_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurements" ADD CONSTRAINT "measurements_plan_revision_id_plan_revisions_id_fk" FOREIGN KEY ("plan_revision_id") REFERENCES "public"."plan_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurements" ADD CONSTRAINT "measurements_measured_by_people_id_fk" FOREIGN KEY ("measured_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurements" ADD CONSTRAINT "measurements_withdrawn_by_people_id_fk" FOREIGN KEY ("withdrawn_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_materials" ADD CONSTRAINT "own_materials_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "pieces" ADD CONSTRAINT "pieces_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_job_id_jobs_id_fk" FOREIGN KEY ("job_id") REFERENCES "public"."jobs"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_updated_by_people_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_issued_by_people_id_fk" FOREIGN KEY ("issued_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "procedures" ADD CONSTRAINT "procedures_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD CONSTRAINT "shop_factors_from_piece_id_pieces_id_fk" FOREIGN KEY ("from_piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD CONSTRAINT "shop_factors_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signatures" ADD CONSTRAINT "signatures_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signatures" ADD CONSTRAINT "signatures_plan_revision_id_plan_revisions_id_fk" FOREIGN KEY ("plan_revision_id") REFERENCES "public"."plan_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "signatures" ADD CONSTRAINT "signatures_signed_by_people_id_fk" FOREIGN KEY ("signed_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "bench_events_piece" ON "bench_events" USING btree ("piece_id","seq");--> statement-breakpoint
CREATE INDEX "measurements_piece" ON "measurements" USING btree ("piece_id");--> statement-breakpoint
CREATE UNIQUE INDEX "plan_one_draft" ON "plan_revisions" USING btree ("job_id") WHERE "plan_revisions"."state" = 'draft';--> statement-breakpoint
CREATE INDEX "shop_factors_key" ON "shop_factors" USING btree ("material_group","thickness_band","technique","created_at");