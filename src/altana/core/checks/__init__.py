"""What is to be known about a picture before the client sees it."""
