DROP TABLE leaven_events;
DROP TABLE leavens;
