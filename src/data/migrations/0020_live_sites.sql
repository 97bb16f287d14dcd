ALTER TABLE `sites` ADD `pasted` text;--> statement-breakpoint
ALTER TABLE `snapshots` ADD `validators` text;