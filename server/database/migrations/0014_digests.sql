ALTER TABLE `commands` ADD `digest` char(64);--> statement-breakpoint
ALTER TABLE `workflows` ADD `found` longtext;