CREATE TABLE `lesson_steps` (
	`id` text PRIMARY KEY NOT NULL,
	`routine_id` text NOT NULL,
	`done_at` integer NOT NULL,
	`lesson` text NOT NULL,
	`plan` text NOT NULL,
	`kind` text NOT NULL,
	`label` text NOT NULL,
	`eights` real NOT NULL,
	`repetitions` integer NOT NULL,
	`planned` real NOT NULL,
	`seconds` real NOT NULL,
	`danced` real NOT NULL,
	`note` text NOT NULL,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `lesson_steps_routine` ON `lesson_steps` (`routine_id`,`done_at`);--> statement-breakpoint
CREATE TABLE `presets` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`settings` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `presets_name` ON `presets` (`name`);