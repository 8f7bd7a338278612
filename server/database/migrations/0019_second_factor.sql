ALTER TABLE `accounts` ADD `factor_secret` varchar(64);--> statement-breakpoint
ALTER TABLE `accounts` ADD `factor_begun` varchar(64);--> statement-breakpoint
ALTER TABLE `accounts` ADD `factor_step` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `accounts` ADD `factor_codes` longtext;--> statement-breakpoint
ALTER TABLE `house` ADD `factor_rights` longtext;--> statement-breakpoint
ALTER TABLE `sessions` ADD `strong` boolean DEFAULT false NOT NULL;