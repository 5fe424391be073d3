"""The Model desk: objects, problems, reload, coverage."""
