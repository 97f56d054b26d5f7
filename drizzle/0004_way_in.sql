CREATE TABLE `passkey` (
	`id` char(36) NOT NULL,
	`name` varchar(120),
	`public_key` varchar(2000) NOT NULL,
	`user_id` char(36) NOT NULL,
	`credential_id` varchar(700) NOT NULL,
	`counter` bigint NOT NULL,
	`device_type` varchar(40) NOT NULL,
	`backed_up` boolean NOT NULL,
	`transports` varchar(200),
	`created_at` datetime(3),
	`aaguid` varchar(60),
	CONSTRAINT `passkey_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `two_factor` (
	`id` char(36) NOT NULL,
	`user_id` char(36) NOT NULL,
	`secret` varchar(500) NOT NULL,
	`backup_codes` varchar(2000) NOT NULL,
	`verified` boolean NOT NULL DEFAULT true,
	`failed_verification_count` int NOT NULL DEFAULT 0,
	`locked_until` datetime(3),
	CONSTRAINT `two_factor_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `verification` MODIFY COLUMN `value` varchar(2000) NOT NULL;--> statement-breakpoint
ALTER TABLE `api_token` ADD `expires_at` datetime(3);--> statement-breakpoint
ALTER TABLE `api_token` ADD `ends_with_password` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD `two_factor_enabled` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD `calendar_nonce` char(22);--> statement-breakpoint
ALTER TABLE `user` ADD `calendar_hash` char(64);--> statement-breakpoint
ALTER TABLE `user` ADD CONSTRAINT `user_by_calendar_hash` UNIQUE(`calendar_hash`);--> statement-breakpoint
ALTER TABLE `passkey` ADD CONSTRAINT `passkey_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `two_factor` ADD CONSTRAINT `two_factor_user_id_user_id_fk` FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `passkey_of_user` ON `passkey` (`user_id`);--> statement-breakpoint
CREATE INDEX `passkey_by_credential` ON `passkey` (`credential_id`);--> statement-breakpoint
CREATE INDEX `two_factor_of_user` ON `two_factor` (`user_id`);--> statement-breakpoint
UPDATE `user` SET `calendar_hash` = sha2(`calendar_token`, 256) WHERE `calendar_token` IS NOT NULL;--> statement-breakpoint
DELETE FROM `verification`;--> statement-breakpoint
DELETE FROM `mail`;
