CREATE TABLE `check_runs` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` text NOT NULL,
	`why` text NOT NULL,
	`found` integer NOT NULL,
	`fresh` integer NOT NULL,
	`mended` integer NOT NULL,
	`back` integer NOT NULL,
	`pages` integer NOT NULL,
	`took` integer NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `check_runs_site` ON `check_runs` (`site_id`,`at`);--> statement-breakpoint
CREATE TABLE `findings` (
	`site_id` text NOT NULL,
	`key` text NOT NULL,
	`finding` text NOT NULL,
	`first_at` integer NOT NULL,
	`gone_at` integer,
	`back` integer DEFAULT 0 NOT NULL,
	`left_state` text,
	`left_word` text DEFAULT '' NOT NULL,
	PRIMARY KEY(`site_id`, `key`),
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `live_seen` (
	`site_id` text PRIMARY KEY NOT NULL,
	`live` text NOT NULL,
	`times` text DEFAULT '[]' NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `pages_seen` (
	`site_id` text NOT NULL,
	`path` text NOT NULL,
	`seen` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`site_id`, `path`),
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `publications` ADD `repairs` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `sites` ADD `repairs` text DEFAULT '[]' NOT NULL;