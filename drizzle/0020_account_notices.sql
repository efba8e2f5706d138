CREATE TABLE `account_notices` (
	`id` text PRIMARY KEY NOT NULL,
	`person_id` text NOT NULL,
	`what` text NOT NULL,
	`detail` text DEFAULT '' NOT NULL,
	`by` text DEFAULT '' NOT NULL,
	`at` integer NOT NULL,
	`session_id` text DEFAULT '' NOT NULL,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE INDEX `account_notices_person` ON `account_notices` (`person_id`,`at`);