CREATE TABLE `categories` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`slug` text NOT NULL,
	`name` text NOT NULL,
	`parent` text,
	`order` integer NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `categories_slug` ON `categories` (`site_id`,`slug`);--> statement-breakpoint
CREATE TABLE `goods_categories` (
	`goods_id` text NOT NULL,
	`category_id` text NOT NULL,
	PRIMARY KEY(`goods_id`, `category_id`),
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`category_id`) REFERENCES `categories`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
ALTER TABLE `goods` ADD `was` integer;--> statement-breakpoint
ALTER TABLE `goods` ADD `open_least` integer;--> statement-breakpoint
ALTER TABLE `publications` ADD `shop` text;--> statement-breakpoint
ALTER TABLE `sites` ADD `shop` text;--> statement-breakpoint
ALTER TABLE `sites` ADD `set_up` text;--> statement-breakpoint
ALTER TABLE `snapshots` ADD `found` text;--> statement-breakpoint
ALTER TABLE `cart_lines` ADD `named` integer;