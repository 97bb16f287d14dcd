CREATE TABLE `documents` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`series` text NOT NULL,
	`number` integer NOT NULL,
	`order_id` text NOT NULL,
	`refund_id` text,
	`issued_at` integer NOT NULL,
	`content` text NOT NULL,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `documents_number` ON `documents` (`site_id`,`series`,`number`);--> statement-breakpoint
CREATE INDEX `documents_order` ON `documents` (`order_id`);--> statement-breakpoint
CREATE TABLE `letters` (
	`id` text PRIMARY KEY NOT NULL,
	`site_id` text NOT NULL,
	`order_id` text,
	`kind` text NOT NULL,
	`key` text NOT NULL,
	`to` text NOT NULL,
	`subject` text NOT NULL,
	`text` text NOT NULL,
	`html` text DEFAULT '' NOT NULL,
	`calendar` text DEFAULT '' NOT NULL,
	`state` text DEFAULT 'waiting' NOT NULL,
	`tries` integer DEFAULT 0 NOT NULL,
	`not_before` integer NOT NULL,
	`sent_at` integer,
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `letters_key_unique` ON `letters` (`key`);--> statement-breakpoint
CREATE INDEX `letters_due` ON `letters` (`state`,`not_before`);--> statement-breakpoint
CREATE INDEX `letters_order` ON `letters` (`order_id`);--> statement-breakpoint
CREATE TABLE `refunds` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text,
	`amount` integer NOT NULL,
	`to_vouchers` integer DEFAULT 0 NOT NULL,
	`lines` text DEFAULT '[]' NOT NULL,
	`restock` integer DEFAULT false NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`state` text NOT NULL,
	`detail` text DEFAULT '' NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `refunds_order` ON `refunds` (`order_id`);--> statement-breakpoint
CREATE INDEX `refunds_state` ON `refunds` (`state`);--> statement-breakpoint
CREATE TABLE `shoppers` (
	`site_id` text NOT NULL,
	`email` text NOT NULL,
	`password_hash` text NOT NULL,
	`created_at` integer NOT NULL,
	PRIMARY KEY(`site_id`, `email`),
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
DROP INDEX `orders_number`;--> statement-breakpoint
ALTER TABLE `orders` ADD `test` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `pay_by` text DEFAULT 'card' NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `goes` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `note` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `policies` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `packed_at` integer;--> statement-breakpoint
ALTER TABLE `orders` ADD `sent_at` integer;--> statement-breakpoint
ALTER TABLE `orders` ADD `collected_at` integer;--> statement-breakpoint
ALTER TABLE `orders` ADD `cancelled_at` integer;--> statement-breakpoint
ALTER TABLE `orders` ADD `parcels` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `refunded` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `orders_state` ON `orders` (`state`,`created_at`);--> statement-breakpoint
CREATE INDEX `orders_cart` ON `orders` (`cart`);--> statement-breakpoint
CREATE UNIQUE INDEX `orders_number` ON `orders` (`site_id`,`test`,`number`);--> statement-breakpoint
ALTER TABLE `carts` ADD `said` text;--> statement-breakpoint
ALTER TABLE `carts` ADD `pay_by` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `carts` ADD `remind` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `added_at` integer;--> statement-breakpoint
ALTER TABLE `payments` ADD `provider` text DEFAULT 'card' NOT NULL;--> statement-breakpoint
CREATE INDEX `payments_state` ON `payments` (`state`,`created_at`);--> statement-breakpoint
UPDATE `orders` SET `goes` = 'post' WHERE EXISTS (SELECT 1 FROM json_each(`worked`, '$.lines') WHERE json_extract(`value`, '$.ships') = 1);
