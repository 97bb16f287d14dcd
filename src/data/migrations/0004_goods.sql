CREATE TABLE `old_slugs` (
	`site_id` text NOT NULL,
	`slug` text NOT NULL,
	`goods_id` text NOT NULL,
	PRIMARY KEY(`site_id`, `slug`),
	FOREIGN KEY (`site_id`) REFERENCES `sites`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `price_history` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`goods_id` text NOT NULL,
	`variant_id` text NOT NULL,
	`price` integer NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `price_history_goods` ON `price_history` (`goods_id`,`at`);--> statement-breakpoint
CREATE TABLE `variants` (
	`id` text PRIMARY KEY NOT NULL,
	`goods_id` text NOT NULL,
	`order` integer NOT NULL,
	`values` text NOT NULL,
	`price` integer,
	`difference` integer,
	`sku` text NOT NULL,
	`gtin` text NOT NULL,
	`stock` integer,
	`weight` integer,
	`picture` text,
	`removed_at` integer,
	FOREIGN KEY (`goods_id`) REFERENCES `goods`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `variants_goods` ON `variants` (`goods_id`);--> statement-breakpoint
DROP INDEX `reservations_goods`;--> statement-breakpoint
ALTER TABLE `reservations` ADD `variant_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `reservations_variant` ON `reservations` (`variant_id`,`state`);--> statement-breakpoint
ALTER TABLE `goods` ADD `details` text DEFAULT '{}' NOT NULL;--> statement-breakpoint
ALTER TABLE `goods` ADD `version` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `goods_version` ON `goods` (`site_id`,`version`);--> statement-breakpoint
ALTER TABLE `stock_movements` ADD `variant_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `stock_movements` ADD `note` text DEFAULT '' NOT NULL;--> statement-breakpoint
CREATE INDEX `movements_variant` ON `stock_movements` (`variant_id`);--> statement-breakpoint
ALTER TABLE `sites` ADD `goods_version` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `cart_lines` ADD `variant_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `cart_lines` ADD `texts` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `variant_id` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `particulars` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
UPDATE `goods` SET `details` = json_object('description', `description`, 'was', `was`, 'openLeast', `open_least`, 'pictures', CASE WHEN `picture` IS NULL THEN json('[]') ELSE json_array(json_object('hash', `picture`, 'alt', `picture_alt`, 'x', 0.5, 'y', 0.5)) END);--> statement-breakpoint
INSERT INTO `variants` (`id`, `goods_id`, `order`, `values`, `sku`, `gtin`, `stock`) SELECT `id`, `id`, 0, '[]', '', '', `stock` FROM `goods`;--> statement-breakpoint
INSERT INTO `price_history` (`goods_id`, `variant_id`, `price`, `at`) SELECT `id`, `id`, `price`, `created_at` FROM `goods`;--> statement-breakpoint
UPDATE `reservations` SET `variant_id` = `goods_id`;--> statement-breakpoint
UPDATE `stock_movements` SET `variant_id` = `goods_id`;--> statement-breakpoint
UPDATE `cart_lines` SET `variant_id` = `goods_id`;--> statement-breakpoint
UPDATE `order_lines` SET `variant_id` = `goods_id`;--> statement-breakpoint
UPDATE `live_changes` SET `detail` = json_set(`detail`, '$.variantId', json_extract(`detail`, '$.goodsId')) WHERE json_extract(`detail`, '$.field') = 'stock';--> statement-breakpoint
UPDATE `live_changes` SET `undone_at` = `at` WHERE json_extract(`detail`, '$.field') IN ('picture', 'pictureAlt', 'categories');
