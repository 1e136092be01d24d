"""Shape: change the outline before anything else."""
