CREATE TABLE `accounts` (
	`person` varchar(40) NOT NULL,
	`password_hash` varchar(200),
	`rights` longtext NOT NULL,
	`card` int,
	`card_words` varchar(200),
	CONSTRAINT `accounts_person` PRIMARY KEY(`person`)
);
--> statement-breakpoint
CREATE TABLE `calendars` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`builds_on` varchar(40),
	CONSTRAINT `calendars_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `commands` (
	`id` char(36) NOT NULL,
	`actor` varchar(40) NOT NULL,
	`request` varchar(40) NOT NULL,
	`version` int NOT NULL,
	CONSTRAINT `commands_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `covers` (
	`person` varchar(40) NOT NULL,
	`covered_by` varchar(40) NOT NULL,
	`from_day` char(10) NOT NULL,
	`to_day` char(10) NOT NULL,
	CONSTRAINT `covers_person_from_day_pk` PRIMARY KEY(`person`,`from_day`)
);
--> statement-breakpoint
CREATE TABLE `departments` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`head` varchar(40),
	CONSTRAINT `departments_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `events` (
	`request` varchar(40) NOT NULL,
	`seq` int NOT NULL,
	`at` char(20) NOT NULL,
	`actor` varchar(40),
	`kind` varchar(20) NOT NULL,
	`body` longtext NOT NULL,
	CONSTRAINT `events_request_seq_pk` PRIMARY KEY(`request`,`seq`)
);
--> statement-breakpoint
CREATE TABLE `holdings` (
	`post` varchar(40) NOT NULL,
	`person` varchar(40) NOT NULL,
	`from_day` char(10) NOT NULL,
	`to_day` char(10),
	`main` boolean NOT NULL,
	CONSTRAINT `holdings_post_person_from_day_pk` PRIMARY KEY(`post`,`person`,`from_day`)
);
--> statement-breakpoint
CREATE TABLE `holidays` (
	`calendar` varchar(40) NOT NULL,
	`date` char(10) NOT NULL,
	`part` varchar(3) NOT NULL,
	`name` varchar(200) NOT NULL,
	CONSTRAINT `holidays_calendar_date_part_pk` PRIMARY KEY(`calendar`,`date`,`part`)
);
--> statement-breakpoint
CREATE TABLE `house` (
	`id` int NOT NULL,
	`now` char(20),
	`directory_version` int NOT NULL,
	CONSTRAINT `house_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `leave_adjustments` (
	`id` int AUTO_INCREMENT NOT NULL,
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`date` char(10) NOT NULL,
	`amount` double NOT NULL,
	`reason` varchar(500) NOT NULL,
	CONSTRAINT `leave_adjustments_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `leave_entries` (
	`request` varchar(40) NOT NULL,
	`person` varchar(40) NOT NULL,
	`type` varchar(40) NOT NULL,
	`state` varchar(6) NOT NULL,
	`first_day` char(10) NOT NULL,
	`last_day` char(10) NOT NULL,
	`span` longtext NOT NULL,
	`planner` boolean NOT NULL,
	CONSTRAINT `leave_entries_request` PRIMARY KEY(`request`)
);
--> statement-breakpoint
CREATE TABLE `leave_plans` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`unit` varchar(5) NOT NULL,
	`rules` longtext NOT NULL,
	CONSTRAINT `leave_plans_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `leave_types` (
	`id` varchar(40) NOT NULL,
	`position` int NOT NULL,
	`rules` longtext NOT NULL,
	CONSTRAINT `leave_types_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `outbox` (
	`id` int AUTO_INCREMENT NOT NULL,
	`message_key` varchar(150) NOT NULL,
	`payload` longtext NOT NULL,
	`state` varchar(7) NOT NULL,
	`attempts` int NOT NULL,
	`next_try` bigint NOT NULL,
	`written_at` char(20) NOT NULL,
	CONSTRAINT `outbox_id` PRIMARY KEY(`id`),
	CONSTRAINT `outbox_key` UNIQUE(`message_key`)
);
--> statement-breakpoint
CREATE TABLE `patterns` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`anchor` char(10) NOT NULL,
	`cycle` longtext NOT NULL,
	CONSTRAINT `patterns_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `people` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`mail` varchar(200) NOT NULL,
	`joined` char(10) NOT NULL,
	`left_on` char(10),
	`dotted_to` varchar(40),
	CONSTRAINT `people_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `person_records` (
	`person` varchar(40) NOT NULL,
	`from_day` char(10) NOT NULL,
	`place` varchar(40) NOT NULL,
	`department` varchar(40) NOT NULL,
	`pattern` varchar(40) NOT NULL,
	`fte` double NOT NULL,
	`plan` varchar(40),
	CONSTRAINT `person_records_person_from_day_pk` PRIMARY KEY(`person`,`from_day`)
);
--> statement-breakpoint
CREATE TABLE `places` (
	`id` varchar(40) NOT NULL,
	`name` varchar(200) NOT NULL,
	`zone` varchar(80) NOT NULL,
	`calendar` varchar(40) NOT NULL,
	CONSTRAINT `places_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `post_lines` (
	`post` varchar(40) NOT NULL,
	`from_day` char(10) NOT NULL,
	`reports_to` varchar(40),
	CONSTRAINT `post_lines_post_from_day_pk` PRIMARY KEY(`post`,`from_day`)
);
--> statement-breakpoint
CREATE TABLE `posts` (
	`id` varchar(40) NOT NULL,
	`title` varchar(200) NOT NULL,
	`department` varchar(40) NOT NULL,
	`place` varchar(40) NOT NULL,
	CONSTRAINT `posts_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `request_drafts` (
	`person` varchar(40) NOT NULL,
	`workflow` varchar(40) NOT NULL,
	`answers` longtext NOT NULL,
	`saved_at` char(20) NOT NULL,
	CONSTRAINT `request_drafts_person_workflow_pk` PRIMARY KEY(`person`,`workflow`)
);
--> statement-breakpoint
CREATE TABLE `requests` (
	`number` int AUTO_INCREMENT NOT NULL,
	`id` varchar(40),
	`workflow` varchar(40) NOT NULL,
	`workflow_version` int NOT NULL,
	`asker` varchar(40) NOT NULL,
	`status` varchar(10) NOT NULL,
	`closing` varchar(40),
	`title` varchar(300) NOT NULL,
	`asked_at` char(20) NOT NULL,
	`closed_at` char(20),
	`state` longtext NOT NULL,
	CONSTRAINT `requests_number` PRIMARY KEY(`number`),
	CONSTRAINT `request_id` UNIQUE(`id`)
);
--> statement-breakpoint
CREATE TABLE `roles` (
	`role` varchar(80) NOT NULL,
	`person` varchar(40) NOT NULL,
	CONSTRAINT `roles_role_person_pk` PRIMARY KEY(`role`,`person`)
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`token_hash` char(64) NOT NULL,
	`person` varchar(40) NOT NULL,
	`expires` bigint NOT NULL,
	CONSTRAINT `sessions_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `tasks` (
	`id` varchar(40) NOT NULL,
	`request` varchar(40) NOT NULL,
	`holder` varchar(40) NOT NULL,
	`open` boolean NOT NULL,
	CONSTRAINT `tasks_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `timers` (
	`timer_key` varchar(80) NOT NULL,
	`request` varchar(40) NOT NULL,
	`task` varchar(40) NOT NULL,
	`what` varchar(6) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `timers_timer_key` PRIMARY KEY(`timer_key`)
);
--> statement-breakpoint
CREATE TABLE `workflow_versions` (
	`workflow` varchar(40) NOT NULL,
	`version` int NOT NULL,
	`definition` longtext NOT NULL,
	`published_at` char(20) NOT NULL,
	`published_by` varchar(40) NOT NULL,
	`comment` varchar(500) NOT NULL,
	CONSTRAINT `workflow_versions_workflow_version_pk` PRIMARY KEY(`workflow`,`version`)
);
--> statement-breakpoint
CREATE TABLE `workflows` (
	`id` varchar(40) NOT NULL,
	`position` int NOT NULL,
	`live_version` int,
	`draft` longtext,
	`draft_revision` int NOT NULL,
	`draft_saved_at` char(20),
	`draft_saved_by` varchar(40),
	CONSTRAINT `workflows_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `events_of_actor` ON `events` (`actor`,`at`);--> statement-breakpoint
CREATE INDEX `adjustments_of_person` ON `leave_adjustments` (`person`);--> statement-breakpoint
CREATE INDEX `entries_of_person` ON `leave_entries` (`person`,`last_day`);--> statement-breakpoint
CREATE INDEX `entries_by_day` ON `leave_entries` (`last_day`,`first_day`);--> statement-breakpoint
CREATE INDEX `outbox_waiting` ON `outbox` (`state`,`next_try`);--> statement-breakpoint
CREATE INDEX `requests_of_asker` ON `requests` (`asker`,`number`);--> statement-breakpoint
CREATE INDEX `requests_of_workflow` ON `requests` (`workflow`,`status`);--> statement-breakpoint
CREATE INDEX `sessions_by_expiry` ON `sessions` (`expires`);--> statement-breakpoint
CREATE INDEX `tasks_of_holder` ON `tasks` (`holder`,`open`);--> statement-breakpoint
CREATE INDEX `tasks_of_request` ON `tasks` (`request`);--> statement-breakpoint
CREATE INDEX `timers_by_time` ON `timers` (`at`);