ALTER TABLE `people` ADD `number` varchar(40);--> statement-breakpoint
ALTER TABLE `person_records` ADD `cost_centre` varchar(40);