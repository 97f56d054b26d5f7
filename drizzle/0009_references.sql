ALTER TABLE `source` ADD `content` json;--> statement-breakpoint
DELETE FROM `stamp`;