ALTER TABLE "practice_attempts" ADD COLUMN "method" text DEFAULT 'evidence/7' NOT NULL;--> statement-breakpoint
ALTER TABLE "practice_attempts" ALTER COLUMN "method" DROP DEFAULT;
