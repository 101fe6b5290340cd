DROP INDEX bakes_by_day;
ALTER TABLE bakes DROP COLUMN day;
