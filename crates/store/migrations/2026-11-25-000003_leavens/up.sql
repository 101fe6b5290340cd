-- The jars of the house and what happened to each. As with bakes, the log only grows.
CREATE TABLE leavens (
    id TEXT PRIMARY KEY NOT NULL,
    body TEXT NOT NULL CHECK (json_valid (body)),
    made_ms INTEGER NOT NULL,
    retired_ms INTEGER
) STRICT;

CREATE TABLE leaven_events (
    leaven_id TEXT NOT NULL REFERENCES leavens (id),
    seq INTEGER NOT NULL CHECK (seq >= 1),
    at_ms INTEGER NOT NULL,
    kind TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid (body)),
    idempotency_key TEXT,
    PRIMARY KEY (leaven_id, seq)
) STRICT;

CREATE UNIQUE INDEX leaven_events_key ON leaven_events (leaven_id, idempotency_key) WHERE idempotency_key IS NOT NULL;

CREATE TRIGGER leaven_events_stay BEFORE UPDATE ON leaven_events
BEGIN
    SELECT RAISE (ABORT, 'the log only grows');
END;

CREATE TRIGGER leaven_events_keep BEFORE DELETE ON leaven_events
BEGIN
    SELECT RAISE (ABORT, 'the log only grows');
END;
