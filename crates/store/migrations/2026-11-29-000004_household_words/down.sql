DROP TABLE household_words;
