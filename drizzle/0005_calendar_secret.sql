ALTER TABLE `user` DROP INDEX `user_by_calendar`;--> statement-breakpoint
ALTER TABLE `user` DROP COLUMN `calendar_token`;