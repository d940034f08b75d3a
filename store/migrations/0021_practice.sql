ALTER TYPE "public"."role" ADD VALUE 'learner';--> statement-breakpoint
CREATE TABLE "practice_attempts" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"person_id" uuid NOT NULL,
	"exercise" text NOT NULL,
	"guess" jsonb NOT NULL,
	"choices" jsonb NOT NULL,
	"outcome" jsonb NOT NULL,
	"cost" double precision NOT NULL,
	"score" integer NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "practice_set" (
	"person_id" uuid NOT NULL,
	"exercise" text NOT NULL,
	"set_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "practice_set_person_id_exercise_pk" PRIMARY KEY("person_id","exercise")
);
--> statement-breakpoint
ALTER TABLE "practice_attempts" ADD CONSTRAINT "practice_attempts_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_set" ADD CONSTRAINT "practice_set_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "practice_set" ADD CONSTRAINT "practice_set_set_by_people_id_fk" FOREIGN KEY ("set_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "practice_attempts_person" ON "practice_attempts" USING btree ("person_id","exercise");--> statement-breakpoint
CREATE TRIGGER practice_attempts_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON "practice_attempts" FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
