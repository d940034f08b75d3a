CREATE TABLE "hot_answers" (
	"key" text PRIMARY KEY NOT NULL,
	"model" text NOT NULL,
	"said" jsonb NOT NULL,
	"made_at" timestamp with time zone DEFAULT now() NOT NULL
);
