CREATE TABLE `received_mails` (
	`message_id` varchar(300) NOT NULL,
	`at` char(20) NOT NULL,
	`sender` varchar(300) NOT NULL,
	`request` varchar(40),
	`verdict` varchar(40) NOT NULL,
	CONSTRAINT `received_mails_message_id` PRIMARY KEY(`message_id`)
);
--> statement-breakpoint
CREATE TABLE `saved_sets` (
	`id` int AUTO_INCREMENT NOT NULL,
	`owner` varchar(40) NOT NULL,
	`name` varchar(80) NOT NULL,
	`query` varchar(2000) NOT NULL,
	`shared` boolean NOT NULL,
	CONSTRAINT `saved_sets_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `covers` ADD `workflows` longtext;--> statement-breakpoint
ALTER TABLE `covers` ADD `set_by` varchar(40);--> statement-breakpoint
ALTER TABLE `events` ADD `seal` char(64);--> statement-breakpoint
ALTER TABLE `house` ADD `secret` char(64);--> statement-breakpoint
ALTER TABLE `requests` ADD `head` char(64);--> statement-breakpoint
ALTER TABLE `requests` ADD `touched` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `tasks` ADD `cover_for` varchar(40);--> statement-breakpoint
CREATE INDEX `sets_of_owner` ON `saved_sets` (`owner`);--> statement-breakpoint
CREATE INDEX `requests_touched` ON `requests` (`touched`);--> statement-breakpoint
CREATE INDEX `requests_of_subject` ON `requests` (`subject`,`number`);--> statement-breakpoint
CREATE INDEX `tasks_covered` ON `tasks` (`cover_for`,`open`);