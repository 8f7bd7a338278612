CREATE TABLE `wish_rounds` (
	`id` int AUTO_INCREMENT NOT NULL,
	`name` varchar(200) NOT NULL,
	`type` varchar(40) NOT NULL,
	`place` varchar(40),
	`department` varchar(40),
	`from_day` char(10) NOT NULL,
	`to_day` char(10) NOT NULL,
	`closes` char(10) NOT NULL,
	`most_away` int,
	`seed` char(32) NOT NULL,
	`made_by` varchar(40) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `wish_rounds_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `wishes` (
	`round` int NOT NULL,
	`person` varchar(40) NOT NULL,
	`spans` longtext NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `wishes_round_person_pk` PRIMARY KEY(`round`,`person`)
);
--> statement-breakpoint
CREATE INDEX `wishes_of_person` ON `wishes` (`person`);