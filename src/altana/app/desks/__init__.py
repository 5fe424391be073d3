"""The desks: Compose and Walk."""
