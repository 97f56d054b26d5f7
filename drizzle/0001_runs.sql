CREATE TABLE `run` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`source_id` char(36) NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`started_at` datetime(3) NOT NULL,
	`finished_at` datetime(3),
	CONSTRAINT `run_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `run_event` (
	`id` char(36) NOT NULL,
	`run_id` char(36) NOT NULL,
	`seq` int NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`body` json NOT NULL,
	CONSTRAINT `run_event_id` PRIMARY KEY(`id`),
	CONSTRAINT `event_of_run` UNIQUE(`run_id`,`seq`)
);
--> statement-breakpoint
ALTER TABLE `reading` ADD `run_id` char(36);--> statement-breakpoint
ALTER TABLE `reading` ADD `conduct` json;--> statement-breakpoint
ALTER TABLE `reading` ADD `marks` json;--> statement-breakpoint
ALTER TABLE `run` ADD CONSTRAINT `run_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run` ADD CONSTRAINT `run_source_id_source_id_fk` FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run` ADD CONSTRAINT `run_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run_event` ADD CONSTRAINT `run_event_run_id_run_id_fk` FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `run_event` ADD CONSTRAINT `run_event_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `run_of_system` ON `run` (`system_id`,`started_at`);--> statement-breakpoint
ALTER TABLE `reading` ADD CONSTRAINT `reading_run_id_run_id_fk` FOREIGN KEY (`run_id`) REFERENCES `run`(`id`) ON DELETE no action ON UPDATE no action;