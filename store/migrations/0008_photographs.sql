CREATE TABLE "photographs" (
	"client_id" uuid PRIMARY KEY NOT NULL,
	"piece_id" uuid NOT NULL,
	"step" text,
	"about" uuid,
	"note" text,
	"picture" "bytea" NOT NULL,
	"small" "bytea" NOT NULL,
	"width_px" integer NOT NULL,
	"height_px" integer NOT NULL,
	"taken_at" timestamp with time zone NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"person_id" uuid NOT NULL,
	"sent_by" uuid
);
--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "photographs" ADD CONSTRAINT "photographs_sent_by_people_id_fk" FOREIGN KEY ("sent_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "photographs_piece" ON "photographs" USING btree ("piece_id","taken_at");--> statement-breakpoint
CREATE TRIGGER photographs_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "photographs" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
