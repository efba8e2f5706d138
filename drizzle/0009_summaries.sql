CREATE TABLE `summaries` (
	`routine_id` text PRIMARY KEY NOT NULL,
	`stamp` text NOT NULL,
	`data` text NOT NULL,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade
);
