CREATE TABLE `sheets` (
	`id` text PRIMARY KEY NOT NULL,
	`routine_id` text NOT NULL,
	`person_id` text NOT NULL,
	`asked_at` integer NOT NULL,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `sheets_routine` ON `sheets` (`routine_id`);--> statement-breakpoint
CREATE INDEX `sheets_person` ON `sheets` (`person_id`);