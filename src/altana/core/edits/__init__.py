"""Every change to a project: pure functions from one Project to the next."""
