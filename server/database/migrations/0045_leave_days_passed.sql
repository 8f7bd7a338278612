-- Leave that is asked for is looked at on the day after its last day; what was asked for before this was known of is looked at once.
INSERT INTO `timers` (`timer_key`, `request`, `task`, `what`, `at`)
SELECT concat(`request`, ':leave'), `request`, 'leave', 'leave', '2000-01-01T00:00:00Z' FROM `leave_entries` WHERE `state` = 'held';
