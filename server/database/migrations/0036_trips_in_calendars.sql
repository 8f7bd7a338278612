ALTER TABLE `planner_lines` ADD `sequence` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `planner_lines` ADD `gone` boolean DEFAULT false NOT NULL;