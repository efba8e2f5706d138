CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`song_id` text NOT NULL,
	`person_id` text NOT NULL,
	`asked_at` integer NOT NULL,
	`lease` text,
	`until` integer,
	`tries` integer DEFAULT 0 NOT NULL,
	`share` real DEFAULT 0 NOT NULL,
	`problem` text,
	FOREIGN KEY (`song_id`) REFERENCES `songs`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `jobs_of` ON `jobs` (`kind`,`song_id`);--> statement-breakpoint
CREATE INDEX `jobs_asked` ON `jobs` (`asked_at`);