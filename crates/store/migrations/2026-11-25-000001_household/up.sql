-- Times are milliseconds UTC. Bodies are JSON with a version "v" inside. Columns beside a body are
-- copies for searching and can be rebuilt from it.
CREATE TABLE formulas (
    id TEXT PRIMARY KEY NOT NULL,
    name TEXT NOT NULL,
    retired_ms INTEGER
) STRICT;

CREATE TABLE formula_versions (
    formula_id TEXT NOT NULL REFERENCES formulas (id),
    version INTEGER NOT NULL CHECK (version >= 1),
    body TEXT NOT NULL CHECK (json_valid (body)),
    saved_ms INTEGER NOT NULL,
    style TEXT NOT NULL,
    flour_g REAL NOT NULL,
    PRIMARY KEY (formula_id, version)
) STRICT;

CREATE TABLE bakes (
    id TEXT PRIMARY KEY NOT NULL,
    name TEXT NOT NULL,
    style TEXT NOT NULL,
    formula TEXT NOT NULL CHECK (json_valid (formula)),
    plan TEXT NOT NULL CHECK (json_valid (plan)),
    made_ms INTEGER NOT NULL
) STRICT;

CREATE INDEX bakes_by_time ON bakes (made_ms DESC);

CREATE TABLE bake_events (
    bake_id TEXT NOT NULL REFERENCES bakes (id),
    seq INTEGER NOT NULL CHECK (seq >= 1),
    at_ms INTEGER NOT NULL,
    kind TEXT NOT NULL,
    body TEXT NOT NULL CHECK (json_valid (body)),
    idempotency_key TEXT,
    PRIMARY KEY (bake_id, seq)
) STRICT;

CREATE UNIQUE INDEX bake_events_by_key ON bake_events (bake_id, idempotency_key) WHERE idempotency_key IS NOT NULL;

-- The log only grows.
CREATE TRIGGER bake_events_stay BEFORE UPDATE ON bake_events BEGIN SELECT RAISE (ABORT, 'the log only grows'); END;
CREATE TRIGGER bake_events_remain BEFORE DELETE ON bake_events BEGIN SELECT RAISE (ABORT, 'the log only grows'); END;

CREATE TABLE kitchen (
    id INTEGER PRIMARY KEY NOT NULL CHECK (id = 1),
    body TEXT NOT NULL CHECK (json_valid (body))
) STRICT;
