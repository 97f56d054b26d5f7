CREATE TABLE `photo` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`reading_id` char(36) NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`width` int NOT NULL,
	`height` int NOT NULL,
	`marks` json,
	`jpeg` mediumtext NOT NULL,
	CONSTRAINT `photo_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `photo` ADD CONSTRAINT `photo_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `photo` ADD CONSTRAINT `photo_reading_id_reading_id_fk` FOREIGN KEY (`reading_id`) REFERENCES `reading`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `photo` ADD CONSTRAINT `photo_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `photo_of_reading` ON `photo` (`reading_id`);--> statement-breakpoint
CREATE INDEX `photo_of_system` ON `photo` (`system_id`,`at`);--> statement-breakpoint
DELETE FROM `stamp`;
