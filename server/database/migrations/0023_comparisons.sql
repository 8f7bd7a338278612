CREATE TABLE `comparisons` (
	`connection` varchar(60) NOT NULL,
	`state` varchar(7) NOT NULL,
	`started_at` char(20) NOT NULL,
	`done_at` char(20),
	`beat` bigint NOT NULL,
	`read_count` int NOT NULL DEFAULT 0,
	`total` int NOT NULL DEFAULT 0,
	`fault` varchar(500),
	`found` longtext NOT NULL,
	`more` int NOT NULL DEFAULT 0,
	CONSTRAINT `comparisons_connection` PRIMARY KEY(`connection`)
);
