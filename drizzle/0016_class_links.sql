CREATE TABLE `class_devices` (
	`link_id` text NOT NULL,
	`device` text NOT NULL,
	`made` text NOT NULL,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	PRIMARY KEY(`link_id`, `device`),
	FOREIGN KEY (`link_id`) REFERENCES `class_links`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `class_films` (
	`id` text PRIMARY KEY NOT NULL,
	`link_id` text NOT NULL,
	`device` text NOT NULL,
	`learner` text NOT NULL,
	`received_at` integer NOT NULL,
	FOREIGN KEY (`link_id`) REFERENCES `class_links`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `class_links` (
	`id` text PRIMARY KEY NOT NULL,
	`routine_id` text NOT NULL,
	`person_id` text NOT NULL,
	`group_name` text DEFAULT '' NOT NULL,
	`token` text NOT NULL,
	`page` text NOT NULL,
	`bytes` integer NOT NULL,
	`made` text NOT NULL,
	`title` text NOT NULL,
	`films` integer DEFAULT false NOT NULL,
	`created_at` integer NOT NULL,
	`closed_at` integer,
	FOREIGN KEY (`routine_id`) REFERENCES `routines`(`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `class_links_token_unique` ON `class_links` (`token`);--> statement-breakpoint
CREATE UNIQUE INDEX `class_links_of` ON `class_links` (`routine_id`,`person_id`,`group_name`);--> statement-breakpoint
CREATE INDEX `class_links_page` ON `class_links` (`page`);--> statement-breakpoint
CREATE TABLE `class_marks` (
	`id` text PRIMARY KEY NOT NULL,
	`link_id` text NOT NULL,
	`device` text NOT NULL,
	`data` text NOT NULL,
	`made` text NOT NULL,
	`received_at` integer NOT NULL,
	`taken_at` integer,
	FOREIGN KEY (`link_id`) REFERENCES `class_links`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE UNIQUE INDEX `class_marks_device` ON `class_marks` (`link_id`,`device`);