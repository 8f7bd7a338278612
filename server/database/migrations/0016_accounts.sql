CREATE TABLE `links` (
	`hash` char(64) NOT NULL,
	`purpose` varchar(12) NOT NULL,
	`person` varchar(40),
	`expires` bigint NOT NULL,
	CONSTRAINT `links_hash` PRIMARY KEY(`hash`)
);
--> statement-breakpoint
ALTER TABLE `house` ADD `name` varchar(200);--> statement-breakpoint
CREATE INDEX `links_by_expiry` ON `links` (`expires`);--> statement-breakpoint
CREATE INDEX `links_of_person` ON `links` (`person`);