ALTER TABLE `tasks` ADD `late` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `timers` ADD `failures` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `timers` ADD `fault` varchar(300);--> statement-breakpoint
ALTER TABLE `timers` ADD `next_try` bigint DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `tasks_late` ON `tasks` (`late`,`open`);--> statement-breakpoint
CREATE INDEX `timers_failing` ON `timers` (`failures`);--> statement-breakpoint
UPDATE `tasks` JOIN `requests` ON `requests`.`id` = `tasks`.`request` SET `tasks`.`late` = true WHERE `tasks`.`open` AND JSON_CONTAINS(JSON_EXTRACT(`requests`.`state`, '$.tasks'), JSON_OBJECT('id', `tasks`.`id`, 'late', true));
