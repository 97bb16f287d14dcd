CREATE TABLE `looks_measured` (
	`snapshot_id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`found` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `publications` ADD `look` text;--> statement-breakpoint
ALTER TABLE `sites` ADD `look` text;