"""The job as it is typed: the document and its fields."""
