CREATE TABLE `alerts` (
	`request` varchar(40) NOT NULL,
	`person` varchar(40) NOT NULL,
	CONSTRAINT `alerts_request_person_pk` PRIMARY KEY(`request`,`person`)
);
--> statement-breakpoint
ALTER TABLE `requests` ADD `planned_for` char(10);--> statement-breakpoint
CREATE INDEX `alerts_of_person` ON `alerts` (`person`);--> statement-breakpoint
CREATE INDEX `requests_planned` ON `requests` (`planned_for`);