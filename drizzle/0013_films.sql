CREATE TABLE `films` (
	`id` text PRIMARY KEY NOT NULL,
	`hash` text NOT NULL,
	`bytes` integer NOT NULL,
	`mime` text NOT NULL,
	`file_name` text NOT NULL,
	`seconds` real NOT NULL,
	`width` integer NOT NULL,
	`height` integer NOT NULL,
	`created_at` integer NOT NULL,
	`unnamed_since` integer
);
--> statement-breakpoint
CREATE INDEX `films_hash` ON `films` (`hash`);