CREATE TABLE `plan` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`made_at` datetime(3) NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`body` json NOT NULL,
	CONSTRAINT `plan_id` PRIMARY KEY(`id`),
	CONSTRAINT `plan_of_system` UNIQUE(`system_id`)
);
--> statement-breakpoint
CREATE TABLE `supplement` (
	`id` char(36) NOT NULL,
	`owner_id` char(36) NOT NULL,
	`profile` json NOT NULL,
	`amount` double,
	`opened` date,
	`finished` boolean NOT NULL,
	CONSTRAINT `supplement_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `system` ADD `net_volume_error` double;--> statement-breakpoint
ALTER TABLE `system` ADD `water_change` json;--> statement-breakpoint
ALTER TABLE `plan` ADD CONSTRAINT `plan_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan` ADD CONSTRAINT `plan_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `supplement` ADD CONSTRAINT `supplement_owner_id_user_id_fk` FOREIGN KEY (`owner_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `supplement_of_owner` ON `supplement` (`owner_id`);--> statement-breakpoint
DELETE FROM `stamp`;
