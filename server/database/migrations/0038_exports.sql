CREATE TABLE `exports` (
	`id` int AUTO_INCREMENT NOT NULL,
	`by_person` varchar(40) NOT NULL,
	`as_person` varchar(40),
	`what` varchar(300) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `exports_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `house` ADD `colleagues_read` longtext;