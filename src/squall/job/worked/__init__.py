"""What follows from a job, worked out once."""
