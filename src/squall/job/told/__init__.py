"""What pages and sheets tell of a job, a module a stage."""
