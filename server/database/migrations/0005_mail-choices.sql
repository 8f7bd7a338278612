CREATE TABLE `mail_choices` (
	`person` varchar(40) NOT NULL,
	`choice` longtext NOT NULL,
	CONSTRAINT `mail_choices_person` PRIMARY KEY(`person`)
);
--> statement-breakpoint
ALTER TABLE `outbox` ADD `not_before` char(20);--> statement-breakpoint
ALTER TABLE `outbox` ADD `person` varchar(40);--> statement-breakpoint
ALTER TABLE `outbox` ADD `daily` boolean DEFAULT false NOT NULL;