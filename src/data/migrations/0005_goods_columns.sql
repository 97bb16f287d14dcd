ALTER TABLE `goods` DROP COLUMN `description`;--> statement-breakpoint
ALTER TABLE `goods` DROP COLUMN `was`;--> statement-breakpoint
ALTER TABLE `goods` DROP COLUMN `open_least`;--> statement-breakpoint
ALTER TABLE `goods` DROP COLUMN `stock`;--> statement-breakpoint
ALTER TABLE `goods` DROP COLUMN `picture`;--> statement-breakpoint
ALTER TABLE `goods` DROP COLUMN `picture_alt`;