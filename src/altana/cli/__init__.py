"""The command line: one module a subcommand, on the same core and jobs as the window."""
