CREATE TABLE `event` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`body` json NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`voided` boolean NOT NULL,
	`reason` varchar(300),
	CONSTRAINT `event_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `user` ADD `calendar_token` char(43);--> statement-breakpoint
ALTER TABLE `user` ADD CONSTRAINT `user_by_calendar` UNIQUE(`calendar_token`);--> statement-breakpoint
ALTER TABLE `event` ADD CONSTRAINT `event_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `event` ADD CONSTRAINT `event_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `event_of_system` ON `event` (`system_id`,`at`);