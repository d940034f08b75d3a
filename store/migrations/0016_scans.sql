CREATE TABLE "scans" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"piece_id" uuid NOT NULL,
	"plan_revision_id" uuid NOT NULL,
	"moment" "moment" NOT NULL,
	"posture" "posture" NOT NULL,
	"file" text NOT NULL,
	"instrument" text NOT NULL,
	"metal_c" double precision,
	"is_from_datum" boolean NOT NULL,
	"points" integer NOT NULL,
	"scatter_mm" double precision NOT NULL,
	"shape" "bytea" NOT NULL,
	"measured_by" uuid NOT NULL,
	"measured_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "scans" ADD CONSTRAINT "scans_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scans" ADD CONSTRAINT "scans_plan_revision_id_plan_revisions_id_fk" FOREIGN KEY ("plan_revision_id") REFERENCES "public"."plan_revisions"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "scans" ADD CONSTRAINT "scans_measured_by_people_id_fk" FOREIGN KEY ("measured_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "scans_piece" ON "scans" USING btree ("piece_id","measured_at");--> statement-breakpoint
CREATE TRIGGER scans_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "scans" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
