"""What is wrong with a kit: causes as changes of its chain, what each would make every check read, and what to look at next."""
