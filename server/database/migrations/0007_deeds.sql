DROP INDEX `events_of_actor` ON `events`;--> statement-breakpoint
CREATE INDEX `events_of_actor` ON `events` (`actor`,`at`,`kind`);