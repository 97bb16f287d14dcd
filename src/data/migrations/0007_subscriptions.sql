CREATE TABLE `subscriptions` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`order_id` text NOT NULL,
	`line` text NOT NULL,
	`currency` text NOT NULL,
	`buyer` text NOT NULL,
	`mandate` text NOT NULL,
	`state` text DEFAULT 'running' NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`started_at` integer NOT NULL,
	`next_at` integer NOT NULL,
	`charges` integer DEFAULT 0 NOT NULL,
	`turn` integer DEFAULT 1 NOT NULL,
	`declined` integer DEFAULT 0 NOT NULL,
	`pending` text,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `subscriptions_due` ON `subscriptions` (`state`,`next_at`);--> statement-breakpoint
CREATE INDEX `subscriptions_order` ON `subscriptions` (`order_id`);--> statement-breakpoint
CREATE INDEX `subscriptions_site` ON `subscriptions` (`site_id`);--> statement-breakpoint
ALTER TABLE `orders` ADD `subscription_id` text;