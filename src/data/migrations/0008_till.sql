CREATE TABLE `discount_uses` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`site_id` text NOT NULL,
	`rule_id` text NOT NULL,
	`order_id` text NOT NULL,
	`email` text NOT NULL,
	`state` text NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `discount_uses_rule` ON `discount_uses` (`site_id`,`rule_id`,`state`);--> statement-breakpoint
CREATE INDEX `discount_uses_order` ON `discount_uses` (`order_id`);--> statement-breakpoint
CREATE TABLE `tills` (
	`site_id` text PRIMARY KEY NOT NULL,
	`rules` text NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `voucher_uses` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`voucher_id` text NOT NULL,
	`order_id` text NOT NULL,
	`amount` integer NOT NULL,
	`state` text NOT NULL,
	`expires_at` integer NOT NULL,
	FOREIGN KEY (`voucher_id`) REFERENCES `vouchers`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `voucher_uses_voucher` ON `voucher_uses` (`voucher_id`,`state`);--> statement-breakpoint
CREATE INDEX `voucher_uses_order` ON `voucher_uses` (`order_id`);--> statement-breakpoint
CREATE TABLE `vouchers` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`code` text NOT NULL,
	`amount` integer NOT NULL,
	`currency` text NOT NULL,
	`expires_at` integer,
	`order_id` text,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `vouchers_code` ON `vouchers` (`site_id`,`code`);--> statement-breakpoint
CREATE INDEX `vouchers_order` ON `vouchers` (`order_id`);--> statement-breakpoint
ALTER TABLE `carts` ADD `codes` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `carts` ADD `place` text;--> statement-breakpoint
ALTER TABLE `carts` ADD `way` text DEFAULT '' NOT NULL;