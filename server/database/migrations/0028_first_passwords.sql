CREATE TABLE `first_passwords` (
	`hash` char(64) NOT NULL,
	`connection` varchar(60) NOT NULL,
	`target` varchar(200) NOT NULL,
	`account` varchar(200) NOT NULL,
	`expires` bigint NOT NULL,
	CONSTRAINT `first_passwords_hash` PRIMARY KEY(`hash`)
);
--> statement-breakpoint
CREATE INDEX `first_passwords_by_expiry` ON `first_passwords` (`expires`);