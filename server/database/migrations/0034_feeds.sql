CREATE TABLE `feeds` (
	`id` int AUTO_INCREMENT NOT NULL,
	`owner` varchar(40) NOT NULL,
	`of_whom` varchar(12) NOT NULL,
	`of_group` varchar(40),
	`hash` char(64) NOT NULL,
	`made_at` char(20) NOT NULL,
	`read_at` char(20),
	CONSTRAINT `feeds_id` PRIMARY KEY(`id`),
	CONSTRAINT `feed_hash` UNIQUE(`hash`)
);
--> statement-breakpoint
CREATE TABLE `leave_gone` (
	`request` varchar(40) NOT NULL,
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`span` longtext NOT NULL,
	`last_day` char(10) NOT NULL,
	`sequence` int NOT NULL,
	CONSTRAINT `leave_gone_request` PRIMARY KEY(`request`)
);
--> statement-breakpoint
ALTER TABLE `leave_entries` ADD `sequence` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `leave_passes` ADD `ended_at` char(20);--> statement-breakpoint
CREATE INDEX `feeds_of_owner` ON `feeds` (`owner`);--> statement-breakpoint
CREATE INDEX `gone_of_person` ON `leave_gone` (`person`,`last_day`);