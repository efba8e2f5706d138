ALTER TABLE `move_lists` ADD `writer` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `move_lists` ADD `save` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `song_from` real;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `song_to` real;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `looped` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `repetitions` ADD `slips` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `routines` ADD `writer` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `routines` ADD `save` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `timings` ADD `song_from` real;--> statement-breakpoint
ALTER TABLE `timings` ADD `song_to` real;