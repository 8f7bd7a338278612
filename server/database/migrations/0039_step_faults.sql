CREATE TABLE `step_faults` (
	`request` varchar(40) NOT NULL,
	`version` int NOT NULL,
	`step` varchar(40) NOT NULL,
	`actor` varchar(40) NOT NULL,
	`command` longtext NOT NULL,
	`fault` varchar(300) NOT NULL,
	`at` char(20) NOT NULL,
	CONSTRAINT `step_faults_request` PRIMARY KEY(`request`)
);
