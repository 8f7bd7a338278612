CREATE TABLE `described_effects` (
	`effect_key` varchar(150) NOT NULL,
	`request` varchar(40) NOT NULL,
	`kind` varchar(20) NOT NULL,
	`body` longtext NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `described_effects_effect_key` PRIMARY KEY(`effect_key`)
);
--> statement-breakpoint
CREATE TABLE `list_rows` (
	`list` varchar(40) NOT NULL,
	`id` varchar(40) NOT NULL,
	`title` varchar(200) NOT NULL,
	`cells` longtext NOT NULL,
	CONSTRAINT `list_rows_list_id_pk` PRIMARY KEY(`list`,`id`)
);
--> statement-breakpoint
CREATE TABLE `lists` (
	`id` varchar(40) NOT NULL,
	`position` int NOT NULL,
	`name` varchar(200) NOT NULL,
	`columns` longtext NOT NULL,
	CONSTRAINT `lists_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `places` ADD `head` varchar(40);--> statement-breakpoint
ALTER TABLE `posts` ADD `grade` int;--> statement-breakpoint
ALTER TABLE `posts` ADD `spending` double;--> statement-breakpoint
ALTER TABLE `requests` ADD `subject` varchar(40);--> statement-breakpoint
ALTER TABLE `workflows` ADD `archived_at` char(20);--> statement-breakpoint
ALTER TABLE `workflows` ADD `keepers` longtext;--> statement-breakpoint
CREATE INDEX `effects_of_request` ON `described_effects` (`request`);