CREATE TABLE `download_links` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`goods_id` text NOT NULL,
	`variant_id` text NOT NULL,
	`file` text NOT NULL,
	`name` text NOT NULL,
	`created_at` integer NOT NULL,
	`expires_at` integer NOT NULL,
	`started_at` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `download_links_order` ON `download_links` (`order_id`,`goods_id`);--> statement-breakpoint
CREATE TABLE `order_browsers` (
	`hash` text NOT NULL,
	`order_id` text NOT NULL,
	`created_at` integer NOT NULL,
	PRIMARY KEY(`order_id`, `hash`),
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `reviews` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`goods_id` text NOT NULL,
	`order_id` text NOT NULL,
	`name` text NOT NULL,
	`rating` integer NOT NULL,
	`title` text DEFAULT '' NOT NULL,
	`text` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'waiting' NOT NULL,
	`answer` text DEFAULT '' NOT NULL,
	`created_at` integer NOT NULL,
	`decided_at` integer,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `reviews_once` ON `reviews` (`order_id`,`goods_id`);--> statement-breakpoint
CREATE INDEX `reviews_goods` ON `reviews` (`goods_id`,`state`);--> statement-breakpoint
CREATE INDEX `reviews_site` ON `reviews` (`site_id`,`created_at`);--> statement-breakpoint
ALTER TABLE `orders` ADD `downloads_since` integer;