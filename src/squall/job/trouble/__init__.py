"""What is wrong with the chosen kit: the kit as Fault's chain, what was typed of a search, and what it comes to."""
