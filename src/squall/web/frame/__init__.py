"""What the pages of a job share."""
