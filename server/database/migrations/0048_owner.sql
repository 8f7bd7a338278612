ALTER TABLE `requests` ADD `owner` varchar(40);--> statement-breakpoint
CREATE INDEX `requests_of_owner` ON `requests` (`owner`,`status`,`number`);