DROP TABLE kitchen;
DROP TABLE bake_events;
DROP TABLE bakes;
DROP TABLE formula_versions;
DROP TABLE formulas;
