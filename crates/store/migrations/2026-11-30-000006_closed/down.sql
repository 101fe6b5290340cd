DROP TRIGGER bake_events_close;
DROP INDEX bakes_by_closed;
ALTER TABLE bakes DROP COLUMN closed;
