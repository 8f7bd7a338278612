CREATE TABLE `file_pieces` (
	`file` char(36) NOT NULL,
	`seq` int NOT NULL,
	`bytes` mediumblob NOT NULL,
	CONSTRAINT `file_pieces_file_seq_pk` PRIMARY KEY(`file`,`seq`)
);
--> statement-breakpoint
CREATE TABLE `files` (
	`id` char(36) NOT NULL,
	`owner` varchar(40) NOT NULL,
	`request` varchar(40),
	`field` varchar(40),
	`name` varchar(200) NOT NULL,
	`type` varchar(100) NOT NULL,
	`size` int NOT NULL,
	`digest` char(64) NOT NULL,
	`whole` boolean NOT NULL,
	`at` bigint NOT NULL,
	CONSTRAINT `files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `files_of_request` ON `files` (`request`,`at`);