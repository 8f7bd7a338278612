CREATE TABLE `leave_openings` (
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`on_day` char(10) NOT NULL,
	`own` double NOT NULL,
	`carried` double NOT NULL,
	`lapses` char(10),
	`source` varchar(200) NOT NULL,
	CONSTRAINT `leave_openings_person_type_pk` PRIMARY KEY(`person`,`type`)
);
--> statement-breakpoint
ALTER TABLE `person_records` ADD `plan_per` double;