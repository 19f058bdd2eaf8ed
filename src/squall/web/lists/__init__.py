"""Pages beside a job: the lists, the sums, the preferences."""
