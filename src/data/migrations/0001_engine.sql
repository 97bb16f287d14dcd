ALTER TABLE `placements` ADD `spelling` text DEFAULT 'element' NOT NULL;--> statement-breakpoint
ALTER TABLE `publications` ADD `menu` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `sites` ADD `menu` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `sites` ADD `regions` text DEFAULT '[]' NOT NULL;