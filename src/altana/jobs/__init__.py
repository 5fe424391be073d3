"""Long work: opening models in a child process, light, pictures and films with progress and resume."""
