CREATE TABLE `own_counts` (
	`call` text PRIMARY KEY NOT NULL,
	`wav` blob NOT NULL,
	`stress_ms` real NOT NULL,
	`recorded_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `timings` (
	`id` text PRIMARY KEY NOT NULL,
	`routine_id` text NOT NULL,
	`done_at` integer NOT NULL,
	`first_phrase` text NOT NULL,
	`last_phrase` text NOT NULL,
	`label` text NOT NULL,
	`speed` real NOT NULL,
	`by` text NOT NULL,
	`n` integer NOT NULL,
	`mean` real NOT NULL,
	`spread` real NOT NULL,
	`worst` text NOT NULL,
	`worst_ms` real NOT NULL,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `timings_routine` ON `timings` (`routine_id`,`done_at`);