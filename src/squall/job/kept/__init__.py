"""A kit with its owner: what it is offered for, what stands for now, its first day, its upkeep."""
