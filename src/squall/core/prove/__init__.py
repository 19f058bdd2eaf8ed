"""What a test point should read, and what a reading means."""
