CREATE TABLE `hearings` (
	`id` text PRIMARY KEY NOT NULL,
	`song_id` text NOT NULL,
	`version` integer NOT NULL,
	`data` text NOT NULL,
	`peaks` blob NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`song_id`) REFERENCES `songs`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `hearings_song_version` ON `hearings` (`song_id`,`version`);--> statement-breakpoint
CREATE TABLE `repetitions` (
	`id` text PRIMARY KEY NOT NULL,
	`routine_id` text NOT NULL,
	`done_at` integer NOT NULL,
	`kind` text NOT NULL,
	`first_phrase` text NOT NULL,
	`last_phrase` text NOT NULL,
	`label` text NOT NULL,
	`speed` real NOT NULL,
	`sound` text NOT NULL,
	`seconds` real NOT NULL,
	`mark` text NOT NULL,
	`corrects` text,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `repetitions_routine` ON `repetitions` (`routine_id`,`done_at`);--> statement-breakpoint
CREATE TABLE `routines` (
	`id` text PRIMARY KEY NOT NULL,
	`song_id` text NOT NULL,
	`title` text NOT NULL,
	`revision` integer NOT NULL,
	`document` text NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`song_id`) REFERENCES `songs`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `routines_song` ON `routines` (`song_id`);--> statement-breakpoint
CREATE TABLE `songs` (
	`id` text PRIMARY KEY NOT NULL,
	`hash` text NOT NULL,
	`bytes` integer NOT NULL,
	`mime` text NOT NULL,
	`file_name` text NOT NULL,
	`title` text NOT NULL,
	`credit` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `songs_hash` ON `songs` (`hash`);