DROP INDEX `requests_of_asker` ON `requests`;--> statement-breakpoint
DROP INDEX `requests_of_subject` ON `requests`;--> statement-breakpoint
CREATE INDEX `timers_of_task` ON `timers` (`task`);--> statement-breakpoint
CREATE INDEX `requests_of_asker` ON `requests` (`asker`,`status`,`number`);--> statement-breakpoint
CREATE INDEX `requests_of_subject` ON `requests` (`subject`,`status`,`number`);