-- Ways to be paid have one name each: what set-up called "in-person" is "person" in the till.
UPDATE sites SET set_up = replace(set_up, '"in-person"', '"person"') WHERE set_up LIKE '%"in-person"%';
