ALTER TABLE `roles` ADD `place` varchar(40) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `roles` ADD `department` varchar(40) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `roles` DROP PRIMARY KEY, ADD PRIMARY KEY(`role`,`person`,`place`,`department`);