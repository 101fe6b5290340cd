DROP TABLE household_pans;
DROP TABLE household_ingredients;
