CREATE TABLE `forgotten` (
	`request` varchar(40) NOT NULL,
	`workflow` varchar(40) NOT NULL,
	`version` int NOT NULL,
	`head` char(64),
	`closed_at` char(20) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `forgotten_request` PRIMARY KEY(`request`)
);
--> statement-breakpoint
CREATE TABLE `public_forms` (
	`workflow` varchar(40) NOT NULL,
	`token` char(43) NOT NULL,
	`first_day` char(10),
	`last_day` char(10),
	`most` int,
	`taken` int NOT NULL DEFAULT 0,
	`shut` boolean NOT NULL DEFAULT false,
	`at` char(20) NOT NULL,
	`by` varchar(40) NOT NULL,
	CONSTRAINT `public_forms_workflow` PRIMARY KEY(`workflow`),
	CONSTRAINT `public_form_token` UNIQUE(`token`)
);
--> statement-breakpoint
ALTER TABLE `requests` ADD `outside` varchar(254);--> statement-breakpoint
CREATE INDEX `requests_from_outside` ON `requests` (`outside`,`workflow`);