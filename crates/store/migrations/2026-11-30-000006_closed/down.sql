DROP TRIGGER bake_events_close;
DROP INDEX bakes_by_closed;
DROP INDEX bakes_in_order;
CREATE INDEX bakes_by_time ON bakes (made_ms DESC);
ALTER TABLE bakes DROP COLUMN closed;
