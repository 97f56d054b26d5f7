CREATE TABLE `band` (
	`system_id` char(36) NOT NULL,
	`parameter` varchar(40) NOT NULL,
	`lower` double NOT NULL,
	`upper` double NOT NULL,
	CONSTRAINT `band_system_id_parameter_pk` PRIMARY KEY(`system_id`,`parameter`)
);
--> statement-breakpoint
CREATE TABLE `membership` (
	`user_id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`role` varchar(20) NOT NULL,
	CONSTRAINT `membership_user_id_system_id_pk` PRIMARY KEY(`user_id`,`system_id`)
);
--> statement-breakpoint
CREATE TABLE `method` (
	`id` char(36) NOT NULL,
	`owner_id` char(36),
	`slug` varchar(60) NOT NULL,
	`parameter` varchar(40) NOT NULL,
	CONSTRAINT `method_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `method_version` (
	`id` char(36) NOT NULL,
	`method_id` char(36) NOT NULL,
	`version` int NOT NULL,
	`name` varchar(120) NOT NULL,
	`profile` json NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `method_version_id` PRIMARY KEY(`id`),
	CONSTRAINT `version_of_method` UNIQUE(`method_id`,`version`)
);
--> statement-breakpoint
CREATE TABLE `pack` (
	`id` char(36) NOT NULL,
	`owner_id` char(36) NOT NULL,
	`method_id` char(36) NOT NULL,
	`label` varchar(4) NOT NULL,
	`batch` varchar(60) NOT NULL,
	`opened` date NOT NULL,
	`best_before` date,
	`tests` int NOT NULL,
	`price` double NOT NULL,
	`finished` boolean NOT NULL,
	CONSTRAINT `pack_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `reading` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`sample_id` char(36) NOT NULL,
	`source_id` char(36) NOT NULL,
	`parameter` varchar(40) NOT NULL,
	`taken_at` datetime(3) NOT NULL,
	`revision` int NOT NULL,
	CONSTRAINT `reading_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `revision` (
	`reading_id` char(36) NOT NULL,
	`revision` int NOT NULL,
	`by_user_id` char(36) NOT NULL,
	`at` datetime(3) NOT NULL,
	`method_version_id` char(36) NOT NULL,
	`raw` json NOT NULL,
	`sample_size` varchar(40),
	`taken_away_id` char(36),
	`result` json NOT NULL,
	`calculation` varchar(40) NOT NULL,
	`qualifier` varchar(8) NOT NULL,
	`unit` varchar(40) NOT NULL,
	`value` double,
	`standard_uncertainty` double,
	`repeatability` double,
	`low` double,
	`high` double,
	`voided` boolean NOT NULL,
	`reason` varchar(300),
	CONSTRAINT `revision_reading_id_revision_pk` PRIMARY KEY(`reading_id`,`revision`)
);
--> statement-breakpoint
CREATE TABLE `sample` (
	`id` char(36) NOT NULL,
	`source_id` char(36) NOT NULL,
	`taken_at` datetime(3) NOT NULL,
	CONSTRAINT `sample_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `source` (
	`id` char(36) NOT NULL,
	`system_id` char(36) NOT NULL,
	`kind` varchar(20) NOT NULL,
	`name` varchar(120) NOT NULL,
	CONSTRAINT `source_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `system` (
	`id` char(36) NOT NULL,
	`name` varchar(120) NOT NULL,
	`net_volume_l` double NOT NULL,
	`phase` varchar(20) NOT NULL,
	`time_zone` varchar(60) NOT NULL,
	`school` varchar(40) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `system_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `user` (
	`id` char(36) NOT NULL,
	`name` varchar(120) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `user_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `band` ADD CONSTRAINT `band_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `membership` ADD CONSTRAINT `membership_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `membership` ADD CONSTRAINT `membership_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `method` ADD CONSTRAINT `method_owner_id_user_id_fk` FOREIGN KEY (`owner_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `method_version` ADD CONSTRAINT `method_version_method_id_method_id_fk` FOREIGN KEY (`method_id`) REFERENCES `method`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `pack` ADD CONSTRAINT `pack_owner_id_user_id_fk` FOREIGN KEY (`owner_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `pack` ADD CONSTRAINT `pack_method_id_method_id_fk` FOREIGN KEY (`method_id`) REFERENCES `method`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `reading` ADD CONSTRAINT `reading_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `reading` ADD CONSTRAINT `reading_sample_id_sample_id_fk` FOREIGN KEY (`sample_id`) REFERENCES `sample`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `reading` ADD CONSTRAINT `reading_source_id_source_id_fk` FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `revision` ADD CONSTRAINT `revision_reading_id_reading_id_fk` FOREIGN KEY (`reading_id`) REFERENCES `reading`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `revision` ADD CONSTRAINT `revision_by_user_id_user_id_fk` FOREIGN KEY (`by_user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `revision` ADD CONSTRAINT `revision_method_version_id_method_version_id_fk` FOREIGN KEY (`method_version_id`) REFERENCES `method_version`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sample` ADD CONSTRAINT `sample_source_id_source_id_fk` FOREIGN KEY (`source_id`) REFERENCES `source`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `source` ADD CONSTRAINT `source_system_id_system_id_fk` FOREIGN KEY (`system_id`) REFERENCES `system`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `pack_of_owner` ON `pack` (`owner_id`,`method_id`);--> statement-breakpoint
CREATE INDEX `span_of_source` ON `reading` (`source_id`,`parameter`,`taken_at`,`id`);--> statement-breakpoint
CREATE INDEX `span_of_parameter` ON `reading` (`system_id`,`parameter`,`taken_at`);--> statement-breakpoint
CREATE INDEX `sample_of_source` ON `sample` (`source_id`,`taken_at`);--> statement-breakpoint
CREATE INDEX `source_of_system` ON `source` (`system_id`);