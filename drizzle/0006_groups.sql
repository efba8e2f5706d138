ALTER TABLE `lesson_steps` ADD `group_name` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `group_name` text DEFAULT '' NOT NULL;