"""Small pictures beside words: steps of fitting, cards of upkeep, the course of an outlet, what a logger logged."""
