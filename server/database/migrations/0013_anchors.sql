CREATE TABLE `anchors` (
	`n` int NOT NULL,
	`request` varchar(40) NOT NULL,
	`version` int NOT NULL,
	`head` char(64) NOT NULL,
	`seal` char(64) NOT NULL,
	CONSTRAINT `anchors_n` PRIMARY KEY(`n`)
);
--> statement-breakpoint
ALTER TABLE `accounts` ADD `closed` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `house` ADD `sealed` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `house` ADD `anchors` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `house` ADD `anchor_head` char(64);--> statement-breakpoint
ALTER TABLE `house` ADD `anchored_until` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `house` ADD `anchored_number` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `outbox` ADD `claimed_by` char(36);--> statement-breakpoint
CREATE INDEX `anchors_of_request` ON `anchors` (`request`,`n`);