CREATE TABLE `saves` (
	`document` text NOT NULL,
	`writer` text NOT NULL,
	`save` integer NOT NULL,
	`revision` integer NOT NULL,
	`hash` text NOT NULL,
	`saved_at` integer NOT NULL,
	PRIMARY KEY(`document`, `writer`)
);
