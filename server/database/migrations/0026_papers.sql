CREATE TABLE `paper_looks` (
	`id` int AUTO_INCREMENT NOT NULL,
	`paper` int NOT NULL,
	`person` varchar(40) NOT NULL,
	`what` varchar(6) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `paper_looks_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `paper_numbers` (
	`file` char(36) NOT NULL,
	`number` varchar(60) NOT NULL,
	CONSTRAINT `paper_numbers_file` PRIMARY KEY(`file`)
);
--> statement-breakpoint
CREATE TABLE `paper_rules` (
	`kind` varchar(80) NOT NULL,
	`rules` longtext NOT NULL,
	CONSTRAINT `paper_rules_kind` PRIMARY KEY(`kind`)
);
--> statement-breakpoint
CREATE TABLE `papers` (
	`id` int AUTO_INCREMENT NOT NULL,
	`key` varchar(150) NOT NULL,
	`person` varchar(40),
	`holder` varchar(200) NOT NULL,
	`kind` varchar(80) NOT NULL,
	`issued` char(10),
	`expires` char(10),
	`request` varchar(40) NOT NULL,
	`field` varchar(40) NOT NULL,
	`file` char(36) NOT NULL,
	`kept_on` char(10) NOT NULL,
	`replaced_on` char(10),
	`renewal` varchar(40),
	`reminded` int,
	`forgotten_on` char(10),
	CONSTRAINT `papers_id` PRIMARY KEY(`id`),
	CONSTRAINT `papers_by_key` UNIQUE(`key`)
);
--> statement-breakpoint
CREATE INDEX `looks_of_paper` ON `paper_looks` (`paper`);--> statement-breakpoint
CREATE INDEX `papers_by_expiry` ON `papers` (`expires`);--> statement-breakpoint
CREATE INDEX `papers_of_person` ON `papers` (`person`,`kind`);