"""A kit as a graph of parts between named nodes, solved for direct current."""
