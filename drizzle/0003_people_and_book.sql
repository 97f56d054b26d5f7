CREATE TABLE `account` (
	`id` char(36) NOT NULL,
	`user_id` char(36) NOT NULL,
	`account_id` varchar(120) NOT NULL,
	`provider_id` varchar(40) NOT NULL,
	`password` varchar(300),
	`access_token` varchar(300),
	`refresh_token` varchar(300),
	`id_token` varchar(300),
	`access_token_expires_at` datetime(3),
	`refresh_token_expires_at` datetime(3),
	`scope` varchar(120),
	`created_at` datetime(3) NOT NULL,
	`updated_at` datetime(3) NOT NULL,
	CONSTRAINT `account_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `api_token` (
	`id` char(36) NOT NULL,
	`user_id` char(36) NOT NULL,
	`name` varchar(80) NOT NULL,
	`hash` char(64) NOT NULL,
	`systems` json,
	`writes` boolean NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`used_at` datetime(3),
	CONSTRAINT `api_token_id` PRIMARY KEY(`id`),
	CONSTRAINT `api_token_by_hash` UNIQUE(`hash`)
);
--> statement-breakpoint
CREATE TABLE `attempt` (
	`key` varchar(255) NOT NULL,
	`points` int NOT NULL DEFAULT 0,
	`expire` bigint unsigned,
	CONSTRAINT `attempt_key` PRIMARY KEY(`key`)
);
--> statement-breakpoint
CREATE TABLE `imported_file` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`name` varchar(200) NOT NULL,
	`added` int NOT NULL,
	`known` int NOT NULL,
	`refused` int NOT NULL,
	`taken_back` boolean NOT NULL DEFAULT false,
	CONSTRAINT `imported_file_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `invitation` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`role` varchar(20) NOT NULL,
	`hash` char(64) NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`expires_at` datetime(3) NOT NULL,
	`used_by_user_id` char(36),
	CONSTRAINT `invitation_id` PRIMARY KEY(`id`),
	CONSTRAINT `invitation_by_hash` UNIQUE(`hash`)
);
--> statement-breakpoint
CREATE TABLE `mail` (
	`id` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`recipient` varchar(254) NOT NULL,
	`subject` varchar(200) NOT NULL,
	`body` text NOT NULL,
	CONSTRAINT `mail_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `session` (
	`id` char(36) NOT NULL,
	`user_id` char(36) NOT NULL,
	`token` varchar(80) NOT NULL,
	`expires_at` datetime(3) NOT NULL,
	`ip_address` varchar(60),
	`user_agent` varchar(500),
	`created_at` datetime(3) NOT NULL,
	`updated_at` datetime(3) NOT NULL,
	CONSTRAINT `session_id` PRIMARY KEY(`id`),
	CONSTRAINT `session_by_token` UNIQUE(`token`)
);
--> statement-breakpoint
CREATE TABLE `setting` (
	`name` varchar(40) NOT NULL,
	`value` json NOT NULL,
	CONSTRAINT `setting_name` PRIMARY KEY(`name`)
);
--> statement-breakpoint
CREATE TABLE `verification` (
	`id` char(36) NOT NULL,
	`identifier` varchar(200) NOT NULL,
	`value` varchar(200) NOT NULL,
	`expires_at` datetime(3) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`updated_at` datetime(3) NOT NULL,
	CONSTRAINT `verification_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `event` ADD `attributed_to` varchar(120);--> statement-breakpoint
ALTER TABLE `event` ADD `import_id` char(36);--> statement-breakpoint
ALTER TABLE `reading` ADD `import_id` char(36);--> statement-breakpoint
ALTER TABLE `revision` ADD `taken_at` datetime(3);--> statement-breakpoint
ALTER TABLE `revision` ADD `attributed_to` varchar(120);--> statement-breakpoint
ALTER TABLE `system` ADD `salinity_psu` double DEFAULT 35 NOT NULL;--> statement-breakpoint
ALTER TABLE `system` ADD `sizes` json;--> statement-breakpoint
ALTER TABLE `user` ADD `email` varchar(254);--> statement-breakpoint
ALTER TABLE `user` ADD `email_verified` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD `image` varchar(300);--> statement-breakpoint
ALTER TABLE `user` ADD `operator` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD `updated_at` datetime(3);--> statement-breakpoint
UPDATE `user` SET `email` = CONCAT(`id`, '@keeper.invalid'), `updated_at` = `created_at`;--> statement-breakpoint
ALTER TABLE `user` MODIFY `email` varchar(254) NOT NULL;--> statement-breakpoint
ALTER TABLE `user` MODIFY `updated_at` datetime(3) NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD CONSTRAINT `user_by_email` UNIQUE(`email`);--> statement-breakpoint
ALTER TABLE `account` ADD CONSTRAINT `account_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `api_token` ADD CONSTRAINT `api_token_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `imported_file` ADD CONSTRAINT `imported_file_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `imported_file` ADD CONSTRAINT `imported_file_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `invitation` ADD CONSTRAINT `invitation_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `invitation` ADD CONSTRAINT `invitation_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `invitation` ADD CONSTRAINT `invitation_used_by_user_id_user_id_fk` FOREIGN KEY (`used_by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `session` ADD CONSTRAINT `session_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `account_of_user` ON `account` (`user_id`);--> statement-breakpoint
CREATE INDEX `api_token_of_user` ON `api_token` (`user_id`);--> statement-breakpoint
CREATE INDEX `import_of_system` ON `imported_file` (`system_id`,`at`);--> statement-breakpoint
CREATE INDEX `invitation_of_system` ON `invitation` (`system_id`);--> statement-breakpoint
CREATE INDEX `session_of_user` ON `session` (`user_id`);--> statement-breakpoint
CREATE INDEX `verification_by_identifier` ON `verification` (`identifier`);--> statement-breakpoint
ALTER TABLE `event` ADD CONSTRAINT `event_import_id_imported_file_id_fk` FOREIGN KEY (`import_id`) REFERENCES `imported_file`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `reading` ADD CONSTRAINT `reading_import_id_imported_file_id_fk` FOREIGN KEY (`import_id`) REFERENCES `imported_file`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `book_of_system` ON `reading` (`system_id`,`taken_at`,`id`);