CREATE TABLE `fact_change_people` (
	`person` varchar(40) NOT NULL,
	`change_id` int NOT NULL,
	CONSTRAINT `fact_change_people_person_change_id_pk` PRIMARY KEY(`person`,`change_id`)
);
--> statement-breakpoint
CREATE TABLE `fact_changes` (
	`id` int AUTO_INCREMENT NOT NULL,
	`at` char(20) NOT NULL,
	`by_person` varchar(40),
	`request` varchar(40),
	`reason` varchar(500) NOT NULL,
	`from_day` char(10),
	`wanted` longtext,
	`edits` longtext NOT NULL,
	`takes_back` int,
	CONSTRAINT `fact_changes_id` PRIMARY KEY(`id`),
	CONSTRAINT `fact_change_taken_back` UNIQUE(`takes_back`)
);
--> statement-breakpoint
CREATE INDEX `fact_changes_of_request` ON `fact_changes` (`request`);