ALTER TABLE `revision` ADD `own_chart` boolean DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `user` ADD `habits` json;--> statement-breakpoint
UPDATE `revision` r JOIN `method_version` v ON v.`id` = r.`method_version_id` JOIN `method` m ON m.`id` = v.`method_id` SET r.`own_chart` = false WHERE m.`owner_id` IS NULL AND JSON_VALUE(v.`profile`, '$.reads') IN ('syringe', 'drops', 'shades');--> statement-breakpoint
DELETE FROM `stamp`;
