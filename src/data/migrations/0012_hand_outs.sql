CREATE TABLE `hand_outs` (
	`site_id` text NOT NULL,
	`placement_id` text NOT NULL,
	`kind` text NOT NULL,
	`spelling` text NOT NULL,
	`url` text NOT NULL,
	`found` integer NOT NULL,
	`says` text NOT NULL,
	`looked_at` integer NOT NULL,
	PRIMARY KEY(`site_id`, `placement_id`, `spelling`, `url`),
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
