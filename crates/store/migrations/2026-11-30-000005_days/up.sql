-- Breads planned for one day together: they share its id.
ALTER TABLE bakes ADD COLUMN day TEXT;
CREATE INDEX bakes_by_day ON bakes (day) WHERE day IS NOT NULL;
