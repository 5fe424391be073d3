"""The Compose desk: standing, aiming and framing cameras."""
