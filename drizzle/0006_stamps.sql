CREATE TABLE `stamp` (
	`id` char(36) NOT NULL,
	`value` bigint unsigned NOT NULL,
	CONSTRAINT `stamp_id` PRIMARY KEY(`id`)
);
