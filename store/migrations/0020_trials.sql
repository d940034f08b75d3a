CREATE TABLE "trials" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"difference" text NOT NULL,
	"coupon" text NOT NULL,
	"feature" text NOT NULL,
	"matters" double precision NOT NULL,
	"ways" jsonb NOT NULL,
	"welding" integer[] NOT NULL,
	"created_by" uuid NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"concluded_at" timestamp with time zone,
	"concluded_by" uuid,
	"conclusion" text,
	CONSTRAINT "trials_name_length" CHECK (char_length("trials"."name") between 1 and 120),
	CONSTRAINT "trials_concluded" CHECK (("trials"."concluded_at" is null) = ("trials"."conclusion" is null))
);
--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_created_by_people_id_fk" FOREIGN KEY ("created_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trials" ADD CONSTRAINT "trials_concluded_by_people_id_fk" FOREIGN KEY ("concluded_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;