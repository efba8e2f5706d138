CREATE TABLE `credentials` (
	`id` text PRIMARY KEY NOT NULL,
	`account_id` text NOT NULL,
	`provider_id` text NOT NULL,
	`person_id` text NOT NULL,
	`password` text,
	`access_token` text,
	`refresh_token` text,
	`id_token` text,
	`access_token_expires_at` integer,
	`refresh_token_expires_at` integer,
	`scope` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `credentials_person` ON `credentials` (`person_id`);--> statement-breakpoint
CREATE TABLE `guesses` (
	`key` text PRIMARY KEY NOT NULL,
	`tries` integer NOT NULL,
	`since` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `invitations` (
	`id` text PRIMARY KEY NOT NULL,
	`email` text NOT NULL,
	`name` text NOT NULL,
	`role` text NOT NULL,
	`person_id` text,
	`created_at` integer NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `people` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`email_verified` integer DEFAULT false NOT NULL,
	`image` text,
	`role` text DEFAULT 'teacher' NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `people_email_unique` ON `people` (`email`);--> statement-breakpoint
CREATE TABLE `school_facts` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`id` text PRIMARY KEY NOT NULL,
	`token` text NOT NULL,
	`person_id` text NOT NULL,
	`expires_at` integer NOT NULL,
	`ip_address` text,
	`user_agent` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `sessions_token_unique` ON `sessions` (`token`);--> statement-breakpoint
CREATE INDEX `sessions_person` ON `sessions` (`person_id`);--> statement-breakpoint
CREATE TABLE `shares` (
	`routine_id` text NOT NULL,
	`person_id` text NOT NULL,
	`right` text NOT NULL,
	PRIMARY KEY(`routine_id`, `person_id`),
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `shares_person` ON `shares` (`person_id`);--> statement-breakpoint
CREATE TABLE `verifications` (
	`id` text PRIMARY KEY NOT NULL,
	`identifier` text NOT NULL,
	`value` text NOT NULL,
	`expires_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
DROP INDEX `songs_hash`;--> statement-breakpoint
ALTER TABLE `songs` ADD `owner` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX `songs_owner_hash` ON `songs` (`owner`,`hash`);--> statement-breakpoint
CREATE INDEX `songs_hash` ON `songs` (`hash`);--> statement-breakpoint
CREATE TABLE `__new_own_counts` (
	`call` text NOT NULL,
	`owner` text DEFAULT '' NOT NULL,
	`wav` blob NOT NULL,
	`stress_ms` real NOT NULL,
	`recorded_at` integer NOT NULL,
	PRIMARY KEY(`owner`, `call`)
);
--> statement-breakpoint
INSERT INTO `__new_own_counts`("call", "owner", "wav", "stress_ms", "recorded_at") SELECT "call", '', "wav", "stress_ms", "recorded_at" FROM `own_counts`;--> statement-breakpoint
DROP TABLE `own_counts`;--> statement-breakpoint
ALTER TABLE `__new_own_counts` RENAME TO `own_counts`;--> statement-breakpoint
CREATE TABLE `__new_summaries` (
	`routine_id` text NOT NULL,
	`by_person` text DEFAULT '' NOT NULL,
	`stamp` text NOT NULL,
	`data` text NOT NULL,
	PRIMARY KEY(`routine_id`, `by_person`),
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
DROP TABLE `summaries`;--> statement-breakpoint
ALTER TABLE `__new_summaries` RENAME TO `summaries`;--> statement-breakpoint
ALTER TABLE `films` ADD `owner` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `lesson_steps` ADD `by_person` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `recordings` ADD `owner` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `by_person` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `routines` ADD `owner` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `routines` ADD `binned_at` integer;--> statement-breakpoint
CREATE INDEX `routines_owner` ON `routines` (`owner`,`binned_at`);--> statement-breakpoint
ALTER TABLE `timings` ADD `by_person` text DEFAULT '' NOT NULL;
