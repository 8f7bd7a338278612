CREATE TABLE `closed_years` (
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`closed_on` char(10) NOT NULL,
	`balance` double NOT NULL,
	`statement` longtext NOT NULL,
	`closed_by` varchar(40) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `closed_years_person_type_closed_on_pk` PRIMARY KEY(`person`,`type`,`closed_on`)
);
--> statement-breakpoint
CREATE TABLE `pay_exports` (
	`id` int AUTO_INCREMENT NOT NULL,
	`from_day` char(10) NOT NULL,
	`to_day` char(10) NOT NULL,
	`made_by` varchar(40) NOT NULL,
	`at` char(20) NOT NULL,
	`pay_lines` longtext NOT NULL,
	CONSTRAINT `pay_exports_id` PRIMARY KEY(`id`)
);
