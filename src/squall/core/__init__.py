"""The job's physics and judgement: pure Python, SI units, no files, no web, no database."""
