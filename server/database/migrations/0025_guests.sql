CREATE TABLE `guest_devices` (
	`hash` char(64) NOT NULL,
	`request` varchar(40) NOT NULL,
	`step` varchar(40) NOT NULL,
	`known` boolean NOT NULL,
	`code` char(64),
	`code_until` bigint NOT NULL DEFAULT 0,
	`tries` int NOT NULL DEFAULT 0,
	`at` bigint NOT NULL,
	CONSTRAINT `guest_devices_hash` PRIMARY KEY(`hash`)
);
--> statement-breakpoint
CREATE TABLE `guest_links` (
	`hash` char(64) NOT NULL,
	`request` varchar(40) NOT NULL,
	`step` varchar(40) NOT NULL,
	`n` int NOT NULL,
	`at` bigint NOT NULL,
	CONSTRAINT `guest_links_hash` PRIMARY KEY(`hash`)
);
--> statement-breakpoint
CREATE TABLE `guest_papers` (
	`request` varchar(40) NOT NULL,
	`step` varchar(40) NOT NULL,
	`field` varchar(40) NOT NULL,
	`made` char(64) NOT NULL,
	`file` char(36) NOT NULL,
	`digest` char(64) NOT NULL,
	`signed` longtext,
	`at` bigint NOT NULL,
	CONSTRAINT `guest_papers_request_step_field_pk` PRIMARY KEY(`request`,`step`,`field`)
);
--> statement-breakpoint
CREATE TABLE `guest_typing` (
	`request` varchar(40) NOT NULL,
	`step` varchar(40) NOT NULL,
	`section` varchar(40) NOT NULL,
	`value` longtext NOT NULL,
	`base` int NOT NULL,
	`at` bigint NOT NULL,
	CONSTRAINT `guest_typing_request_step_section_pk` PRIMARY KEY(`request`,`step`,`section`)
);
--> statement-breakpoint
CREATE INDEX `guest_devices_of_request` ON `guest_devices` (`request`,`step`);--> statement-breakpoint
CREATE INDEX `guest_links_of_request` ON `guest_links` (`request`,`step`);