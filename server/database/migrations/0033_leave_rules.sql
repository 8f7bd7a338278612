CREATE TABLE `least_presence` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`place` varchar(40),
	`department` varchar(40),
	`people` int NOT NULL,
	`weekdays` longtext NOT NULL,
	`from_day` char(10),
	`to_day` char(10),
	CONSTRAINT `least_presence_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `leave_passes` (
	`id` int AUTO_INCREMENT NOT NULL,
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`from_day` char(10) NOT NULL,
	`to_day` char(10) NOT NULL,
	`let_by` varchar(40) NOT NULL,
	`reason` varchar(1000) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `leave_passes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `leave_plans` ADD `from_day` char(10) DEFAULT '1900-01-01' NOT NULL;--> statement-breakpoint
ALTER TABLE `leave_types` ADD `from_day` char(10) DEFAULT '1900-01-01' NOT NULL;--> statement-breakpoint
ALTER TABLE `leave_types` MODIFY COLUMN `position` int NOT NULL DEFAULT 1000;--> statement-breakpoint
ALTER TABLE `leave_plans` DROP PRIMARY KEY, ADD PRIMARY KEY(`id`,`from_day`);--> statement-breakpoint
ALTER TABLE `leave_types` DROP PRIMARY KEY, ADD PRIMARY KEY(`id`,`from_day`);--> statement-breakpoint
CREATE INDEX `passes_of_person` ON `leave_passes` (`person`);
