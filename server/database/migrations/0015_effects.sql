CREATE TABLE `connections` (
	`name` varchar(60) NOT NULL,
	`kind` varchar(20) NOT NULL,
	`settings` longtext NOT NULL,
	`paused` boolean NOT NULL DEFAULT false,
	CONSTRAINT `connections_name` PRIMARY KEY(`name`)
);
--> statement-breakpoint
CREATE TABLE `effects` (
	`id` int AUTO_INCREMENT NOT NULL,
	`effect_key` varchar(150) NOT NULL,
	`connection` varchar(60) NOT NULL DEFAULT 'mail',
	`action` varchar(40) NOT NULL DEFAULT 'letter',
	`request` varchar(40),
	`step` varchar(40),
	`target` varchar(100),
	`payload` longtext NOT NULL,
	`state` varchar(9) NOT NULL,
	`attempts` int NOT NULL,
	`next_try` bigint NOT NULL,
	`written_at` char(20) NOT NULL,
	`fault` varchar(500),
	`result` longtext,
	`done_at` bigint,
	`not_before` char(20),
	`until_day` char(10),
	`undoes` varchar(150),
	`person` varchar(40),
	`daily` boolean NOT NULL DEFAULT false,
	`claimed_by` char(36),
	CONSTRAINT `effects_id` PRIMARY KEY(`id`),
	CONSTRAINT `effect_key` UNIQUE(`effect_key`)
);
--> statement-breakpoint
CREATE TABLE `planner_lines` (
	`line_key` varchar(150) NOT NULL,
	`request` varchar(40) NOT NULL,
	`step` varchar(40) NOT NULL,
	`person` varchar(40) NOT NULL,
	`first_day` char(10) NOT NULL,
	`last_day` char(10) NOT NULL,
	`label` varchar(200) NOT NULL,
	CONSTRAINT `planner_lines_line_key` PRIMARY KEY(`line_key`)
);
--> statement-breakpoint
INSERT INTO `effects` (`id`, `effect_key`, `request`, `payload`, `state`, `attempts`, `next_try`, `written_at`, `not_before`, `person`, `daily`, `claimed_by`)
SELECT `id`, `message_key`, IF(`message_key` REGEXP '^R-[0-9]+:', SUBSTRING_INDEX(`message_key`, ':', 1), NULL), `payload`,
	CASE `state` WHEN 'sent' THEN 'delivered' WHEN 'unsent' THEN 'unwanted' ELSE 'waiting' END,
	`attempts`, `next_try`, `written_at`, `not_before`, `person`, `daily`, `claimed_by` FROM `outbox`;--> statement-breakpoint
INSERT INTO `effects` (`effect_key`, `connection`, `action`, `request`, `target`, `payload`, `state`, `attempts`, `next_try`, `written_at`, `until_day`)
SELECT `effect_key`, JSON_VALUE(`body`, '$.connection'), JSON_VALUE(`body`, '$.action'), `request`, `request`,
	JSON_OBJECT('values', JSON_EXTRACT(`body`, '$.values')), 'waiting', 0, 0, `at`, JSON_VALUE(`body`, '$.undoOn')
FROM `described_effects` WHERE `kind` = 'provision';--> statement-breakpoint
INSERT INTO `planner_lines` (`line_key`, `request`, `step`, `person`, `first_day`, `last_day`, `label`)
SELECT `effect_key`, `request`, '', JSON_VALUE(`body`, '$.person'), JSON_VALUE(`body`, '$.from'), JSON_VALUE(`body`, '$.to'), JSON_VALUE(`body`, '$.label')
FROM `described_effects` WHERE `kind` = 'planner';--> statement-breakpoint
DROP TABLE `described_effects`;--> statement-breakpoint
DROP TABLE `outbox`;--> statement-breakpoint
ALTER TABLE `requests` ADD `opened_by` varchar(40);--> statement-breakpoint
ALTER TABLE `requests` ADD `opened_key` varchar(150);--> statement-breakpoint
ALTER TABLE `workflows` CHANGE COLUMN `keepers` `permissions` longtext;--> statement-breakpoint
CREATE INDEX `effects_waiting` ON `effects` (`connection`,`state`,`next_try`);--> statement-breakpoint
CREATE INDEX `effects_of_target` ON `effects` (`connection`,`target`,`state`,`id`);--> statement-breakpoint
CREATE INDEX `effects_of_request` ON `effects` (`request`,`state`);--> statement-breakpoint
CREATE INDEX `effects_done` ON `effects` (`state`,`done_at`);--> statement-breakpoint
CREATE INDEX `lines_of_person` ON `planner_lines` (`person`,`last_day`);--> statement-breakpoint
CREATE INDEX `lines_of_request` ON `planner_lines` (`request`);