ALTER TABLE `commands` ADD `at` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE `commands` SET `at` = UNIX_TIMESTAMP() * 1000;
