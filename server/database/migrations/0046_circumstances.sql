CREATE TABLE `circumstances` (
	`person` varchar(40) NOT NULL,
	`id` varchar(40) NOT NULL,
	`holds` longtext NOT NULL,
	CONSTRAINT `circumstances_person_id_pk` PRIMARY KEY(`person`,`id`)
);
--> statement-breakpoint
ALTER TABLE `leave_adjustments` ADD `warns` boolean DEFAULT false NOT NULL;