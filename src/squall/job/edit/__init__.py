"""The larger changes of a job."""
