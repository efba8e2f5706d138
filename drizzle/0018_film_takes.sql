CREATE TABLE `film_takes` (
	`film_id` text NOT NULL,
	`song_id` text NOT NULL,
	`version` integer NOT NULL,
	`takes` text NOT NULL,
	PRIMARY KEY(`film_id`, `song_id`),
	FOREIGN KEY (`film_id`) REFERENCES `films`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`song_id`) REFERENCES `songs`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
DROP INDEX `jobs_of`;--> statement-breakpoint
ALTER TABLE `jobs` ADD `film_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE UNIQUE INDEX `jobs_about` ON `jobs` (`kind`,`song_id`,`film_id`);