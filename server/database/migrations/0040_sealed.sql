CREATE TABLE `ledger` (
	`n` int NOT NULL,
	`what` varchar(30) NOT NULL,
	`row_key` varchar(700) NOT NULL,
	`row_seal` char(64),
	`seal` char(64) NOT NULL,
	CONSTRAINT `ledger_n` PRIMARY KEY(`n`)
);
--> statement-breakpoint
CREATE TABLE `ledger_head` (
	`id` int NOT NULL,
	`n` int NOT NULL,
	`seal` char(64),
	CONSTRAINT `ledger_head_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `accounts` MODIFY COLUMN `factor_secret` varchar(200);--> statement-breakpoint
ALTER TABLE `accounts` MODIFY COLUMN `factor_begun` varchar(200);--> statement-breakpoint
ALTER TABLE `house` MODIFY COLUMN `secret` varchar(200);--> statement-breakpoint
ALTER TABLE `requests` ADD `row_seal` char(64);--> statement-breakpoint
ALTER TABLE `house` DROP COLUMN `sealed`;