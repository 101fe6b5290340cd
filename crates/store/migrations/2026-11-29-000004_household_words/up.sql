-- What the household calls things: a word of its own for an ingredient, found by its folded form.
CREATE TABLE household_words (
    word TEXT PRIMARY KEY NOT NULL CHECK (length(word) BETWEEN 1 AND 60),
    said TEXT NOT NULL,
    ingredient TEXT NOT NULL
) STRICT;
