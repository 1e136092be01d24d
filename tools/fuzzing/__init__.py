"""Random requests and damaged files, sent to a running studio."""
