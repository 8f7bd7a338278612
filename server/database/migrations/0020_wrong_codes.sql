ALTER TABLE `accounts` ADD `factor_failures` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `accounts` ADD `factor_until` bigint DEFAULT 0 NOT NULL;