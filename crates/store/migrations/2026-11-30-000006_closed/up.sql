-- Whether a bake is over: sliced, and nothing taken back. Kept by the log itself, so that the few that may be going on are found
-- without a look at every bake there was.
ALTER TABLE bakes ADD COLUMN closed INTEGER NOT NULL DEFAULT 0 CHECK (closed IN (0, 1));

UPDATE bakes SET closed = EXISTS (SELECT 1 FROM bake_events e WHERE e.bake_id = bakes.id AND e.kind = 'sliced')
    AND NOT EXISTS (SELECT 1 FROM bake_events e WHERE e.bake_id = bakes.id AND e.kind = 'undo');

-- The whole order of the logbook: a page far back is found without reading the bakes before it.
DROP INDEX bakes_by_time;
CREATE INDEX bakes_in_order ON bakes (made_ms DESC, id DESC);
CREATE INDEX bakes_by_closed ON bakes (closed, made_ms DESC, id DESC);

CREATE TRIGGER bake_events_close AFTER INSERT ON bake_events WHEN NEW.kind IN ('sliced', 'undo')
BEGIN
    UPDATE bakes SET closed = EXISTS (SELECT 1 FROM bake_events e WHERE e.bake_id = NEW.bake_id AND e.kind = 'sliced')
        AND NOT EXISTS (SELECT 1 FROM bake_events e WHERE e.bake_id = NEW.bake_id AND e.kind = 'undo')
    WHERE id = NEW.bake_id;
END;
