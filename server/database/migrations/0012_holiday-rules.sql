ALTER TABLE `calendars` ADD `rules` longtext;--> statement-breakpoint
ALTER TABLE `leave_entries` ADD `reason` varchar(1000);