CREATE TABLE `incoming_people` (
	`person` varchar(40) NOT NULL,
	`user_name` varchar(200) NOT NULL,
	`external_id` varchar(200),
	CONSTRAINT `incoming_people_person` PRIMARY KEY(`person`),
	CONSTRAINT `incoming_user_name` UNIQUE(`user_name`)
);
--> statement-breakpoint
CREATE TABLE `restatements` (
	`change_id` int NOT NULL,
	`person` varchar(40) NOT NULL,
	`request` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`span` longtext NOT NULL,
	`amount_before` double NOT NULL,
	`amount_after` double NOT NULL,
	`unit` varchar(5) NOT NULL,
	`state` varchar(6) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `restatements_change_id_request_pk` PRIMARY KEY(`change_id`,`request`)
);
--> statement-breakpoint
CREATE TABLE `seen_as` (
	`id` int AUTO_INCREMENT NOT NULL,
	`by_person` varchar(40) NOT NULL,
	`as_person` varchar(40) NOT NULL,
	`at` char(20) NOT NULL,
	`reason` varchar(500) NOT NULL,
	CONSTRAINT `seen_as_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `lists` MODIFY COLUMN `position` int NOT NULL DEFAULT 1000;--> statement-breakpoint
ALTER TABLE `fact_change_people` ADD `edits` longtext;--> statement-breakpoint
ALTER TABLE `house` ADD `incoming_token` char(64);--> statement-breakpoint
ALTER TABLE `list_rows` ADD `from_day` char(10);--> statement-breakpoint
ALTER TABLE `list_rows` ADD `to_day` char(10);--> statement-breakpoint
ALTER TABLE `lists` ADD `owners` longtext;--> statement-breakpoint
ALTER TABLE `posts` ADD `closed_on` char(10);--> statement-breakpoint
ALTER TABLE `roles` ADD `from_day` char(10);--> statement-breakpoint
ALTER TABLE `roles` ADD `to_day` char(10);--> statement-breakpoint
ALTER TABLE `sessions` ADD `sees_as` varchar(40);--> statement-breakpoint
ALTER TABLE `sessions` ADD `sees_until` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `restatements_of_person` ON `restatements` (`person`);