"""The pages: FastAPI routes, one module a stage, templates beside them in the same order."""
