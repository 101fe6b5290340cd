-- What a household adds to the pantry. Never deleted: formulas hold their ids.
CREATE TABLE household_ingredients (
    id TEXT PRIMARY KEY NOT NULL,
    body TEXT NOT NULL CHECK (json_valid (body))
) STRICT;

CREATE TABLE household_pans (
    id TEXT PRIMARY KEY NOT NULL,
    body TEXT NOT NULL CHECK (json_valid (body))
) STRICT;
