"""The data folder: the database file and how it is opened, its copies, and the pictures that lie beside it."""
