CREATE TABLE `review_items` (
	`id` int AUTO_INCREMENT NOT NULL,
	`review` int NOT NULL,
	`group_name` varchar(200) NOT NULL,
	`account` varchar(200) NOT NULL,
	`person` varchar(40),
	`name` varchar(200) NOT NULL,
	`request` varchar(40),
	`last_used` varchar(40),
	`reviewer` varchar(40) NOT NULL,
	`before` varchar(40),
	`due` char(10) NOT NULL,
	`answer` varchar(6),
	`note` varchar(500),
	`answered_by` varchar(40),
	`answered_at` char(20),
	CONSTRAINT `review_items_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `reviews` (
	`id` int AUTO_INCREMENT NOT NULL,
	`connection` varchar(60) NOT NULL,
	`group_names` longtext NOT NULL,
	`by_whom` varchar(8) NOT NULL,
	`unanswered` varchar(8) NOT NULL,
	`due` char(10) NOT NULL,
	`started_by` varchar(40) NOT NULL,
	`started_at` char(20) NOT NULL,
	`ended_at` char(20),
	CONSTRAINT `reviews_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `items_of_review` ON `review_items` (`review`);--> statement-breakpoint
CREATE INDEX `items_of_reviewer` ON `review_items` (`reviewer`,`answer`);