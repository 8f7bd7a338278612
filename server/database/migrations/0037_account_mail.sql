ALTER TABLE `accounts` ADD `mail_before` varchar(200);--> statement-breakpoint
ALTER TABLE `accounts` ADD `mail_since` bigint DEFAULT 0 NOT NULL;