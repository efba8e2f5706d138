CREATE TABLE `recordings` (
	`id` text PRIMARY KEY NOT NULL,
	`wav` blob NOT NULL,
	`recorded_at` integer NOT NULL
);
