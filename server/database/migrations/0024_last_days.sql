ALTER TABLE `effects` ADD `undo_at` char(20);--> statement-breakpoint
-- What waited for the beginning of its last day waits for the end of it.
UPDATE `effects` SET `not_before` = CONCAT(DATE_ADD(LEFT(`not_before`, 10), INTERVAL 1 DAY), 'T00:00:00Z')
WHERE `undoes` IS NOT NULL AND `state` = 'waiting' AND `not_before` LIKE '%T00:00:00Z';
