CREATE TABLE `unsent` (
	`person` varchar(40) NOT NULL,
	`request` varchar(40) NOT NULL,
	`what` varchar(80) NOT NULL,
	`value` longtext NOT NULL,
	`at` bigint NOT NULL,
	CONSTRAINT `unsent_person_request_what_pk` PRIMARY KEY(`person`,`request`,`what`)
);
--> statement-breakpoint
CREATE INDEX `unsent_by_age` ON `unsent` (`at`);